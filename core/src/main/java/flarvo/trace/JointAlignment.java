package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;

/**
 * Corrects the places of a feature after it was followed: each frame is fitted again, to the mean
 * of all frames (joint alignment; Learned-Miller, "Data driven image models through continuous
 * joint alignment", 2006). While a feature is followed, it is compared with one earlier frame, and
 * what that is off by stays in all later places; the mean has less grain and no such history. Holds
 * what it works with, so each thread has its own.
 */
final class JointAlignment {

  /** Frames that are enough for a mean. */
  private static final int FEWEST = 5;

  private static final int PASSES = 3;

  /** Rounds of a fit in the first pass; a later one starts where the one before ended. */
  private static final int ROUNDS = 2;

  /**
   * Standard deviation of what a shape may differ by from the one it was followed with, in pixels
   * at its border.
   */
  private static final double FOLLOWED_PX = 0.2;

  /** The same from the shapes of the frames beside it. */
  private static final double SMOOTHED_PX = 0.06;

  /** Frames to each side over which shapes are smoothed. */
  private static final int BESIDE = 8;

  /** Correlation with the mean. */
  private static final double LEAST_ALIKE = 0.7;

  /** How far a place may be corrected, in pixels. */
  private static final double MOST_MOVED = 1;

  /** Frames of a feature that are aligned together, if the memory is enough. */
  private static final int MOST = 64;

  private static final int FEWEST_AT_ONCE = 16;

  /** Bytes of pixels that all features may keep together. */
  private static final long MEMORY = 300_000_000;

  /** Frames that two alignments share, at most, and how much the shape changes in them. */
  private static final int SHARED = 12;

  private static final double SHARED_REACH = 1.2;

  private final MeanPattern mean;
  private final GrayF32 picture; // pixels of the sighting at hand
  private final Pattern pattern;
  private final ShapeEstimate shape = new ShapeEstimate();
  private final LocalParabola parabola = new LocalParabola();

  /**
   * @param radius of a pattern
   */
  JointAlignment(int radius) {
    mean = new MeanPattern(radius);
    int side = 2 * Sighting.reach(radius) + 1;
    picture = new GrayF32(side, side);
    pattern = new Pattern(radius);
  }

  /** Frames of a feature that are aligned together. */
  static int most(TraceOptions o) {
    long room = MEMORY / (o.features() * Sighting.bytes(o.radius()));
    return (int) Math.max(FEWEST_AT_ONCE, Math.min(MOST, room));
  }

  /**
   * Whether a feature is to be aligned: it has ended, or was seen on so many frames, or its shape
   * has changed so much that the pixels that are kept soon do not reach far enough.
   */
  static boolean isDue(Feature f, int most) {
    List<Sighting> s = f.sightings();
    return f.ended
        || s.size() >= most
        || s.size() > 1 && Shapes.reach(s.get(0).warp, s.get(s.size() - 1).warp) > Sighting.REACH;
  }

  /**
   * Corrects the places of a feature that are not corrected yet, and drops those that do not fit
   * the mean. Of one that is still followed, the last sightings are kept to go on from.
   */
  void align(Feature f) {
    List<Sighting> all = f.sightings();
    all.sort(Comparator.comparingInt(Sighting::frame));
    Sighting[] seen = all.toArray(new Sighting[0]);
    double[][] warps = new double[seen.length][];
    if (seen.length >= FEWEST && align(seen, warps)) {
      settle(f, seen, warps);
    }
    all.removeIf(s -> f.isDropped(s.row()));
    all.forEach(s -> s.settled = true);
    int first = all.size();
    while (!f.ended
        && first > 0
        && all.size() - first < SHARED
        && Shapes.reach(all.get(first - 1).warp, all.get(all.size() - 1).warp) < SHARED_REACH) {
      first--;
    }
    all.subList(0, first).clear();
  }

