package flarvo.proof;

import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.scene.Shot;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Optional;

/**
 * A delivery that was written, read back from disk and proven.
 *
 * @param seen the shot as its recipient sees it, on plate frames; empty where the file has no
 *     camera
 */
public record Handover(Dispatcher.Sent sent, ProofReport proof, Optional<WorldShot> seen) {

  /**
   * Writes a delivery, reads the file back as its recipient would, and compares.
   *
   * @param shot in solve space, with everything that was built on it
   * @param limitPx largest drift, in pixels of the shot's picture, with which it still holds
   * @throws flarvo.report.InputError when the shot lacks what the delivery wants, or the disk
   *     refuses
   */
  public static Handover send(
      Shot shot, Delivery delivery, Path file, double limitPx, Progress progress) {
    Dispatcher.Sent sent = Dispatcher.send(shot, delivery, file, progress);
    ProofReport proof =
        Proof.of(
            shot,
            file,
            delivery.dialect(),
            delivery.contents(),
            delivery.plate(),
            limitPx,
            progress);
    return new Handover(
        sent,
        proof,
        Proof.seenByRecipient(shot, file, delivery.dialect(), delivery.plate(), progress));
  }
}
