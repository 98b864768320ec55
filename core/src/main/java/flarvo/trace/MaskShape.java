package flarvo.trace;

import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.TreeMap;

/**
 * A drawn shape: a polygon with keys. Between keys its corners move straight; before the first and
 * after the last it stands still. Inside is masked, by the even-odd rule.
 *
 * @param keys corners by plate frame, x, y and so on in canonical pixels; as many in each key
 */
public record MaskShape(String name, NavigableMap<Integer, double[]> keys) implements Mask {

  private static final int FEWEST = 3;
  private static final int MOST = 1000;

  /**
   * @throws IllegalArgumentException when there is no key, or corners are too few or not as many in
   *     each
   */
  public MaskShape {
    TreeMap<Integer, double[]> copy = new TreeMap<>();
    int corners = -1;
    for (Map.Entry<Integer, double[]> e : keys.entrySet()) {
      double[] p = e.getValue().clone();
      if (p.length % 2 != 0 || p.length < 2 * FEWEST || p.length > 2 * MOST) {
        throw new IllegalArgumentException(
            "a shape has " + FEWEST + " to " + MOST + " corners in each key");
      }
      if (corners >= 0 && corners != p.length) {
        throw new IllegalArgumentException("a shape has as many corners in each key");
      }
      if (!Arrays.stream(p).allMatch(Double::isFinite)) {
        throw new IllegalArgumentException("corners are finite");
      }
      corners = p.length;
      copy.put(e.getKey(), p);
    }
    if (copy.isEmpty()) {
      throw new IllegalArgumentException("a shape has a key at least");
    }
    keys = Collections.unmodifiableNavigableMap(copy);
  }

  /** A shape that stands still. */
  public static MaskShape still(String name, double... corners) {
    return new MaskShape(name, new TreeMap<>(Map.of(0, corners)));
  }

  /** Its corners on a frame. */
  public double[] at(int frame) {
    Map.Entry<Integer, double[]> a = keys.floorEntry(frame);
    Map.Entry<Integer, double[]> b = keys.ceilingEntry(frame);
    if (a == null || b == null || a.getKey().equals(b.getKey())) {
      return (a == null ? b : a).getValue().clone();
    }
    double t = (frame - a.getKey()) / (double) (b.getKey() - a.getKey());
    double[] out = new double[a.getValue().length];
    Arrays.setAll(out, i -> a.getValue()[i] + t * (b.getValue()[i] - a.getValue()[i]));
    return out;
  }

  @Override
  public boolean covers(int frame, double x, double y) {
    double[] p = at(frame);
    boolean in = false;
    for (int i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
      boolean across = p[i + 1] > y != p[j + 1] > y;
      if (across && x < p[i] + (y - p[i + 1]) / (p[j + 1] - p[i + 1]) * (p[j] - p[i])) {
        in = !in;
      }
    }
    return in;
  }

  /** All of some shapes. */
  public static Mask all(List<MaskShape> shapes) {
    Mask out = Mask.NONE;
    for (MaskShape s : shapes) {
      out = out.or(s);
    }
    return out;
  }

  @Override
  public boolean equals(Object other) {
    return other instanceof MaskShape m
        && name.equals(m.name)
        && keys.keySet().equals(m.keys.keySet())
        && keys.keySet().stream().allMatch(f -> Arrays.equals(keys.get(f), m.keys.get(f)));
  }

  @Override
  public int hashCode() {
    return 31 * name.hashCode() + keys.keySet().hashCode();
  }
}
