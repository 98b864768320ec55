package flarvo.convention;

import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import java.util.Objects;

/** What a recipient makes of film back, aspect and lens shift. */
public record FilmConvention(
    FilmBack assumed, BackPolicy policy, FilmFit fit, LensShift shift, ShiftUnit shiftUnit) {

  public static final FilmConvention COMMON =
      new FilmConvention(
          new FilmBack(36, 24),
          BackPolicy.FROM_FILE,
          FilmFit.WIDTH,
          LensShift.MOVES_FILM_BACK,
          ShiftUnit.MILLIMETRES);

  public FilmConvention {
    Objects.requireNonNull(assumed);
    Objects.requireNonNull(policy);
    Objects.requireNonNull(fit);
    Objects.requireNonNull(shift);
    Objects.requireNonNull(shiftUnit);
  }

  /**
   * Our optics, whose film covers the picture, on the film that this recipient sees through. The
   * picture stays the same: every length is scaled alike.
   */
  public Optics toRecipient(Optics o, PictureSize picture) {
    if (policy == BackPolicy.FROM_FILE) {
      return o;
    }
    double width = fit.covered(assumed, picture.aspect()).widthMm();
    return o.scaled(width / o.filmWidthMm());
  }

  public FilmConvention withFit(FilmFit f) {
    return new FilmConvention(assumed, policy, f, shift, shiftUnit);
  }

  public FilmConvention withShift(LensShift s) {
    return new FilmConvention(assumed, policy, fit, s, shiftUnit);
  }

  /** The same with the film back of another, and where it is taken from. */
  public FilmConvention withBackOf(FilmConvention other) {
    return new FilmConvention(other.assumed, other.policy, fit, shift, shiftUnit);
  }

  /** A stated back and focal length, cut to what the picture covers under this fit. */
  public Optics fromSender(Optics stated, PictureSize picture) {
    FilmBack covered =
        fit.covered(new FilmBack(stated.filmWidthMm(), stated.filmHeightMm()), picture.aspect());
    return stated.withFilm(covered.widthMm(), covered.heightMm());
  }
}
