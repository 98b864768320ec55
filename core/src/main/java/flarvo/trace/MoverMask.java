package flarvo.trace;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.TreeMap;

/**
 * A mask around something that moves: on a key every few frames the hull of its features, from
 * sixteen sides, with a margin.
 */
public final class MoverMask {

  private static final int SIDES = 16;
  private static final int EVERY = 4;

  private MoverMask() {}

  /**
   * @param o features in pixels of the plates that are masked
   * @param marginPx by which the shape is larger than what was followed
   * @throws InputError when none of its features is there
   */
  public static MaskShape of(Mover mover, Observations o, double marginPx) {
    Observations own = mover.of(o);
    FrameRange frames =
        own.range()
            .orElseThrow(
                () ->
                    InputError.words(
                        "none of the features of " + mover.name() + " is there", "Find it again"));
    TreeMap<Integer, double[]> keys = new TreeMap<>();
    for (int f = frames.first(); f < frames.last(); f += EVERY) {
      key(own, f, marginPx, keys);
    }
    key(own, frames.last(), marginPx, keys);
    return new MaskShape(mover.name(), keys);
  }

  private static void key(Observations o, int frame, double margin, TreeMap<Integer, double[]> to) {
    List<double[]> places = new ArrayList<>();
    for (String n : o.names()) {
      int row = o.row(n, frame);
      if (row >= 0) {
        places.add(new double[] {o.x(row), o.y(row)});
      }
    }
    if (!places.isEmpty()) {
      to.put(frame, round(places, margin));
    }
  }

  /** Where the straight lines that touch the places from neighbouring sides meet. */
  private static double[] round(List<double[]> places, double margin) {
    double[] reach = new double[SIDES];
    Arrays.fill(reach, Double.NEGATIVE_INFINITY);
    for (int s = 0; s < SIDES; s++) {
      double a = 2 * Math.PI * s / SIDES;
      for (double[] p : places) {
        reach[s] = Math.max(reach[s], p[0] * Math.cos(a) + p[1] * Math.sin(a));
      }
      reach[s] += margin;
    }
    double[] out = new double[2 * SIDES];
    double between = 2 * Math.PI / SIDES;
    for (int s = 0; s < SIDES; s++) {
      double a = between * s;
      double along = (reach[(s + 1) % SIDES] - reach[s] * Math.cos(between)) / Math.sin(between);
      out[2 * s] = reach[s] * Math.cos(a) - along * Math.sin(a);
      out[2 * s + 1] = reach[s] * Math.sin(a) + along * Math.cos(a);
    }
    return out;
  }
}
