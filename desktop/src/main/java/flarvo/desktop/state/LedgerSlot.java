package flarvo.desktop.state;

import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import java.util.Objects;

/** Claims side by side, weighed beside the window. */
public final class LedgerSlot {

  public static final Slot<Input, Ledger> SLOT =
      new Slot<>(
          "Weighing claims",
          s -> s.state().received().map(r -> new Input(r, s.state().rulings())),
          (in, progress) -> LedgerMaker.of(in.received(), in.rulings(), progress),
          in -> false);

  private LedgerSlot() {}

  /** What came in counts as the same only where it is the same reading of the files. */
  public record Input(ReceivedSet received, Rulings rulings) {
    @SuppressWarnings("ReferenceEquality")
    @Override
    public boolean equals(Object o) {
      return o instanceof Input i && received == i.received && rulings.equals(i.rulings);
    }

    @Override
    public int hashCode() {
      return Objects.hash(System.identityHashCode(received), rulings);
    }
  }
}
