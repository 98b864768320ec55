package flarvo.proof;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.dispatch.Sidecars;
import flarvo.plate.match.PlateCheck;
import flarvo.receive.ReceivedFile;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A delivery that was written, read back from disk and proven.
 *
 * @param seen the shot as its recipient sees it, on plate frames; empty where neither the file nor
 *     the shot has a camera
 */
public record Handover(Dispatcher.Sent sent, ProofReport proof, Optional<WorldShot> seen) {

  /**
   * Writes a delivery and what lies beside it, reads the files back as its recipient would, and
   * compares.
   *
   * @param plates what was measured of the shot's plates; those that go with the delivery have to
   *     belong behind its camera
   * @param limitPx largest drift, in pixels of the shot's picture, with which it still holds
   * @throws flarvo.report.InputError when the shot lacks what the delivery wants, or the disk
   *     refuses
   */
  public static Handover send(
      Outgoing from,
      Delivery delivery,
      Path file,
      double limitPx,
      List<PlateCheck> plates,
      Progress progress) {
    // The file comes last: where it lies, everything does.
    Shot shot = from.shot(delivery.contents());
    List<Note> beside = Sidecars.of(from, delivery, file).write(progress);
    Dispatcher.Sent sent = Dispatcher.send(shot, delivery, file, progress).with(beside);
    ReceivedFile back = ReceivedFile.read(file, Optional.of(delivery.dialect()), progress);
    return new Handover(
        sent,
        prove(from, delivery, back, limitPx, plates, Optional.of(sent.notes()), progress),
        RecipientView.of(shot, back, delivery.dialect(), delivery.extract()));
  }

  /**
   * Proves a delivery that lies on disk, the plates that go with it and what lies beside it
   * included.
   *
   * @throws flarvo.report.InputError when the file cannot be read
   */
  public static ProofReport prove(
      Outgoing from,
      Delivery delivery,
      Path file,
      double limitPx,
      List<PlateCheck> plates,
      Progress progress) {
    ReceivedFile back = ReceivedFile.read(file, Optional.of(delivery.dialect()), progress);
    return prove(from, delivery, back, limitPx, plates, Optional.empty(), progress);
  }

  private static ProofReport prove(
      Outgoing from,
      Delivery delivery,
      ReceivedFile file,
      double limitPx,
      List<PlateCheck> plates,
      Optional<List<Note>> written,
      Progress progress) {
    ProofReport proof =
        Proof.of(
            from.shot(delivery.contents()),
            file,
            delivery.dialect(),
            delivery.contents(),
            delivery.extract(),
            limitPx,
            written,
            progress);
    Sidecars beside = Sidecars.of(from, delivery, file.path());
    List<Check> checks = new ArrayList<>(SidecarChecks.of(beside, progress));
    fit(from, delivery, file, beside, limitPx).ifPresent(checks::add);
    behind(from.shot(), delivery, plates).ifPresent(checks::add);
    List<Note> lost = written.isPresent() ? List.of() : beside.notes();
    return proof.with(checks, lost);
  }

  private static Optional<Check> fit(
      Outgoing from, Delivery delivery, ReceivedFile file, Sidecars beside, double limitPx) {
    Contents has = delivery.contents();
    boolean both = has.has(Part.CAMERA) && has.has(Part.TRACKERS);
    return beside
        .tracks()
        .filter(t -> both && beside.keepsFrames())
        .flatMap(
            t ->
                TracksCheck.fit(
                    t, delivery.extract().of(from.shot(has)).levelled(), file, limitPx));
  }

  /** Empty where it was not measured, or says nothing. */
  private static Optional<Check> behind(Shot shot, Delivery delivery, List<PlateCheck> plates) {
    if (!delivery.contents().has(Part.CAMERA)) {
      return Optional.empty();
    }
    return delivery.extract().of(shot).plates().stream()
        .findFirst()
        .flatMap(p -> plates.stream().filter(c -> c.plates().equals(p)).findFirst())
        .filter(c -> c.verdictAsIs() != PlateCheck.Verdict.UNKNOWN)
        .map(
            c ->
                new Check(
                    "plateFit",
                    c.verdictAsIs() == PlateCheck.Verdict.BELONGS,
                    "plates that belong behind the camera",
                    c.wordsAsIs()));
  }
}
