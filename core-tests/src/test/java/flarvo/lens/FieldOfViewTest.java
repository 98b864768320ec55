package flarvo.lens;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import java.util.Random;
import org.junit.jupiter.api.Test;

class FieldOfViewTest {

  /** What every projection of ours uses is the known truth. */
  @Test
  void itAgreesWithTheProjection() {
    Random r = new Random(3);
    for (int i = 0; i < 200; i++) {
      PictureSize p =
          new PictureSize(100 + r.nextInt(4000), 100 + r.nextInt(3000), i % 3 == 0 ? 2 : 1);
      double focal = 8 + 200 * r.nextDouble();
      double back = 5 + 50 * r.nextDouble();
      FieldOfView s = FieldOfView.of(p, new FieldOfView.Given().focalMm(focal).backMm(back));
      double height = back / p.aspect();
      PixelIntrinsics k = PixelIntrinsics.of(Optics.centred(focal, back, height), p);
      assertThat(s.focalPixels()).isCloseTo(k.fx(), within(1e-9 * k.fx()));
      assertThat(s.focalPixelsDown()).isCloseTo(k.fy(), within(1e-9 * k.fy()));
      assertThat(s.backHeightMm().getAsDouble()).isCloseTo(height, within(1e-9));
      // Half the angle lies where the picture's edge does.
      assertThat(Math.tan(Math.toRadians(s.acrossDegrees() / 2)) * k.fx())
          .isCloseTo(p.width() / 2.0, within(1e-6));
      assertThat(Math.tan(Math.toRadians(s.downDegrees() / 2)) * k.fy())
          .isCloseTo(p.height() / 2.0, within(1e-6));
      // Back from each of the others.
      FieldOfView.Given[] given = {
        new FieldOfView.Given().acrossDegrees(s.acrossDegrees()).backMm(back),
        new FieldOfView.Given().downDegrees(s.downDegrees()).backMm(back),
        new FieldOfView.Given().focalPixels(s.focalPixels()).backMm(back),
        new FieldOfView.Given().acrossDegrees(s.acrossDegrees()).focalMm(focal),
        new FieldOfView.Given().focalPixels(s.focalPixels()).focalMm(focal)
      };
      for (FieldOfView.Given g : given) {
        FieldOfView t = FieldOfView.of(p, g);
        assertThat(t.focalMm().getAsDouble()).isCloseTo(focal, within(1e-8 * focal));
        assertThat(t.backMm().getAsDouble()).isCloseTo(back, within(1e-8 * back));
      }
      assertThat(s.focalOn(back)).isCloseTo(focal, within(1e-9));
    }
  }

  @Test
  void knownValues() {
    FieldOfView s =
        FieldOfView.of(PictureSize.of(1920, 1080), new FieldOfView.Given().focalMm(18).backMm(36));
    assertThat(s.acrossDegrees()).isCloseTo(90, within(1e-12));
    assertThat(s.focalPixels()).isEqualTo(960);
    FieldOfView angle =
        FieldOfView.of(PictureSize.of(1920, 1080), new FieldOfView.Given().acrossDegrees(90));
    assertThat(angle.focalMm()).isEmpty();
    assertThat(angle.backMm()).isEmpty();
    assertThat(angle.focalOn(24)).isCloseTo(12, within(1e-12));
  }

  @Test
  void whatDoesNotSettleOrContradictsIsRefused() {
    PictureSize p = PictureSize.of(1920, 1080);
    assertThatThrownBy(() -> FieldOfView.of(p, new FieldOfView.Given().focalMm(35)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("does not settle");
    assertThatThrownBy(
            () ->
                FieldOfView.of(p, new FieldOfView.Given().focalMm(18).backMm(36).acrossDegrees(60)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("contradicts itself");
    assertThatThrownBy(() -> new FieldOfView.Given().acrossDegrees(180))
        .isInstanceOf(InputError.class);
    assertThatThrownBy(() -> new FieldOfView.Given().focalMm(-1)).isInstanceOf(InputError.class);
  }
}
