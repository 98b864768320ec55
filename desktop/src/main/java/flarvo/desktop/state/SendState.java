package flarvo.desktop.state;

import flarvo.dispatch.Dispatcher;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.scene.WorldShot;
import java.util.Optional;

/**
 * What became of a delivery since it was last changed.
 *
 * @param seen the shot as its recipient sees it, on plate frames
 */
public record SendState(
    Stage stage,
    String message,
    Optional<Dispatcher.Sent> sent,
    Optional<ProofReport> proof,
    Optional<WorldShot> seen) {

  /** How far a delivery has come. */
  public enum Stage {
    SENDING,
    FAILED,
    SENT
  }

  static SendState sending() {
    return new SendState(
        Stage.SENDING, "sending", Optional.empty(), Optional.empty(), Optional.empty());
  }

  static SendState sent(Handover h) {
    return new SendState(
        Stage.SENT, h.proof().sentence(), Optional.of(h.sent()), Optional.of(h.proof()), h.seen());
  }

  /** The same file, proven again. */
  SendState with(ProofReport again) {
    return new SendState(stage, again.sentence(), sent, Optional.of(again), seen);
  }

  static SendState failed(String why) {
    return new SendState(Stage.FAILED, why, Optional.empty(), Optional.empty(), Optional.empty());
  }
}
