package flarvo.vet.adjust;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.Arrays;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

@Tag("numeric")
class BundleAdjusterTest {

  private static final double FOCAL = 900;

  /** A walk past a cloud of points; every point lives for a while. */
  private record Made(Bundle truth, Tracks tracks) {}

  private static Made made(
      int cameras, int points, int life, double noise, boolean tripod, long seed) {
    Random r = new Random(seed);
    Bundle b = new Bundle(cameras, points);
    for (int i = 0; i < cameras; i++) {
      double s = i / (double) Math.max(1, cameras - 1) - 0.5;
      Rotation turn = Rotation.about(new Vec3(0.1, 1, 0.05), 0.3 * s + 0.02 * r.nextGaussian());
      Vec3 at = tripod ? Vec3.ZERO : new Vec3(2 * s, 0.1 * r.nextGaussian(), 0.3 * s);
      b.setPose(i, new Pose(at, turn));
      b.setOptics(i, FOCAL + i, 1.1, 480, 270);
    }
    for (int j = 0; j < points; j++) {
      Vec3 p =
          new Vec3(3 * (r.nextDouble() - 0.5), 2 * (r.nextDouble() - 0.5), -4 - 3 * r.nextDouble());
      b.setPoint(j, tripod ? p.normalized() : p);
    }
    ObservationModel m = new ObservationModel(AdjustOptions.USUAL.withTripod(tripod));
    Tracks.Builder t = new Tracks.Builder(cameras);
    for (int j = 0; j < points; j++) {
      int born = r.nextInt(Math.max(1, cameras - life + 1));
      for (int i = born; i < Math.min(cameras, born + life); i++) {
        m.residual(b, i, j, 0, 0);
        if (i % 7 != 3 || j % 3 != 1) { // gaps
          t.see(i, m.r[0] + noise * r.nextGaussian(), m.r[1] + noise * r.nextGaussian());
        }
      }
      t.endPoint();
    }
    return new Made(b, t.build());
  }

