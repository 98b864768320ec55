package flarvo.decision;

import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.work.Progress;

/** The ledger of a shot: readings are measured on its features where no 2D tracks came. */
public final class StateLedger {

  private StateLedger() {}

  /**
   * Weighs what the files of a shot claim, under its rulings.
   *
   * @throws InputError where there are no files
   */
  public static Ledger of(ShotState s, Progress progress) {
    ReceivedSet set =
        s.received()
            .orElseThrow(() -> InputError.words("the shot came from no files", "Drop its files"));
    return LedgerMaker.of(set, s.rulings(), features(s), progress);
  }

  private static Observations features(ShotState s) {
    if (s.trace().features().isEmpty()) {
      return Observations.NONE;
    }
    try {
      return s.features();
    } catch (InputError e) {
      return Observations.NONE; // the files make no shot yet, in whose picture they would lie
    }
  }
}
