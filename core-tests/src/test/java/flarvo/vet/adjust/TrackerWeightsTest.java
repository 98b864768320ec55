package flarvo.vet.adjust;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Points that count for more or for less. */
class TrackerWeightsTest {

  private static final int CAMERAS = 12;
  private static final int POINTS = 30;

  private static Bundle bundle(int twins) {
    Random r = new Random(3);
    Bundle b = new Bundle(CAMERAS, POINTS + twins);
    for (int i = 0; i < CAMERAS; i++) {
      double s = i / (CAMERAS - 1.0) - 0.5;
      b.setPose(i, new Pose(new Vec3(2 * s, 0.1 * s * s, 0.2 * s), Rotation.IDENTITY));
      b.setOptics(i, 900, 1, 480, 270);
    }
    for (int j = 0; j < POINTS; j++) {
      b.setPoint(
          j, new Vec3(3 * r.nextDouble() - 1.5, 2 * r.nextDouble() - 1, -4 - 3 * r.nextDouble()));
    }
    for (int j = 0; j < twins; j++) {
      b.setPoint(POINTS + j, b.point(j));
    }
    return b;
  }

  /**
   * @param twins points at the end that were seen just as the first ones were
   * @param noisePx of a point, by its number
   */
  private static Tracks tracks(Bundle b, int twins, double[] noisePx) {
    ObservationModel m = new ObservationModel(AdjustOptions.USUAL);
    Tracks.Builder t = new Tracks.Builder(CAMERAS);
    for (int k = 0; k < POINTS + twins; k++) {
      int j = k % POINTS;
      Random r = new Random(j);
      for (int i = j % 4; i < CAMERAS; i++) {
        m.residual(b, i, j, 0, 0);
        t.see(i, m.r[0] + noisePx[j] * r.nextGaussian(), m.r[1] + noisePx[j] * r.nextGaussian());
      }
      t.endPoint();
    }
    return t.build();
  }

  private static double[] noise(double px) {
    double[] n = new double[POINTS];
    Arrays.fill(n, px);
    return n;
  }

  /** A point that counts twice is as good as two points that were seen alike. */
  @Test
  void aWeightOfTwoIsAPointTwice() {
    int twins = 7;
    double[] weight = new double[POINTS];
    Arrays.fill(weight, 0, twins, 2);
    Arrays.fill(weight, twins, POINTS, 1);
    Bundle one = bundle(0);
    Bundle two = bundle(twins);
    Tracks weighted = tracks(one, 0, noise(0.5)).weighted(weight);
    Tracks doubled = tracks(two, twins, noise(0.5));
    for (RobustLoss loss : new RobustLoss[] {RobustLoss.SQUARE, RobustLoss.cauchy(0.4)}) {
      AdjustOptions o = AdjustOptions.USUAL.withLoss(loss).withFocal(AdjustOptions.Focal.CONSTANT);
      assertThat(BundleAdjuster.cost(one, weighted, o))
          .isCloseTo(BundleAdjuster.cost(two, doubled, o), within(1e-9));
      Adjustment a = BundleAdjuster.adjust(one, weighted, o, Progress.NONE);
      Adjustment b = BundleAdjuster.adjust(two, doubled, o, Progress.NONE);
      assertThat(a.cost()).isCloseTo(b.cost(), within(1e-7 * b.cost()));
      assertThat(a.bundle().focalPx(0)).isCloseTo(b.bundle().focalPx(0), within(0.02));
      Adjustment plain = BundleAdjuster.adjust(one, tracks(one, 0, noise(0.5)), o, Progress.NONE);
      assertThat(Math.abs(plain.bundle().focalPx(0) - b.bundle().focalPx(0))).isGreaterThan(0.1);
    }
  }

  @Test
  void whatFitsWorseCountsForLess() {
    double[] noise = noise(0.1);
    Arrays.fill(noise, 0, 10, 1);
    Bundle truth = bundle(0);
    Tracks t = tracks(truth, 0, noise);
    Adjustment a = BundleAdjuster.adjust(truth, t, AdjustOptions.USUAL, Progress.NONE);
    double[] w = TrackerWeights.of(a.bundle(), t, AdjustOptions.USUAL);
    double worse = Arrays.stream(w, 0, 10).average().orElseThrow();
    double better = Arrays.stream(w, 10, POINTS).average().orElseThrow();
    assertThat(worse).isLessThan(better / 4);
    assertThat(Arrays.stream(w))
        .allMatch(v -> v > 0 && v <= 4); // none is believed to be much better
  }

  @Test
  void withoutErrorsAllCountAlike() {
    Bundle truth = bundle(0);
    Tracks t = tracks(truth, 0, noise(0));
    assertThat(TrackerWeights.of(truth, t, AdjustOptions.USUAL)).containsOnly(0.8);
  }

  @Test
  void aWeightIsAboveNothing() {
    Tracks t = tracks(bundle(0), 0, noise(0));
    for (double bad : new double[] {0, -1, Double.NaN, Double.POSITIVE_INFINITY}) {
      double[] w = noise(1);
      w[3] = bad;
      assertThatThrownBy(() -> t.weighted(w)).isInstanceOf(IllegalArgumentException.class);
    }
    assertThatThrownBy(() -> t.weighted(new double[2]))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
