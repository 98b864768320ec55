package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.DoubleRange;
import org.junit.jupiter.api.Test;

class PixelIntrinsicsTest {

  @Test
  void aHalfWideFilmBackSeesAsFarAsItIsWide() {
    PixelIntrinsics k =
        PixelIntrinsics.of(Optics.centred(36, 36, 20.25), PictureSize.of(1920, 1080));
    assertThat(k).isEqualTo(new PixelIntrinsics(1920, 1920, 960, 540));
  }

  /**
   * By hand: the principal point lies right and up on the film, and y grows downwards in pixels.
   */
  @Test
  void aPrincipalPointRightAndUpMovesThePictureTheOtherWay() {
    Optics o = Optics.centred(24, 24, 12).withPrincipal(1.2, 0.6);
    PixelIntrinsics k = PixelIntrinsics.of(o, PictureSize.of(2000, 1000));
    assertThat(k.cx()).isCloseTo(1100, within(1e-9));
    assertThat(k.cy()).isCloseTo(450, within(1e-9));
  }

  @Property
  void theOneProjectionUsesThem(
      @ForAll @DoubleRange(min = 8, max = 300) double focal,
      @ForAll @DoubleRange(min = 4, max = 60) double width,
      @ForAll @DoubleRange(min = -3, max = 3) double shift,
      @ForAll @DoubleRange(min = -2, max = 2) double x,
      @ForAll @DoubleRange(min = -2, max = 2) double y) {
    Optics o = Optics.centred(focal, width, width / 2).withPrincipal(shift, -shift / 2);
    PictureSize size = PictureSize.of(1800, 900);
    FrameRange one = new FrameRange(1, 1);
    ShotCamera c =
        new ShotCamera(
            "c",
            PoseTrack.of(one, f -> new Pose(Vec3.ZERO, Rotation.IDENTITY)),
            OpticsTrack.constant(one, o),
            Optional.empty());
    double[] px = new double[3];
    new Pinhole(c, size).at(1).project(x, y, -5, px);
    PixelIntrinsics k = PixelIntrinsics.of(o, size);
    assertThat(px[0]).isCloseTo(k.cx() + k.fx() * x / 5, within(1e-9 * (1 + Math.abs(px[0]))));
    assertThat(px[1]).isCloseTo(k.cy() - k.fy() * y / 5, within(1e-9 * (1 + Math.abs(px[1]))));
  }
}
