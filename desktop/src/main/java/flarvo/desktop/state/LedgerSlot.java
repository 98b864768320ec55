package flarvo.desktop.state;

import flarvo.decision.ShotState;
import flarvo.decision.StateLedger;
import flarvo.receive.Ledger;
import java.util.Objects;

/** Claims side by side, weighed beside the window. */
public final class LedgerSlot {

  public static final Slot<Input, Ledger> SLOT =
      new Slot<>(
          "Weighing claims",
          s -> s.state().received().map(r -> new Input(s.state())),
          (in, progress) -> StateLedger.of(in.state(), progress));

  private LedgerSlot() {}

  /**
   * What came in counts as the same only where it is the same reading of the files, measured on the
   * same features through the same lens.
   */
  public record Input(ShotState state) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Input i
          && state.received().orElse(null) == i.state.received().orElse(null)
          && state.trace().features().orElse(null) == i.state.trace().features().orElse(null)
          && state.lensWork().choice().equals(i.state.lensWork().choice())
          && state.rulings().equals(i.state.rulings());
    }

    @Override
    public int hashCode() {
      return Objects.hash(System.identityHashCode(state.received().orElse(null)), state.rulings());
    }
  }
}
