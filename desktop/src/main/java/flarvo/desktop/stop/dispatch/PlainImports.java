package flarvo.desktop.stop.dispatch;

import flarvo.decision.ShotState;
import flarvo.desktop.state.Slot;
import flarvo.dispatch.Delivery;
import flarvo.recipient.Bite;
import flarvo.recipient.Foretelling;
import flarvo.recipient.PlainImport;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/** What each recipient of the board would make of its file on a plain import. */
record PlainImports(Map<Delivery, Outcome> of) {

  /** Worked out while the board is shown; each delivery is written and opened once. */
  static final Slot<Input, PlainImports> SLOT =
      new Slot<>(
          "Trying the imports",
          s ->
              s.isOpen() && !s.state().deliveries().isEmpty()
                  ? Optional.of(new Input(s.state()))
                  : Optional.empty(),
          PlainImports::of);

  /**
   * One delivery.
   *
   * @param imported empty where the delivery cannot be written
   * @param why it cannot; empty otherwise
   */
  record Outcome(Optional<PlainImport> imported, String why) {

    /** For a narrow column. */
    String word() {
      if (imported.isEmpty()) {
        return "";
      }
      long wrong = imported.get().bites().stream().filter(Bite::harms).count();
      int all = imported.get().bites().size();
      if (!imported.get().holds()) {
        return wrong == 0 ? "off" : wrong + " wrong";
      }
      return all == 0 ? "right" : all + " to set";
    }
  }

  /** Equal where the same is written to the same recipients. */
  record Input(ShotState state) {

    @Override
    public boolean equals(Object o) {
      return o instanceof Input i
          && state.isSameShot(i.state)
          && state.staging().equals(i.state.staging())
          && state.deliveries().equals(i.state.deliveries());
    }

    @Override
    public int hashCode() {
      return state.deliveries().hashCode();
    }
  }

  PlainImports {
    of = Map.copyOf(of);
  }

  private static PlainImports of(Input in, Progress progress) {
    Map<Delivery, Outcome> out = new HashMap<>();
    for (Delivery d : in.state().deliveries()) {
      try {
        Shot shot = in.state().outgoing().shot(d.contents());
        PlainImport r = Foretelling.of(shot, d, Foretelling.recipient(d), progress);
        out.put(d, new Outcome(Optional.of(r), ""));
      } catch (InputError | IllegalArgumentException e) {
        out.put(d, new Outcome(Optional.empty(), e.getMessage()));
      }
    }
    return new PlainImports(out);
  }
}
