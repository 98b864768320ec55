package flarvo.lens;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.lens.fit.LensConversion;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.Random;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

@Tag("numeric")
class LensConversionTest {

  private static final PictureSize SIZE = new PictureSize(2048, 1556, 1.3);

  private static double apart(Lens a, Lens b) {
    LensMapper ma = a.on(SIZE);
    LensMapper mb = b.on(SIZE);
    double[] p = new double[2];
    double[] q = new double[2];
    double worst = 0;
    for (int x = 0; x <= 2048; x += 64) {
      for (int y = 0; y <= 1556; y += 64) {
        boolean here = ma.toUndistorted(x, y, p);
        assertThat(mb.toUndistorted(x, y, q)).isEqualTo(here);
        worst = here ? Math.max(worst, Math.hypot(p[0] - q[0], p[1] - q[1])) : worst;
      }
    }
    return worst;
  }

  @Test
  void countedOtherwiseItIsTheSameLens() {
    Random r = new Random(9);
    for (int i = 0; i < 100; i++) {
      for (LensModel m : LensModel.values()) {
        if (m == LensModel.FISHEYE) {
          continue;
        }
        Lens lens = RandomLens.of(m, r);
        for (Normalisation n : Normalisation.values()) {
          Lens other = LensConversion.counted(lens, n, Double.NaN, SIZE);
          assertThat(other.normalisation()).isEqualTo(n);
          assertThat(apart(lens, other)).as("%s to %s", lens, n).isLessThan(1e-7);
        }
      }
    }
  }

  @Test
  void anotherModelIsFittedAndTheDistanceStated() {
    Lens lens = Lens.centred(new RadialPolynomial(0.062, 0.014, 0, 0));
    for (LensModel m : new LensModel[] {LensModel.BROWN_CONRADY, LensModel.ANAMORPHIC}) {
      LensConversion.Converted c = LensConversion.as(lens, m, SIZE, Progress.NONE);
      assertThat(c.lens().distortion().model()).isEqualTo(m);
      assertThat(c.maxPx()).as(m.code()).isLessThan(0.05);
      LensMapper back = c.lens().on(SIZE);
      double[] p = new double[2];
      double[] q = new double[2];
      lens.on(SIZE).toUndistorted(40, 30, p);
      back.toOriginal(p[0], p[1], q);
      assertThat(Math.hypot(q[0] - 40, q[1] - 30)).isLessThan(c.maxPx() + 1e-3);
    }
    // Two terms of a division cannot be this lens, and that is said.
    assertThat(LensConversion.as(lens, LensModel.DIVISION, SIZE, Progress.NONE).maxPx())
        .isGreaterThan(0.01);
  }

  @Test
  void whatCannotBeCountedSoIsRefused() {
    Lens plain = Lens.centred(LensModel.RADIAL.neutral());
    assertThatThrownBy(
            () -> LensConversion.counted(plain, Normalisation.FOCAL_LENGTH, Double.NaN, SIZE))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("focal length");
    Lens fish = new Lens(LensModel.FISHEYE.neutral(), Normalisation.FOCAL_LENGTH, 0.5, 0.5, 0.6);
    assertThatThrownBy(
            () -> LensConversion.counted(fish, Normalisation.HALF_WIDTH, Double.NaN, SIZE))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("fisheye");
  }
}
