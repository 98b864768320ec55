package flarvo.lens;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.StraightLine;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

@Tag("numeric")
class LensFitTest {

  private static final PictureSize HD = PictureSize.of(1920, 1080);
  private static final double NOISE = 0.2;

  /**
   * Straight lines of the world through a lens.
   *
   * @param share of the picture, from the centre, that the lines stay in
   */
  private static List<StraightLine> lines(
      Lens lens, Random r, int count, int points, double share, double noise) {
    LensMapper m = lens.on(HD);
    List<StraightLine> lines = new ArrayList<>();
    double[] p = new double[2];
    int tries = 0;
    while (lines.size() < count) {
      // First along the four sides, as anyone would trace who wants to cover a picture.
      int side = tries++;
      double s = 0.97 * share;
      double[] a = side < 4 ? at(SIDES[side], s) : corner(r, share);
      double[] b = side < 4 ? at(SIDES[(side + 1) % 4], s) : corner(r, share);
      if (Math.hypot(a[0] - b[0], a[1] - b[1]) < 300 * share) {
        continue;
      }
      m.toUndistorted(a[0], a[1], p);
      double[] ua = p.clone();
      m.toUndistorted(b[0], b[1], p);
      double[] ub = p.clone();
      double[] xy = new double[2 * points];
      boolean whole = true;
      for (int i = 0; i < points; i++) {
        double t = i / (points - 1.0);
        whole &= m.toOriginal(ua[0] + t * (ub[0] - ua[0]), ua[1] + t * (ub[1] - ua[1]), p);
        xy[2 * i] = p[0] + noise * r.nextGaussian();
        xy[2 * i + 1] = p[1] + noise * r.nextGaussian();
      }
      if (whole) {
        lines.add(new StraightLine("l" + lines.size(), 1001 + lines.size() % 3, xy));
      }
    }
    return lines;
  }

  private static final double[][] SIDES = {{-1, -1}, {1, -1}, {1, 1}, {-1, 1}};

  private static double[] at(double[] side, double share) {
    return new double[] {960 + 960 * share * side[0], 540 + 540 * share * side[1]};
  }

  private static double[] corner(Random r, double share) {
    return new double[] {
      960 + 960 * share * (2 * r.nextDouble() - 1), 540 + 540 * share * (2 * r.nextDouble() - 1)
    };
  }

  /** How far b puts a pixel of the picture from where a has it, in original pixels. */
  private static double worst(Lens a, Lens b, double share) {
    LensMapper ma = a.on(HD);
    LensMapper mb = b.on(HD);
    double[] p = new double[2];
    double[] q = new double[2];
    double worst = 0;
    for (int i = -16; i <= 16; i++) {
      for (int l = -9; l <= 9; l++) {
        double x = 960 + 60 * share * i;
        double y = 540 + 60 * share * l;
        if (ma.toUndistorted(x, y, p)) {
          worst =
              mb.toOriginal(p[0], p[1], q)
                  ? Math.max(worst, Math.hypot(q[0] - x, q[1] - y))
                  : Double.POSITIVE_INFINITY;
        }
      }
    }
    return worst;
  }

  @Test
  void withoutNoiseTheLensIsFound() {
    Random r = new Random(11);
    for (LensModel model : LensModel.values()) {
      Lens truth = truth(model, r);
      LensEstimate e = LensFit.of(lines(truth, r, 20, 25, 0.98, 0), HD, usual(truth), NONE);
      assertThat(worst(truth, e.lens(), 1)).as(model.code()).isLessThan(1e-3);
      assertThat(e.residualPx()).as(model.code()).isLessThan(1e-5);
      assertThat(e.beforePx()).isGreaterThan(0.1);
    }
  }

  /** Where lines cover the picture the lens is right; everywhere what is claimed of it is. */
  @Test
  void aHundredLensesAreFoundAndTheirUncertaintyHolds() {
    int held = 0;
    int covered = 0;
    for (int i = 0; i < 100; i++) {
      Random r = new Random(1_000_003L * i + 17);
      r.nextLong();
      List<LensModel> models =
          List.of(LensModel.RADIAL, LensModel.BROWN_CONRADY, LensModel.DIVISION, LensModel.FISHEYE);
      Lens truth = truth(models.get(i % models.size()), r);
      double share = i % 2 == 0 ? 0.98 : 0.45 + 0.4 * r.nextDouble();
      List<StraightLine> lines =
          lines(truth, r, (i % 2 == 0 ? 35 : 10) + r.nextInt(15), 40, share, NOISE);
      LensEstimate e = LensFit.of(lines, HD, usual(truth), NONE);
      double error = worst(truth, e.lens(), 1);
      if (error <= e.worstPx()) {
        held++;
      }
      if (i % 2 == 0) {
        assertThat(e.cover()).isGreaterThan(0.8);
        covered++;
        assertThat(worst(truth, e.lens(), 0.95)).as("lens %d", i).isLessThan(0.5);
      }
      assertThat(e.residualPx()).as("lens %d", i).isBetween(0.15, 0.23);
    }
    assertThat(held).isGreaterThanOrEqualTo(95);
    assertThat(covered).isEqualTo(50);
  }

