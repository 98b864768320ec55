package flarvo.proof;

import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.util.Locale;
import java.util.Optional;

/** What it does to the picture that keys between frames are snapped to them. */
public final class KeySnapEffect {

  private KeySnapEffect() {}

  /**
   * Drift between the same files with their keys as they lie and snapped, on the frames of both.
   *
   * @return empty where no key lies between frames, or no tracker is seen
   * @throws flarvo.report.InputError when a file cannot be read any more
   */
  public static Optional<DriftReport> of(
      ReceivedSet set, String name, Rulings rulings, Progress progress) {
    if (set.keysBetweenFrames() == 0) {
      return Optional.empty();
    }
    Shot lie = set.snapKeys(false, progress).shot(name, rulings);
    Shot snapped = set.snapKeys(true, progress).shot(name, rulings);
    if (lie.camera().isEmpty() || snapped.camera().isEmpty()) {
      return Optional.empty();
    }
    DriftReport d =
        new DriftMeter(lie.levelled())
            .measure(
                snapped.levelled().camera().orElseThrow(), snapped.levelled().trackers(), progress);
    return d.compared() == 0 ? Optional.empty() : Optional.of(d);
  }

  /** The same as a note. */
  public static Optional<Note> note(
      ReceivedSet set, String name, Rulings rulings, Progress progress) {
    return of(set, name, rulings, progress)
        .map(
            d ->
                Note.changed(
                    "keys",
                    String.format(
                        Locale.ROOT,
                        "snapping them moves the picture by up to %.3f px, at frame %d",
                        d.maxPx(),
                        d.worstFrame())));
  }
}
