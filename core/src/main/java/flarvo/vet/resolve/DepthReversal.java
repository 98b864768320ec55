package flarvo.vet.resolve;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.PointFit;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import java.util.Arrays;

/**
 * The other solve of something that is small for its distance: seen nearly in parallel, what turns
 * one way with its near side in front looks the same as what turns the other way with its far side
 * in front. With {@code D = diag(1, 1, −1)} in the frame of one camera, about the middle {@code m}
 * of the points,
 *
 * <pre>
 *   X' = m + D (X − m)      R' = D R D      and m stays where each camera sees it
 * </pre>
 *
 * What little perspective there is tells the two apart: both are adjusted, and the better is taken.
 */
final class DepthReversal {

  /**
   * Depth that points spread over, as a share of their distance, from which none mistakes it. The
   * wrong solve of a cart that is 0.2 deep was 0.37 deep.
   */
  private static final double DEEP = 0.8;

  private static final int ROUNDS = 40;

  /**
   * After a few rounds a reversal that is still so much worse is wrong: of seven shots, the two of
   * which it is no solve left ten times as much, the others nearly the same.
   */
  private static final double HOPELESS = 5;

  private static final double HOPELESS_PX = 1;
  private static final int QUICK_ROUNDS = 15;
  private static final double AGREES_PX = 0.5;

  /** What fits worse than the median by this factor does not agree. */
  private static final double STRAY = 3;

  private DepthReversal() {}

  /**
   * The better of a bundle and its reversal, adjusted; the bundle itself where it is deep.
   *
   * @param cameras that stand; the others are not counted
   * @param points that stand
   */
  static Bundle better(
      Bundle b, Tracks t, boolean[] cameras, boolean[] points, AdjustOptions options) {
    int at = middle(cameras);
    Vec3 m = centre(b, points);
    if (at < 0 || m == null || depth(b, at, m, points) > DEEP) {
      return b;
    }
    Bundle as = b.copy();
    Bundle other = reversed(b, at, m);
    double cost = settled(as, t, cameras, points, options);
    BundlePart.adjust(other, t, cameras, points, forgiving(options).withRounds(QUICK_ROUNDS));
    double hopeless = Math.max(HOPELESS_PX, HOPELESS * BundlePart.medianPx(as, t, cameras, points));
    if (BundlePart.medianPx(other, t, cameras, points) > hopeless) {
      return as;
    }
    return settled(other, t, cameras, points, options) < cost ? other : as;
  }

  private static AdjustOptions forgiving(AdjustOptions options) {
    return options.withLoss(RobustLoss.cauchy(0.5)).withTolerance(1e-6);
  }

  /**
   * Adjusts, leaves out what does not agree, and adjusts once more.
   *
   * @return how badly all points fit then; what does not agree counts alike, however far it is
   */
  private static double settled(
      Bundle b, Tracks t, boolean[] cameras, boolean[] points, AdjustOptions options) {
    AdjustOptions o = forgiving(options).withRounds(ROUNDS);
    boolean[] agree = points.clone();
    PointFit fit = new PointFit();
    double cost = 0;
    for (int round = 0; round < 2; round++) {
      BundlePart.adjust(b, t, cameras, agree, o);
      double[] rms = new double[agree.length];
      double[] sorted = new double[agree.length];
      int n = 0;
      for (int j = 0; j < rms.length; j++) {
        rms[j] =
            points[j] && fit.place(b, t, j, cameras, ROUNDS)
                ? fit.rmsPx()
                : Double.POSITIVE_INFINITY;
        if (points[j]) {
          sorted[n++] = rms[j];
        }
      }
      Arrays.sort(sorted, 0, n);
      double most = Math.max(AGREES_PX, STRAY * sorted[n / 2]);
      cost = 0;
      for (int j = 0; j < rms.length; j++) {
        agree[j] = rms[j] < most;
        if (points[j]) {
          cost += t.seen(j) * Math.min(1, rms[j] * rms[j]);
        }
      }
    }
    return cost;
  }

  private static int middle(boolean[] cameras) {
    int n = 0;
    for (boolean c : cameras) {
      n += c ? 1 : 0;
    }
    int seen = 0;
    for (int i = 0; i < cameras.length; i++) {
      if (cameras[i] && seen++ == n / 2) {
        return i;
      }
    }
    return -1;
  }

  private static Vec3 centre(Bundle b, boolean[] points) {
    Vec3 sum = Vec3.ZERO;
    int n = 0;
    for (int j = 0; j < points.length; j++) {
      if (points[j]) {
        sum = sum.plus(b.point(j));
        n++;
      }
    }
    return n == 0 ? null : sum.times(1.0 / n);
  }

  private static double depth(Bundle b, int at, Vec3 m, boolean[] points) {
    double[] d = new double[points.length];
    int n = 0;
    for (int j = 0; j < points.length; j++) {
      if (points[j]) {
        d[n++] = -b.pose(at).toLocal(b.point(j)).z();
      }
    }
    Arrays.sort(d, 0, n);
    double spread = d[(int) (0.9 * (n - 1))] - d[(int) (0.1 * (n - 1))];
    return spread / m.minus(b.pose(at).position()).length();
  }

  private static Bundle reversed(Bundle b, int at, Vec3 m) {
    Bundle out = b.copy();
    Rotation frame = b.pose(at).rotation(); // from the one camera's axes to the world's
    for (int j = 0; j < b.points(); j++) {
      out.setPoint(j, m.plus(mirrored(frame, b.point(j).minus(m))));
    }
    for (int i = 0; i < b.cameras(); i++) {
      Pose p = b.pose(i);
      Rotation turn = frame.inverse().after(p.rotation());
      // D R D turns about the mirrored axis, the other way round.
      Rotation back = new Rotation(turn.w(), -turn.x(), -turn.y(), turn.z());
      Rotation r = frame.after(back);
      Vec3 seen = p.toLocal(m);
      out.setPose(i, new Pose(m.minus(r.apply(seen)), r));
    }
    return out;
  }

  private static Vec3 mirrored(Rotation frame, Vec3 v) {
    Vec3 l = frame.inverse().apply(v);
    return frame.apply(new Vec3(l.x(), l.y(), -l.z()));
  }
}