  /**
   * Aligns them all.
   *
   * @param warps are set to the places and shapes, by that of the middle one; null for a frame that
   *     does not fit the others
   * @return false where too few fit
   */
  private boolean align(Sighting[] seen, double[][] warps) {
    double[] middle = Shapes.inverse(seen[seen.length / 2].warp);
    double[] scores = new double[seen.length];
    for (int i = 0; i < seen.length; i++) {
      warps[i] = seen[i].warp.clone();
      Shapes.multiply(seen[i].warp, middle, warps[i]);
      scores[i] = seen[i].score;
    }
    mean.clear();
    for (int i = 0; i < seen.length; i++) {
      seen[i].pixels(picture);
      add(seen[i], warps[i]);
    }
    double[][] shapes = warps;
    for (int pass = 0; pass < PASSES; pass++) {
      if (mean.count() < FEWEST || !mean.take(pattern)) {
        return false;
      }
      mean.clear();
      double px = pass == 0 ? FOLLOWED_PX : SMOOTHED_PX;
      for (int i = 0; i < seen.length; i++) {
        if (warps[i] == null) {
          continue;
        }
        double[] w = shapes[i].clone();
        w[0] = warps[i][0];
        w[1] = warps[i][1];
        seen[i].pixels(picture);
        int rounds = pass == 0 ? ROUNDS : 1;
        double score = fit(seen[i], w, rounds, scores[i], px);
        double moved = Math.hypot(w[0] - seen[i].warp[0], w[1] - seen[i].warp[1]);
        warps[i] = score >= LEAST_ALIKE && moved <= MOST_MOVED ? w : null;
        scores[i] = score;
        if (warps[i] != null && pass < PASSES - 1) {
          add(seen[i], w);
        }
      }
      shapes = smoothed(seen, warps);
    }
    return true;
  }

  private void add(Sighting s, double[] w) {
    if (s.holds(w, mean.reach())) {
      mean.add(picture, w[0] - s.left(), w[1] - s.top(), w);
    }
  }

  private double fit(Sighting s, double[] w, int rounds, double before, double changePx) {
    w[0] -= s.left();
    w[1] -= s.top();
    shape.setExact();
    Pattern p = s.within(pattern, w);
    double score =
        p == null ? Double.NaN : p.fit(picture, w, rounds, p.error(before), shape, changePx);
    w[0] += s.left();
    w[1] += s.top();
    return score;
  }

  /** Shapes of the frames by a parabola through those beside them, the nearer the heavier. */
  private double[][] smoothed(Sighting[] seen, double[][] warps) {
    double[][] out = new double[seen.length][];
    for (int i = 0; i < seen.length; i++) {
      if (warps[i] != null) {
        out[i] = smoothed(seen, warps, i);
      }
    }
    return out;
  }

  private double[] smoothed(Sighting[] seen, double[][] warps, int i) {
    double[] out = warps[i].clone();
    parabola.clear();
    for (int j = 0; j < seen.length; j++) {
      double t = seen[j].frame() - seen[i].frame();
      parabola.add(t, weight(t, warps[j]));
    }
    if (!parabola.solve()) {
      return out;
    }
    Arrays.fill(out, 2, Pattern.WARP, 0);
    for (int j = 0; j < seen.length; j++) {
      double t = seen[j].frame() - seen[i].frame();
      double share = parabola.share(t, weight(t, warps[j]));
      for (int p = 2; p < Pattern.WARP && share != 0; p++) {
        out[p] += share * warps[j][p];
      }
    }
    return out;
  }

  private static double weight(double frames, double[] warp) {
    return warp == null ? 0 : Math.max(0, 1 - Math.abs(frames) / (BESIDE + 1));
  }

  /**
   * Moves the places. The mean may mark a point beside that of the mean before: what was settled
   * with that one says by how much.
   */
  private static void settle(Feature f, Sighting[] seen, double[][] warps) {
    double u = 0;
    double v = 0;
    int n = 0;
    for (int i = 0; i < seen.length; i++) {
      if (seen[i].settled && warps[i] != null) {
        double dx = seen[i].warp[0] - warps[i][0];
        double dy = seen[i].warp[1] - warps[i][1];
        double[] back = Shapes.inverse(warps[i]);
        u += back[2] * dx + back[3] * dy;
        v += back[4] * dx + back[5] * dy;
        n++;
      }
    }
    u /= Math.max(1, n);
    v /= Math.max(1, n);
    for (int i = 0; i < seen.length; i++) {
      double[] w = warps[i];
      if (seen[i].settled) {
        continue;
      }
      if (w == null) {
        f.drop(seen[i].row());
      } else {
        seen[i].warp[0] = w[0] + u * w[2] + v * w[3];
        seen[i].warp[1] = w[1] + u * w[4] + v * w[5];
        f.move(seen[i].row(), seen[i].warp[0], seen[i].warp[1]);
      }
    }
  }
}
