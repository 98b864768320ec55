package flarvo.receive;

import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * What the user says about incoming files; each overrules what the files say.
 *
 * @param from how the sender speaks; where empty, the file's own words and its format's rules count
 * @param take which take of the animation, where a file has several
 * @param camera name of the camera to take, where a file has several
 * @param plateFirst number of the first plate frame; the file's first frame is laid on it
 * @param up of files that are silent on it
 * @param unit of files that are silent on it
 */
public record IntakeOptions(
    Optional<Dialect> from,
    Optional<PictureSize> size,
    Optional<Double> pixelAspect,
    Optional<Rate> rate,
    Optional<FilmBack> filmBack,
    Optional<String> take,
    Optional<String> camera,
    OptionalInt plateFirst,
    Optional<SignedAxis> up,
    Optional<LinearUnit> unit) {

  public static final IntakeOptions NONE =
      new IntakeOptions(
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          OptionalInt.empty(),
          Optional.empty(),
          Optional.empty());

  public IntakeOptions withFrom(Dialect d) {
    return new IntakeOptions(
        Optional.of(d), size, pixelAspect, rate, filmBack, take, camera, plateFirst, up, unit);
  }

  public IntakeOptions withSize(PictureSize s) {
    return new IntakeOptions(
        from, Optional.of(s), pixelAspect, rate, filmBack, take, camera, plateFirst, up, unit);
  }

  public IntakeOptions withPixelAspect(double a) {
    return new IntakeOptions(
        from, size, Optional.of(a), rate, filmBack, take, camera, plateFirst, up, unit);
  }

  public IntakeOptions withRate(Rate r) {
    return new IntakeOptions(
        from, size, pixelAspect, Optional.of(r), filmBack, take, camera, plateFirst, up, unit);
  }

  public IntakeOptions withFilmBack(FilmBack b) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, Optional.of(b), take, camera, plateFirst, up, unit);
  }

  public IntakeOptions withTake(String name) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, filmBack, Optional.of(name), camera, plateFirst, up, unit);
  }

  public IntakeOptions withCamera(String name) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, filmBack, take, Optional.of(name), plateFirst, up, unit);
  }

  public IntakeOptions withPlateFirst(int frame) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, filmBack, take, camera, OptionalInt.of(frame), up, unit);
  }

  public IntakeOptions withUp(SignedAxis axis) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, filmBack, take, camera, plateFirst, Optional.of(axis), unit);
  }

  public IntakeOptions withUnit(LinearUnit u) {
    return new IntakeOptions(
        from, size, pixelAspect, rate, filmBack, take, camera, plateFirst, up, Optional.of(u));
  }
}
