package flarvo.lens;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import boofcv.alg.distort.brown.LensDistortionBrown;
import boofcv.alg.distort.kanbra.LensDistortionKannalaBrandt;
import boofcv.struct.calib.CameraKannalaBrandt;
import boofcv.struct.calib.CameraPinholeBrown;
import boofcv.struct.distort.Point2Transform2_F64;
import boofcv.struct.distort.Point3Transform2_F64;
import flarvo.scene.PictureSize;
import georegression.struct.point.Point2D_F64;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

@Tag("numeric")
class LensMapperTest {

  private static final PictureSize HD = PictureSize.of(1920, 1080);
  private static final PictureSize ANAMORPHIC = new PictureSize(2048, 1716, 2);

  @ParameterizedTest
  @EnumSource
  void thereAndBackIsTheSamePixel(LensModel model) {
    Random r = new Random(model.code().hashCode());
    double worst = 0;
    int beyond = 0;
    double[] p = new double[2];
    double[] q = new double[2];
    for (int lens = 0; lens < 200; lens++) {
      PictureSize size = lens % 2 == 0 ? HD : ANAMORPHIC;
      LensMapper m = RandomLens.of(model, r).on(size);
      for (int i = 0; i < 200; i++) {
        double x = r.nextDouble() * size.width();
        double y = r.nextDouble() * size.height();
        if (m.toUndistorted(x, y, p)) {
          assertThat(m.toOriginal(p[0], p[1], q)).isTrue();
          worst = Math.max(worst, Math.hypot(q[0] - x, q[1] - y));
        } else {
          beyond++;
        }
        if (m.toOriginal(x, y, p)) {
          assertThat(m.toUndistorted(p[0], p[1], q)).isTrue();
          worst = Math.max(worst, Math.hypot(q[0] - x, q[1] - y));
        } else {
          beyond++;
        }
      }
    }
    assertThat(worst).isLessThan(1e-9);
    assertThat(beyond).as("points without a counterpart, of 80,000").isLessThan(8000);
  }

  @ParameterizedTest
  @EnumSource
  void theDerivativesAreThoseOfTheForm(LensModel model) {
    Random r = new Random(7);
    double h = 1e-6;
    double[] a = new double[6];
    double[] b = new double[6];
    double[] d = new double[6];
    for (int i = 0; i < 2000; i++) {
      Distortion lens = RandomLens.of(model, r).distortion();
      double x = 1.6 * r.nextDouble() - 0.8;
      double y = 1.6 * r.nextDouble() - 0.8;
      lens.apply(x, y, d);
      lens.apply(x + h, y, a);
      lens.apply(x - h, y, b);
      assertThat((a[0] - b[0]) / (2 * h)).isCloseTo(d[2], within(1e-8));
      assertThat((a[1] - b[1]) / (2 * h)).isCloseTo(d[4], within(1e-8));
      lens.apply(x, y + h, a);
      lens.apply(x, y - h, b);
      assertThat((a[0] - b[0]) / (2 * h)).isCloseTo(d[3], within(1e-8));
      assertThat((a[1] - b[1]) / (2 * h)).isCloseTo(d[5], within(1e-8));
    }
  }

  /** Where the inverse goes astray, it is over the fold; the fold is where the radius turns. */
  @Test
  void beyondTheFoldThereIsNothing() {
    // r (1 - 0.3 r²) turns at r = 1.0541; the last thousandth of the area counts as folded:
    // (1 - 0.3 s) (1 - 0.9 s) = 0.001.
    LensMapper m = Lens.centred(new RadialPolynomial(-0.3, 0, 0, 0)).on(HD);
    double turn = Math.sqrt((1.2 - Math.sqrt(1.44 - 4 * 0.27 * 0.999)) / 0.54);
    double most = turn * (1 - 0.3 * turn * turn);
    double[] out = new double[2];
    assertThat(m.folds()).isTrue();
    assertThat(m.foldLine()).allSatisfy(p -> assertThat(radius(p)).isCloseTo(turn, within(1e-6)));
    // The same lens the other way round: the line is where its undistorted picture turns.
    LensMapper other =
        new Lens(
                new BrownConrady(-0.3, 0, 0, 0, 0, 0, 0, 0),
                Normalisation.HALF_WIDTH,
                0.5,
                0.5,
                Double.NaN)
            .on(HD);
    assertThat(other.foldLine())
        .hasSize(180)
        .allSatisfy(p -> assertThat(radius(p)).isCloseTo(most, within(1e-6)));
    assertThat(m.toUndistorted(960 + 960 * (turn + 1e-4), 540, out)).isFalse();
    assertThat(out[0]).isNaN();
    assertThat(m.toUndistorted(960 + 960 * (turn - 1e-4), 540, out)).isTrue();
    assertThat(m.toOriginal(960 + 960 * (most + 1e-6), 540, out)).isFalse();
    assertThat(m.toOriginal(960 + 960 * (most - 1e-6), 540, out)).isTrue();
    assertThat(out[0]).isLessThan(960 + 960 * turn);
    assertThat(Lens.centred(new RadialPolynomial(0.3, 0, 0, 0)).on(HD).folds()).isFalse();
  }

