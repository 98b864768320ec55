package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.convention.FrameMap;
import flarvo.dispatch.Extract;
import flarvo.dispatch.PictureCard;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/** A delivered file as its recipient sees it, for viewing. */
public final class RecipientView {

  private RecipientView() {}

  /**
   * The same of a file that lies on disk.
   *
   * @throws flarvo.report.InputError when it cannot be read
   */
  public static Optional<WorldShot> of(
      Shot shot, Path delivered, Dialect to, Extract extract, Progress progress) {
    return of(shot, ReceivedFile.read(delivered, Optional.of(to), progress), to, extract);
  }

  /**
   * Camera, trackers and geometry on plate frames. What came without a camera is seen through the
   * shot's. Where there is a plate to look at, a picture card would hide it, and is left out.
   *
   * @param shot what was sent, in solve space
   * @param file as its recipient reads it
   * @return empty where neither the file nor the shot has a camera
   */
  static Optional<WorldShot> of(Shot shot, ReceivedFile file, Dialect to, Extract extract) {
    WorldShot source = extract.of(shot).levelled();
    FrameMap map = to.frames().mapFor(source.frames(), source.rate());
    List<ShotCamera> came =
        file.cameras(source.picture(), IntakeOptions.NONE.withSize(source.picture())).stream()
            .map(c -> DeliveredTime.camera(c, map))
            .toList();
    List<ShotCamera> cameras = came.isEmpty() ? source.cameras() : came;
    String card = PictureCard.name(source.meshes());
    return cameras.isEmpty()
        ? Optional.empty()
        : Optional.of(
            new WorldShot(
                new Shot(
                    source.name(),
                    source.picture(),
                    source.rate(),
                    source.frames(),
                    map.recipientFirst(),
                    cameras,
                    file.trackers(source.picture(), IntakeOptions.NONE).stream()
                        .map(t -> DeliveredTime.trackers(t, map))
                        .toList(),
                    source.observations(),
                    source.plates(),
                    file.meshes(source.picture(), IntakeOptions.NONE).stream()
                        .filter(m -> !m.inFile().name().equals(card))
                        .map(m -> DeliveredTime.mesh(m, map))
                        .toList(),
                    Similarity.IDENTITY)));
  }
}