  @Test
  void theStatedDeviationOfATermIsItsOwn() {
    Lens truth = Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0));
    List<StraightLine> clean = lines(truth, new Random(5), 20, 30, 0.98, 0);
    double square = 0;
    int n = 60;
    for (int i = 0; i < n; i++) {
      Random r = new Random(i * 7919L);
      r.nextLong();
      List<StraightLine> noisy = clean.stream().map(l -> shaken(l, r)).toList();
      LensEstimate.Term k1 = LensFit.of(noisy, HD, usual(truth), NONE).terms().get(0);
      double z = (k1.value() - 0.062) / k1.sigma();
      square += z * z;
    }
    assertThat(Math.sqrt(square / n)).isCloseTo(1, within(0.25));
  }

  private static StraightLine shaken(StraightLine l, Random r) {
    double[] xy = new double[2 * l.size()];
    for (int i = 0; i < l.size(); i++) {
      xy[2 * i] = l.x(i) + NOISE * r.nextGaussian();
      xy[2 * i + 1] = l.y(i) + NOISE * r.nextGaussian();
    }
    return new StraightLine(l.name(), l.frame(), xy);
  }

  /** Lines through the centre stay straight under any radial lens, so they say nothing of it. */
  @Test
  void whatLinesCannotTellIsSaid() {
    Lens truth = Lens.centred(new RadialPolynomial(0.1, 0, 0, 0));
    LensMapper m = truth.on(HD);
    List<StraightLine> rays = new ArrayList<>();
    double[] p = new double[2];
    for (int k = 0; k < 8; k++) {
      double[] xy = new double[40];
      for (int i = 0; i < 20; i++) {
        double t = 25 * (i - 10);
        m.toOriginal(960 + t * Math.cos(k), 540 + t * Math.sin(k), p);
        xy[2 * i] = p[0];
        xy[2 * i + 1] = p[1];
      }
      rays.add(new StraightLine("ray" + k, 1, xy));
    }
    LensEstimate e = LensFit.of(rays, HD, usual(truth), NONE);
    assertThat(e.worstPx()).isGreaterThan(100);
    assertThat(e.cover()).isLessThan(0.5);
    // The squeeze of an anamorphic lens keeps every line straight.
    Lens squeezed = Lens.centred(LensModel.ANAMORPHIC.neutral());
    LensEstimate s =
        LensFit.of(
            lines(squeezed, new Random(2), 12, 20, 0.9, 0.1),
            HD,
            new LensFitOptions(squeezed, List.of("squeeze", "a20"), false),
            NONE);
    assertThat(s.untold()).contains(List.of("squeeze"));
    assertThat(s.terms().get(0).sigma()).isInfinite();
    assertThat(s.worstPx()).isInfinite();
  }

  @Test
  void tooFewPointsAreRefused() {
    List<StraightLine> few = List.of(new StraightLine("a", 1, 0, 0, 10, 10, 20, 21, 30, 30));
    assertThatThrownBy(
            () -> LensFit.of(few, HD, usual(Lens.centred(LensModel.RADIAL.neutral())), NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("2 points beyond");
  }

  private static final Progress NONE = Progress.NONE;

  private static LensFitOptions usual(Lens truth) {
    return LensFitOptions.usual(truth.distortion().model(), truth.normalisation(), truth.focal());
  }

  /** Only the usual terms bend, so that the model can be met exactly. */
  private static Lens truth(LensModel model, Random r) {
    Lens any = RandomLens.of(model, r);
    double[] k = any.distortion().coefficients();
    for (int i = 0; i < k.length; i++) {
      String name = model.coefficients().get(i);
      if (!model.usual().contains(name)) {
        k[i] = model.neutral(name);
      }
    }
    return new Lens(
        model.make(k),
        model == LensModel.FISHEYE ? Normalisation.FOCAL_LENGTH : Normalisation.HALF_WIDTH,
        0.5,
        0.5,
        any.focal());
  }
}