  /** A polynomial that falls and rises again answers on its first branch only. */
  @Test
  void theSecondBranchIsNoAnswer() {
    LensMapper m = Lens.centred(new RadialPolynomial(-0.5, 0.1, 0, 0)).on(HD);
    double[] out = new double[2];
    for (int i = 0; i < 4000; i++) {
      double x = 960 + i;
      if (m.toOriginal(x, 540, out)) {
        assertThat(out[0] - 960).as("from %f", x).isBetween(0.0, 960 * 1.01);
      }
    }
  }

  private static double radius(double[] p) {
    return Math.hypot(p[0] - 960, p[1] - 540) / 960;
  }

  /** An independent reading of the same formulas. */
  @Test
  void brownConradyIsAnotherLibrarys() {
    Random r = new Random(3);
    Point2D_F64 theirs = new Point2D_F64();
    double[] ours = new double[2];
    for (int lens = 0; lens < 50; lens++) {
      double[] k = {0.2 * r.nextDouble() - 0.1, 0.05 * r.nextGaussian(), 0.01 * r.nextGaussian()};
      double p1 = 0.004 * r.nextGaussian();
      double p2 = 0.004 * r.nextGaussian();
      double f = 1400;
      CameraPinholeBrown c = new CameraPinholeBrown();
      c.fsetK(f, f, 0, 970, 530, 1920, 1080);
      c.fsetRadial(k);
      c.fsetTangential(p1, p2);
      Point2Transform2_F64 t = new LensDistortionBrown(c).distort_F64(true, true);
      LensMapper m =
          new Lens(
                  new BrownConrady(k[0], k[1], p1, p2, k[2], 0, 0, 0),
                  Normalisation.FOCAL_LENGTH,
                  970 / 1920.0,
                  530 / 1080.0,
                  f / 1920)
              .on(HD);
      for (int i = 0; i < 100; i++) {
        double x = r.nextDouble() * 1920;
        double y = r.nextDouble() * 1080;
        t.compute(x, y, theirs);
        if (m.toOriginal(x, y, ours)) {
          assertThat(Math.hypot(ours[0] - theirs.x, ours[1] - theirs.y)).isLessThan(1e-9);
        }
      }
    }
  }

  @Test
  void theFisheyeIsAnotherLibrarys() {
    Random r = new Random(4);
    Point2D_F64 theirs = new Point2D_F64();
    double[] ours = new double[2];
    int seen = 0;
    for (int lens = 0; lens < 50; lens++) {
      double[] k = {0.05 * r.nextGaussian(), 0.01 * r.nextGaussian(), 0.002 * r.nextGaussian(), 0};
      double f = 700;
      CameraKannalaBrandt c = new CameraKannalaBrandt();
      c.fsetK(f, f, 0, 960, 540, 1920, 1080);
      c.fsetSymmetric(1, k[0], k[1], k[2], k[3]);
      Point3Transform2_F64 t = new LensDistortionKannalaBrandt(c).distortStoP_F64();
      LensMapper m =
          new Lens(
                  new Fisheye(k[0], k[1], k[2], k[3]),
                  Normalisation.FOCAL_LENGTH,
                  0.5,
                  0.5,
                  f / 1920)
              .on(HD);
      for (int i = 0; i < 100; i++) {
        double x = r.nextDouble() * 1920;
        double y = r.nextDouble() * 1080;
        double dx = (x - 960) / f;
        double dy = (y - 540) / f;
        double n = Math.sqrt(dx * dx + dy * dy + 1);
        t.compute(dx / n, dy / n, 1 / n, theirs);
        if (m.toOriginal(x, y, ours)) {
          seen++;
          assertThat(Math.hypot(ours[0] - theirs.x, ours[1] - theirs.y)).isLessThan(1e-9);
        }
      }
    }
    assertThat(seen).isGreaterThan(4500);
  }
}
