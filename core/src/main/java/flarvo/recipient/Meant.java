package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.convention.LensShift;
import flarvo.convention.RatePolicy;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * What the sender of a file meant.
 *
 * @param source what was sent, on plate frames
 * @param dialect the delivery's
 * @param frames from the plate's frames to the file's
 */
public record Meant(WorldShot source, Dialect dialect, FrameMap frames) {

  public Meant {
    Objects.requireNonNull(source);
    Objects.requireNonNull(dialect);
    Objects.requireNonNull(frames);
  }

  /** A delivery in a dialect. */
  public static Meant by(WorldShot source, Dialect dialect) {
    return new Meant(source, dialect, dialect.frames().mapFor(source.frames(), source.rate()));
  }

  /** What is sent has its lens shift, whoever ignores it later. */
  static Dialect withShift(Dialect d) {
    return d.film().shift() == LensShift.IGNORED
        ? d.withFilm(d.film().withShift(LensShift.MOVES_FILM_BACK))
        : d;
  }

  /**
   * Where there is only the file: what it states, and where it is silent what its recipient takes.
   *
   * @param plateFirst the first plate frame's number; empty where plates are numbered as the file
   */
  public static Meant by(
      ReceivedFile file, Dialect recipient, PictureSize picture, Optional<Integer> plateFirst) {
    ReceivedFile read =
        new ReceivedFile(file.path(), file.format(), file.scene(), Optional.of(recipient));
    Dialect d = withShift(read.reading());
    Rate rate = file.scene().rate().map(r -> r.value()).orElse(recipient.defaults().rate());
    var cameras = read.cameras(d, picture, IntakeOptions.NONE);
    FrameRange own =
        file.scene()
            .range()
            .map(r -> r.value())
            .orElseGet(
                () ->
                    cameras.isEmpty()
                        ? recipient.defaults().frames()
                        : cameras.get(0).inFile().frames());
    int first = plateFirst.orElse(own.first());
    FrameRange plate = new FrameRange(first, first + own.count() - 1);
    FrameMap map = new FrameMap(plate, rate, own.first(), rate, RatePolicy.KEEP_FRAMES);
    Values right = new Values(rate, own.first(), own, RatePolicy.KEEP_FRAMES, d, picture);
    OnPlate on = new OnPlate(read, plate, rate, rate, picture);
    WorldShot source =
        new WorldShot(
            new Shot(
                file.path().getFileName().toString(),
                picture,
                rate,
                plate,
                own.first(),
                on.cameras(right),
                on.trackers(right),
                flarvo.scene.Observations.NONE,
                List.of(),
                Similarity.IDENTITY));
    return new Meant(source, d, map);
  }
}
