package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import org.junit.jupiter.api.Test;

class FilmTest {

  private static final FilmBack FULL = new FilmBack(36, 24);
  private static final double WIDE = 16.0 / 9;

  @Test
  void fitsDecideWhatOfTheBackThePictureCovers() {
    assertThat(FilmFit.WIDTH.covered(FULL, WIDE)).isEqualTo(new FilmBack(36, 20.25));
    assertThat(FilmFit.HEIGHT.covered(FULL, WIDE).heightMm()).isCloseTo(24, within(1e-12));
    assertThat(FilmFit.HEIGHT.covered(FULL, WIDE).widthMm()).isCloseTo(24 * WIDE, within(1e-12));
    assertThat(FilmFit.FILL.covered(FULL, WIDE)).isEqualTo(FilmFit.WIDTH.covered(FULL, WIDE));
    assertThat(FilmFit.OVERSCAN.covered(FULL, WIDE)).isEqualTo(FilmFit.HEIGHT.covered(FULL, WIDE));
    // On a picture narrower than the back they change places.
    assertThat(FilmFit.FILL.covered(FULL, 1)).isEqualTo(FilmFit.HEIGHT.covered(FULL, 1));
  }

  @Test
  void anAssumedBackRescalesTheFocalLengthAndKeepsTheAngle() {
    FilmConvention f =
        new FilmConvention(
            FULL,
            BackPolicy.ALWAYS_ASSUMED,
            FilmFit.HEIGHT,
            LensShift.IGNORED,
            ShiftUnit.MILLIMETRES);
    PictureSize picture = PictureSize.of(1920, 1080);
    Optics sent = f.toRecipient(Optics.centred(18, 23.76, 13.365), picture);
    assertThat(sent.filmHeightMm()).isCloseTo(24, within(1e-9));
    assertThat(sent.focalLengthMm() / sent.filmWidthMm()).isCloseTo(18 / 23.76, within(1e-12));
  }

  @Test
  void aShiftOfTheBackIsTheOppositeOfThePrincipalPoint() {
    assertThat(LensShift.MOVES_FILM_BACK.sign()).isEqualTo(-1);
    assertThat(LensShift.PRINCIPAL_POINT.sign()).isEqualTo(1);
    assertThat(LensShift.IGNORED.sign()).isZero();
    assertThat(ShiftUnit.INCHES.millimetres(Optics.centred(1, 36, 24))).isEqualTo(25.4);
    assertThat(ShiftUnit.FRACTION_OF_WIDTH.millimetres(Optics.centred(1, 36, 24))).isEqualTo(36);
  }
}
