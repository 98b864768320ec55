package flarvo.recipient;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import flarvo.work.TempFolder;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;

/** What a plain import will make of a delivery that is not written yet. */
public final class Foretelling {

  private Foretelling() {}

  /** The recipient that a delivery is for: the dialect of its name, as shipped. */
  public static Dialect recipient(Delivery d) {
    return Dialects.shipped().find(d.dialect().name()).orElse(d.dialect());
  }

  /**
   * Writes a delivery with some of its trackers and without meshes into a folder of its own, and
   * opens it as the recipient would.
   *
   * @param whole in solve space, with everything that was built on it
   * @throws InputError when the shot lacks what the delivery wants
   */
  public static PlainImport of(Shot whole, Delivery delivery, Dialect own, Progress progress) {
    return written(
        whole, delivery, progress, (thin, file) -> open(thin, delivery, file, own, progress));
  }

  /**
   * The same, passed on from recipient to recipient.
   *
   * @param then who comes after the first, in order
   * @return a step for each recipient, the first included
   * @throws InputError when the shot lacks what the delivery wants, or a scene cannot be saved
   */
  public static List<ImportChain.Step> chain(
      Shot whole, Delivery delivery, Dialect own, List<ImportChain.Hop> then, Progress progress) {
    return written(
        whole,
        delivery,
        progress,
        (thin, file) -> {
          WorldShot source = delivery.extract().of(thin).levelled();
          ReceivedFile read = ReceivedFile.read(file, Optional.of(delivery.dialect()), progress);
          Meant meant = Meant.by(source, delivery.dialect());
          return ImportChain.through(read, own, meant, then, progress);
        });
  }

  private static <T> T written(
      Shot whole, Delivery delivery, Progress progress, BiFunction<Shot, Path, T> open) {
    Shot thin =
        whole
            .withTrackers(Probed.thin(whole.trackers()))
            .withObservations(Observations.NONE)
            .withMeshes(List.of());
    try (TempFolder folder = TempFolder.make("foretell")) {
      Path file = folder.path().resolve("delivery" + delivery.format().extensions().get(0));
      Dispatcher.send(thin, delivery, file, progress);
      return open.apply(thin, file);
    }
  }

  /** What a plain import makes of a delivery that was written. */
  public static PlainImport open(
      Shot shot, Delivery delivery, Path file, Dialect own, Progress progress) {
    WorldShot source = delivery.extract().of(shot).levelled();
    ReceivedFile read = ReceivedFile.read(file, Optional.of(delivery.dialect()), progress);
    return StandIn.open(read, own, Meant.by(source, delivery.dialect()), progress);
  }
}