  private static Bundle shaken(Bundle b, double by, boolean tripod, long seed) {
    Random r = new Random(seed);
    Bundle s = b.copy();
    for (int i = 0; i < s.cameras(); i++) {
      Pose p = s.pose(i);
      Vec3 axis = new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian());
      Vec3 off =
          tripod
              ? Vec3.ZERO
              : new Vec3(by * r.nextGaussian(), by * r.nextGaussian(), by * r.nextGaussian());
      s.setPose(i, new Pose(p.position().plus(off), p.rotation().after(Rotation.about(axis, by))));
    }
    for (int j = 0; j < s.points(); j++) {
      Vec3 q =
          s.point(j)
              .plus(new Vec3(by * r.nextGaussian(), by * r.nextGaussian(), by * r.nextGaussian()));
      s.setPoint(j, tripod ? q.normalized() : q);
    }
    return s;
  }

  static Stream<AdjustOptions> everyChoice() {
    return Stream.of(true, false)
        .flatMap(
            tripod ->
                Stream.of(AdjustOptions.Focal.values())
                    .flatMap(
                        f ->
                            Stream.of(0, 1, 2, 3)
                                .map(
                                    k ->
                                        AdjustOptions.USUAL
                                            .withTripod(tripod)
                                            .withFocal(f)
                                            .withPrincipalPoint(k != 1)
                                            .withLensTerms(k))));
  }

  /** Points whose parts were kept step to the bit as those that are derived once more. */
  @ParameterizedTest
  @MethodSource("everyChoice")
  void whatWasGatheredIsGatheredOnce(AdjustOptions o) {
    Made m = made(9, 30, 6, 0.5, o.tripod(), 7);
    Bundle b = shaken(m.truth(), 0.01, o.tripod(), 8);
    ObservationModel model = new ObservationModel(o);
    int[] farthest = new int[9];
    Arrays.fill(farthest, 8);
    int[] order = new int[30];
    Arrays.setAll(order, j -> j);
    double[][] steps = new double[2][model.pointSize * 30];
    double[] promised = new double[2];
    for (int k = 0; k < 2; k++) {
      GatheredPoints kept = k == 0 ? null : GatheredPoints.of(m.tracks(), model);
      PointElimination e = new PointElimination(m.tracks(), o, farthest, 9, kept);
      e.build(b, order, 0, 30, 1e-4, Progress.NONE);
      double[] step = new Random(9).doubles(e.downhill.length, -1e-3, 1e-3).toArray();
      promised[k] = e.substitute(b, order, 0, 30, 1e-4, step, steps[k]);
    }
    assertThat(steps[1]).containsExactly(steps[0]);
    assertThat(promised[1]).isEqualTo(promised[0]);
    assertThat(Arrays.stream(steps[0]).map(Math::abs).max().orElse(0)).isGreaterThan(1e-5);
  }

  @ParameterizedTest
  @MethodSource("everyChoice")
  void derivativesAreWhatDifferencesSay(AdjustOptions o) {
    Made m = made(3, 4, 3, 0, o.tripod(), 5);
    Bundle b = m.truth();
    b.k1 = -0.08;
    b.k2 = 0.03;
    b.k3 = -0.02;
    ObservationModel model = new ObservationModel(o);
    double[] columns = new double[model.cameraSize + model.pointSize + model.sharedSize];
    int point = o.tripod() ? 2 : 3;
    model.derive(b, 1, 2, 100, 100);
    double[] analytic = new double[2 * columns.length];
    for (int row = 0; row < 2; row++) {
      int at = row * columns.length;
      System.arraycopy(model.jc, row * model.cameraSize, analytic, at, model.cameraSize);
      System.arraycopy(model.jp, row * point, analytic, at + model.cameraSize, point);
      System.arraycopy(
          model.js,
          row * model.sharedSize,
          analytic,
          at + model.cameraSize + point,
          model.sharedSize);
    }
    double h = 1e-6;
    for (int i = 0; i < columns.length; i++) {
      double[] up = residualAfter(model, o, b, i, h);
      double[] down = residualAfter(model, o, b, i, -h);
      for (int row = 0; row < 2; row++) {
        double differences = (up[row] - down[row]) / (2 * h);
        assertThat(analytic[row * columns.length + i])
            .as("%s, column %d, row %d", o, i, row)
            .isCloseTo(differences, within(1e-3 + 1e-6 * Math.abs(differences)));
      }
    }
  }

  /** The residual of point 2 in camera 1 after one number moved, as the adjuster moves it. */
  private static double[] residualAfter(
      ObservationModel model, AdjustOptions o, Bundle from, int column, double h) {
    Bundle b = from.copy();
    BundleAdjuster.moved(b, o, 1, 2, column, h);
    model.residual(b, 1, 2, 100, 100);
    return model.r.clone();
  }

  @ParameterizedTest
  @MethodSource("everyChoice")
  void exactTracksLeadBackToTheTruth(AdjustOptions o) {
    Made m = made(24, 60, 16, 0, o.tripod(), 9);
    Bundle start = shaken(m.truth(), 0.01, o.tripod(), 3);
    Adjustment a = BundleAdjuster.adjust(start, m.tracks(), o, Progress.NONE);
    assertThat(a.costBefore()).isGreaterThan(100);
    assertThat(a.cost()).isLessThan(1e-6);
    assertThat(a.settled()).isTrue();
  }

  @Test
  void whatNoiseLeavesIsWhatStatisticsExpect() {
    Made m = made(40, 150, 30, 0.3, false, 11);
    Adjustment a =
        BundleAdjuster.adjust(
            shaken(m.truth(), 0.01, false, 4), m.tracks(), AdjustOptions.USUAL, Progress.NONE);
    // Squares of what is left: variance times observations less what was fitted (less the gauge).
    double free = 2.0 * m.tracks().rows() - 6.0 * 40 - 3.0 * 150 + 7;
    assertThat(2 * a.cost() / free).isCloseTo(0.09, within(0.006));
  }

  @Test
  void theEndIsALowestPlace() {
    Made m = made(12, 40, 12, 0.5, false, 13);
    AdjustOptions o = AdjustOptions.USUAL.withLoss(RobustLoss.huber(0.4)).withTolerance(1e-13);
    Adjustment a =
        BundleAdjuster.adjust(shaken(m.truth(), 0.01, false, 5), m.tracks(), o, Progress.NONE);
    for (int column = 0; column < 9; column++) {
      for (double h : new double[] {1e-4, -1e-4}) {
        Bundle b = a.bundle().copy();
        BundleAdjuster.moved(b, o, 5, 7, column, h);
        assertThat(BundleAdjuster.cost(b, m.tracks(), o)).isGreaterThan(a.cost());
      }
    }
  }

  @Test
  void aWrongFocalLengthIsFound() {
    Made m = made(30, 80, 30, 0, false, 17);
    Bundle start = m.truth().copy();
    for (int i = 0; i < 30; i++) {
      start.setOptics(i, start.focalPx(i) * 1.1, 1.1, 483, 268);
    }
    AdjustOptions o =
        AdjustOptions.USUAL
            .withFocal(AdjustOptions.Focal.CONSTANT)
            .withPrincipalPoint(true)
            .withRounds(200);
    Adjustment a = BundleAdjuster.adjust(start, m.tracks(), o, Progress.NONE);
    assertThat(a.bundle().focalPx(4)).isCloseTo(FOCAL + 4, within(0.01));
    assertThat(a.bundle().centreX(4)).isCloseTo(480, within(0.01));
  }

  /** As after a cull: the same least as from the usual first step, sooner. */
  @Test
  void whereTheStartIsNearTheLeastItIsFoundInFewerRounds() {
    Made m = made(30, 80, 30, 0.3, false, 23);
    Bundle whole =
        BundleAdjuster.adjust(m.truth(), m.tracks(), AdjustOptions.USUAL, Progress.NONE).bundle();
    double[] weights = new double[m.tracks().points()];
    Arrays.setAll(weights, j -> j % 9 == 0 ? 1e-3 : 1);
    Tracks fewer = m.tracks().weighted(weights);
    Adjustment usual = BundleAdjuster.adjust(whole, fewer, AdjustOptions.USUAL, Progress.NONE);
    Adjustment near = BundleAdjuster.adjustNear(whole, fewer, AdjustOptions.USUAL, Progress.NONE);
    assertThat(near.settled()).isTrue();
    assertThat(near.rounds()).isLessThan(usual.rounds());
    assertThat(near.cost()).isCloseTo(usual.cost(), within(1e-7 * usual.cost()));
  }

  @Test
  void straysPullLessWithALossThatForgives() {
    Made clean = made(20, 60, 20, 0.2, false, 19);
    Tracks t = clean.tracks();
    for (int row = 0; row < t.rows(); row += 17) {
      t.x[row] += 40;
    }
    Bundle start = shaken(clean.truth(), 0.003, false, 6);
    double square =
        depthError(clean, BundleAdjuster.adjust(start, t, AdjustOptions.USUAL, Progress.NONE));
    double forgiving =
        depthError(
            clean,
            BundleAdjuster.adjust(
                start, t, AdjustOptions.USUAL.withLoss(RobustLoss.cauchy(1)), Progress.NONE));
    assertThat(forgiving).isLessThan(square / 5);
  }

  /** Ratios of distances between points do not depend on where the whole lies. */
  private static double depthError(Made m, Adjustment a) {
    double sum = 0;
    double unit = a.bundle().point(0).minus(a.bundle().point(1)).length();
    double truth = m.truth().point(0).minus(m.truth().point(1)).length();
    for (int j = 2; j < m.truth().points(); j++) {
      double d = a.bundle().point(0).minus(a.bundle().point(j)).length() / unit;
      sum += Math.abs(d - m.truth().point(0).minus(m.truth().point(j)).length() / truth);
    }
    return sum;
  }

  /** Where several threads share the points: always the same bits, and what one thread finds. */
  @Test
  void manyRowsAreAdjustedAsFewAre() {
    Made m = made(120, 900, 40, 0.3, false, 12);
    assertThat(m.tracks().rows()).isGreaterThan(20_000);
    Bundle start = shaken(m.truth(), 0.002, false, 5);
    AdjustOptions o = AdjustOptions.USUAL.withFocal(AdjustOptions.Focal.CONSTANT);
    Adjustment a = BundleAdjuster.adjust(start, m.tracks(), o, Progress.NONE);
    Adjustment again = BundleAdjuster.adjust(start, m.tracks(), o, Progress.NONE);
    assertThat(again.cost()).isEqualTo(a.cost());
    assertThat(again.bundle().pose(77)).isEqualTo(a.bundle().pose(77));
    // The same points the other way round: each half is then taken by the other thread.
    Bundle turned = new Bundle(start.cameras(), start.points());
    Tracks.Builder rows = new Tracks.Builder(start.cameras());
    for (int i = 0; i < start.cameras(); i++) {
      turned.setPose(i, start.pose(i));
      turned.setOptics(i, start.focalPx(i), start.ratio(i), start.centreX(i), start.centreY(i));
    }
    for (int j = 0; j < start.points(); j++) {
      int from = start.points() - 1 - j;
      turned.setPoint(j, start.point(from));
      int first = m.tracks().firstRow(from);
      for (int row = first; row < first + m.tracks().seen(from); row++) {
        rows.see(m.tracks().camera(row), m.tracks().x(row), m.tracks().y(row));
      }
      rows.endPoint();
    }
    Adjustment other = BundleAdjuster.adjust(turned, rows.build(), o, Progress.NONE);
    assertThat(other.cost()).isCloseTo(a.cost(), within(1e-7 * a.cost()));
    // What is left is what the noise leaves: 0.3 px in each of what is free no more.
    double free = 2.0 * m.tracks().rows() - 6 * 120 - 3 * 900 - 1 + 7;
    assertThat(a.cost() / (0.5 * 0.3 * 0.3 * free)).isCloseTo(1, within(0.05));
  }

  @Test
  void cancelLeavesTheStartAlone() {
    Made m = made(10, 20, 10, 0.3, false, 21);
    Bundle start = shaken(m.truth(), 0.02, false, 8);
    Vec3 before = start.point(3);
    Progress stop =
        new Progress() {
          @Override
          public void at(long done, long total) {}

          @Override
          public boolean isCancelled() {
            return true;
          }
        };
    assertThatThrownBy(() -> BundleAdjuster.adjust(start, m.tracks(), AdjustOptions.USUAL, stop))
        .isInstanceOf(Cancelled.class);
    assertThat(start.point(3)).isEqualTo(before);
  }

  @Test
  void nothingToSeeIsNothingToDo() {
    Tracks none = new Tracks.Builder(3).endPoint().build();
    Adjustment a =
        BundleAdjuster.adjust(
            made(3, 1, 1, 0, false, 1).truth(), none, AdjustOptions.USUAL, Progress.NONE);
    assertThat(a.cost()).isZero();
    assertThat(a.rounds()).isZero();
  }

  @Test
  void aPointBehindTheCameraIsFarButNoTrap() {
    Made m = made(12, 30, 12, 0, false, 23);
    Bundle start = m.truth().copy();
    start.setPoint(3, new Vec3(0, 0, 5));
    Adjustment a = BundleAdjuster.adjust(start, m.tracks(), AdjustOptions.USUAL, Progress.NONE);
    assertThat(a.cost()).isFinite();
    assertThat(a.cost()).isLessThanOrEqualTo(a.costBefore());
  }

  @Test
  void rowsOutOfOrderAreRefused() {
    Tracks.Builder b = new Tracks.Builder(4).see(2, 0, 0);
    assertThatThrownBy(() -> b.see(2, 0, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> b.see(4, 0, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> b.see(3, Double.NaN, 0)).isInstanceOf(IllegalArgumentException.class);
  }
}
