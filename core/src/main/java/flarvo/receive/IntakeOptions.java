package flarvo.receive;

import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * What the user says about incoming files; each overrules what the files say.
 *
 * @param from how the sender speaks; where empty, the file's own words and its format's rules count
 * @param camera name of the camera to take, where a file has several
 * @param plateFirst number of the first plate frame; the file's first frame is laid on it
 */
public record IntakeOptions(
    Optional<Dialect> from,
    Optional<PictureSize> size,
    Optional<Rate> rate,
    Optional<FilmBack> filmBack,
    Optional<String> camera,
    OptionalInt plateFirst) {

  public static final IntakeOptions NONE =
      new IntakeOptions(
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          Optional.empty(),
          OptionalInt.empty());

  public IntakeOptions withFrom(Dialect d) {
    return new IntakeOptions(Optional.of(d), size, rate, filmBack, camera, plateFirst);
  }

  public IntakeOptions withSize(PictureSize s) {
    return new IntakeOptions(from, Optional.of(s), rate, filmBack, camera, plateFirst);
  }

  public IntakeOptions withRate(Rate r) {
    return new IntakeOptions(from, size, Optional.of(r), filmBack, camera, plateFirst);
  }

  public IntakeOptions withFilmBack(FilmBack b) {
    return new IntakeOptions(from, size, rate, Optional.of(b), camera, plateFirst);
  }

  public IntakeOptions withCamera(String name) {
    return new IntakeOptions(from, size, rate, filmBack, Optional.of(name), plateFirst);
  }

  public IntakeOptions withPlateFirst(int frame) {
    return new IntakeOptions(from, size, rate, filmBack, camera, OptionalInt.of(frame));
  }
}
