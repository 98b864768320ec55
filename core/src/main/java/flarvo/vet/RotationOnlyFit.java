package flarvo.vet;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Adjustment;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.RobustLoss;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A camera that only turns, from 2D tracks alone: turns between neighbouring frames, chained, then
 * adjusted together. How well it fits tells a tripod from a move.
 */
public final class RotationOnlyFit {

  private static final int REWEIGHTED = 8;
  private static final int ROUNDS = 15;

  private RotationOnlyFit() {}

  /**
   * Turns and directions that start an adjustment.
   *
   * @param optics cameras whose optics hold; their poses are not looked at
   */
  public static Bundle start(Bundle optics, Tracks t) {
    Bundle b = optics.copy();
    List<List<int[]>> byCamera = byCamera(t);
    Rotation turn = Rotation.IDENTITY;
    int before = -1;
    for (int i = 0; i < b.cameras(); i++) {
      if (before >= 0 && !byCamera.get(i).isEmpty()) {
        turn = turn.after(step(b, t, byCamera.get(before), byCamera.get(i), before, i));
      }
      b.setPose(i, new Pose(Vec3.ZERO, turn));
      if (!byCamera.get(i).isEmpty()) {
        before = i;
      }
    }
    for (int j = 0; j < t.points(); j++) {
      Vec3 sum = Vec3.ZERO;
      for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
        int i = t.camera(row);
        sum = sum.plus(b.pose(i).rotation().apply(b.ray(i, t.x(row), t.y(row))));
      }
      b.setPoint(j, sum.length() > 1e-9 ? sum.normalized() : new Vec3(0, 0, -1));
    }
    return b;
  }

  /** Turns fitted to tracks; strays are forgiven. */
  public static Adjustment fit(
      Bundle optics, Tracks t, AdjustOptions.Focal focal, Progress progress) {
    return fit(start(optics, t), t, focal, ROUNDS, progress);
  }

  /**
   * The same from a start of turns and directions.
   *
   * @param rounds a few are enough to tell starts apart
   */
  public static Adjustment fit(
      Bundle start, Tracks t, AdjustOptions.Focal focal, int rounds, Progress progress) {
    AdjustOptions o =
        AdjustOptions.USUAL
            .withTripod(true)
            .withFocal(focal)
            .withLoss(RobustLoss.cauchy(1))
            .withTolerance(1e-4)
            .withRounds(rounds);
    return BundleAdjuster.adjust(start, t, o, progress);
  }

  /** Rows of each camera, as point and row, points rising. */
  private static List<List<int[]>> byCamera(Tracks t) {
    List<List<int[]>> out = new ArrayList<>();
    for (int i = 0; i < t.cameras(); i++) {
      out.add(new ArrayList<>());
    }
    for (int j = 0; j < t.points(); j++) {
      for (int row = t.firstRow(j); row < t.firstRow(j) + t.seen(j); row++) {
        out.get(t.camera(row)).add(new int[] {j, row});
      }
    }
    return out;
  }

  /** The turn that takes directions in the later camera to those in the earlier one. */
  private static Rotation step(
      Bundle b, Tracks t, List<int[]> earlier, List<int[]> later, int ci, int cj) {
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    int k = 0;
    for (int[] e : earlier) {
      while (k < later.size() && later.get(k)[0] < e[0]) {
        k++;
      }
      if (k < later.size() && later.get(k)[0] == e[0]) {
        to.add(b.ray(ci, t.x(e[1]), t.y(e[1])));
        int row = later.get(k)[1];
        from.add(b.ray(cj, t.x(row), t.y(row)));
      }
    }
    if (from.size() < 2) {
      return Rotation.IDENTITY;
    }
    Rotation r = SimilarityFit.turnOf(from, to);
    double[] off = new double[from.size()];
    for (int round = 0; round < REWEIGHTED; round++) {
      for (int n = 0; n < off.length; n++) {
        off[n] = r.apply(from.get(n)).minus(to.get(n)).length();
      }
      double[] sorted = off.clone();
      Arrays.sort(sorted);
      double scale = 2 * sorted[sorted.length / 2] + 1e-12;
      List<Vec3> weighted = new ArrayList<>();
      for (int n = 0; n < off.length; n++) {
        weighted.add(to.get(n).times(1 / (1 + off[n] * off[n] / (scale * scale))));
      }
      r = SimilarityFit.turnOf(from, weighted);
    }
    return r;
  }
}
