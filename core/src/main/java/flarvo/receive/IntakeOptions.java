package flarvo.receive;

import flarvo.convention.Dialect;
import flarvo.convention.FilmBack;
import flarvo.convention.LinearUnit;
import flarvo.convention.SignedAxis;
import flarvo.format.Reach;
import flarvo.format.ReadLimits;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Consumer;

/**
 * What the user says about incoming files; each overrules what the files say.
 *
 * @param from how the sender speaks; where empty, the file's own words and its format's rules count
 * @param take which take of the animation, where a file has several
 * @param camera name of the camera to take, where a file has several
 * @param plateFirst number of the first plate frame; the file's first frame is laid on it
 * @param up of files that are silent on it
 * @param unit of files that are silent on it
 * @param snapKeys whether keys between frames count as if they lay on the nearest one
 * @param reach where files may lie that a scene is put together from
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
    Optional<LinearUnit> unit,
    boolean snapKeys,
    Reach reach) {

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
          Optional.empty(),
          false,
          Reach.BESIDE);

  /** Its parts, to be replaced. */
  private static final class Parts {
    private Optional<Dialect> from;
    private Optional<PictureSize> size;
    private Optional<Double> pixelAspect;
    private Optional<Rate> rate;
    private Optional<FilmBack> filmBack;
    private Optional<String> take;
    private Optional<String> camera;
    private OptionalInt plateFirst;
    private Optional<SignedAxis> up;
    private Optional<LinearUnit> unit;
    private boolean snapKeys;
    private Reach reach;

    Parts(IntakeOptions o) {
      from = o.from;
      size = o.size;
      pixelAspect = o.pixelAspect;
      rate = o.rate;
      filmBack = o.filmBack;
      take = o.take;
      camera = o.camera;
      plateFirst = o.plateFirst;
      up = o.up;
      unit = o.unit;
      snapKeys = o.snapKeys;
      reach = o.reach;
    }
  }

  private IntakeOptions with(Consumer<Parts> change) {
    Parts p = new Parts(this);
    change.accept(p);
    return new IntakeOptions(
        p.from,
        p.size,
        p.pixelAspect,
        p.rate,
        p.filmBack,
        p.take,
        p.camera,
        p.plateFirst,
        p.up,
        p.unit,
        p.snapKeys,
        p.reach);
  }

  public IntakeOptions withFrom(Dialect d) {
    return with(p -> p.from = Optional.of(d));
  }

  public IntakeOptions withSize(PictureSize s) {
    return with(p -> p.size = Optional.of(s));
  }

  public IntakeOptions withPixelAspect(double a) {
    return with(p -> p.pixelAspect = Optional.of(a));
  }

  public IntakeOptions withRate(Rate r) {
    return with(p -> p.rate = Optional.of(r));
  }

  public IntakeOptions withFilmBack(FilmBack b) {
    return with(p -> p.filmBack = Optional.of(b));
  }

  public IntakeOptions withTake(String name) {
    return with(p -> p.take = Optional.of(name));
  }

  public IntakeOptions withCamera(String name) {
    return with(p -> p.camera = Optional.of(name));
  }

  public IntakeOptions withPlateFirst(int frame) {
    return with(p -> p.plateFirst = OptionalInt.of(frame));
  }

  public IntakeOptions withUp(SignedAxis axis) {
    return with(p -> p.up = Optional.of(axis));
  }

  public IntakeOptions withUnit(LinearUnit u) {
    return with(p -> p.unit = Optional.of(u));
  }

  public IntakeOptions withSnapKeys(boolean wanted) {
    return with(p -> p.snapKeys = wanted);
  }

  /** How files are read under these options. */
  ReadLimits limits() {
    return ReadLimits.USUAL.withReach(reach).withSnapKeys(snapKeys);
  }

  public IntakeOptions withReach(Reach r) {
    return with(p -> p.reach = r);
  }
}
