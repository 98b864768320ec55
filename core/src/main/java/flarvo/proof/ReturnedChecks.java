package flarvo.proof;

import flarvo.convention.Dialect;
import flarvo.convention.FrameNumbering;
import flarvo.convention.RatePolicy;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Part;
import flarvo.receive.ReceivedFile;
import flarvo.scene.FrameRange;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;

/** The checks of a proof on a file that somebody else made. */
public final class ReturnedChecks {

  private ReturnedChecks() {}

  /**
   * Reads a file as it states, in its own conventions, and compares what drift cannot see: lengths,
   * rate, frames, picture and film back, names. It counts where it starts: frames of its own are no
   * fault, as long as they are as many.
   *
   * @param shot in solve space; its level is applied here
   * @return empty where the file has neither camera nor trackers
   * @throws flarvo.report.InputError when it cannot be read
   */
  public static List<Check> of(Shot shot, Path path, double limitPx, Progress progress) {
    ReceivedFile file = ReceivedFile.read(path, Optional.empty(), progress);
    boolean camera = !file.scene().cameras().isEmpty();
    boolean points = file.scene().trackerCount() > 0;
    if (!camera && !points) {
      return List.of();
    }
    Contents contents =
        camera && points
            ? Contents.CAMERA_AND_TRACKERS
            : camera ? Contents.CAMERA : Contents.of(Part.TRACKERS);
    Dialect own =
        file.reading()
            .withFrames(
                new FrameNumbering(first(file, shot), Optional.empty(), RatePolicy.KEEP_FRAMES));
    return Proof.of(shot, path, own, contents, limitPx, progress).checks();
  }

  /** Empty where it counts the plate's frames, or has no camera to tell. */
  private static OptionalInt first(ReceivedFile file, Shot shot) {
    if (file.scene().cameras().isEmpty()) {
      return OptionalInt.empty();
    }
    FrameRange own = file.scene().cameras().get(0).camera().frames();
    FrameRange plate = shot.frames();
    boolean shared = own.first() <= plate.last() && own.last() >= plate.first();
    return shared ? OptionalInt.empty() : OptionalInt.of(own.first());
  }
}
