package flarvo.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalDouble;
import java.util.Set;

/** A named group of solved 3D points; coordinates live in one primitive array. Immutable. */
public final class TrackerSet {

  private final String name;
  private final List<String> names;
  private final double[] xyz;
  private final double marker; // 0 where nobody asked for a size

  private TrackerSet(String name, List<String> names, double[] xyz, double marker) {
    this.name = name;
    this.names = names;
    this.xyz = xyz;
    this.marker = marker;
  }

  /**
   * @param xyz three numbers a tracker; copied
   * @throws IllegalArgumentException when counts differ, a name repeats or a number is not finite
   */
  public static TrackerSet of(String name, List<String> names, double[] xyz) {
    if (xyz.length != 3 * names.size()) {
      throw new IllegalArgumentException(
          names.size() + " names but " + xyz.length + " coordinates");
    }
    Set<String> seen = new HashSet<>();
    for (String n : names) {
      if (!seen.add(n)) {
        throw new IllegalArgumentException("two trackers are named '" + n + "'");
      }
    }
    for (int i = 0; i < xyz.length; i++) {
      if (!Double.isFinite(xyz[i])) {
        throw new IllegalArgumentException(
            "tracker '" + names.get(i / 3) + "' has a coordinate that is not finite");
      }
    }
    return new TrackerSet(name, List.copyOf(names), xyz.clone(), 0);
  }

  public String name() {
    return name;
  }

  public List<String> names() {
    return names;
  }

  /** Number of trackers. */
  public int size() {
    return names.size();
  }

  /** Of tracker {@code i}. */
  public double x(int i) {
    return xyz[3 * i];
  }

  /** Of tracker {@code i}. */
  public double y(int i) {
    return xyz[3 * i + 1];
  }

  /** Of tracker {@code i}. */
  public double z(int i) {
    return xyz[3 * i + 2];
  }

  /** Of tracker {@code i}, in the space of the shot. */
  public Vec3 position(int i) {
    return new Vec3(x(i), y(i), z(i));
  }

  /** A change of every point, such as from one space to another. */
  public TrackerSet map(java.util.function.UnaryOperator<Vec3> change) {
    double[] out = new double[xyz.length];
    for (int i = 0; i < size(); i++) {
      Vec3 v = change.apply(position(i));
      out[3 * i] = v.x();
      out[3 * i + 1] = v.y();
      out[3 * i + 2] = v.z();
    }
    return new TrackerSet(name, names, out, marker);
  }

  /** The group without some of its trackers. */
  public TrackerSet without(Set<String> gone) {
    List<String> stay = new ArrayList<>(names.size());
    double[] out = new double[xyz.length];
    for (int i = 0; i < names.size(); i++) {
      if (!gone.contains(names.get(i))) {
        System.arraycopy(xyz, 3 * i, out, 3 * stay.size(), 3);
        stay.add(names.get(i));
      }
    }
    return new TrackerSet(name, List.copyOf(stay), Arrays.copyOf(out, 3 * stay.size()), marker);
  }

  /** The same under another name. */
  public TrackerSet named(String other) {
    return new TrackerSet(other, names, xyz, marker);
  }

  /**
   * Drawn as large as this by those who draw locators.
   *
   * @param size over zero; in metres, or in a dialect's unit where the set is in a dialect's space
   */
  public TrackerSet withMarker(double size) {
    return new TrackerSet(name, names, xyz, size);
  }

  /** Empty where a size that suits the scene will do. */
  public OptionalDouble marker() {
    return marker > 0 ? OptionalDouble.of(marker) : OptionalDouble.empty();
  }

  /** Middle of the bounding box; the origin when empty. */
  public Vec3 centre() {
    if (size() == 0) {
      return Vec3.ZERO;
    }
    double[] lo = {xyz[0], xyz[1], xyz[2]};
    double[] hi = lo.clone();
    for (int i = 3; i < xyz.length; i++) {
      lo[i % 3] = Math.min(lo[i % 3], xyz[i]);
      hi[i % 3] = Math.max(hi[i % 3], xyz[i]);
    }
    return new Vec3((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof TrackerSet t
        && name.equals(t.name)
        && names.equals(t.names)
        && marker == t.marker
        && Arrays.equals(xyz, t.xyz);
  }

  @Override
  public int hashCode() {
    return 31 * names.hashCode() + Arrays.hashCode(xyz);
  }

  /** Every tracker of some sets by its name; of two alike, the last. May be changed. */
  public static Map<String, Vec3> positions(List<TrackerSet> sets) {
    Map<String, Vec3> out = new HashMap<>();
    for (TrackerSet t : sets) {
      for (int i = 0; i < t.size(); i++) {
        out.put(t.names().get(i), t.position(i));
      }
    }
    return out;
  }
}
