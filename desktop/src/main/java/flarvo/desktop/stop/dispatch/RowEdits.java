package flarvo.desktop.stop.dispatch;

import flarvo.convention.Dialect;
import flarvo.decision.DispatchDecision;
import flarvo.desktop.state.Session;
import flarvo.dispatch.Delivery;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/** Changes of the deliveries that are selected, as one decision. */
final class RowEdits {

  private final Session session;

  RowEdits(Session session) {
    this.session = session;
  }

  /** Changes the dialect of all selected rows. */
  void dialects(UnaryOperator<Dialect> change, String what) {
    deliveries(d -> d.withDialect(change.apply(d.dialect())), what);
  }

  /** Changes all selected rows. Those that stay as they are do not count. */
  void deliveries(UnaryOperator<Delivery> change, String what) {
    List<Delivery> board = session.state().get().deliveries();
    List<Delivery> rows = session.chosenRows().stream().filter(board::contains).toList();
    List<Delivery> after = rows.stream().map(change).toList();
    List<String> names = new ArrayList<>();
    List<Delivery> to = new ArrayList<>();
    for (int i = 0; i < rows.size(); i++) {
      if (!rows.get(i).equals(after.get(i))) {
        names.add(rows.get(i).name());
        to.add(after.get(i));
      }
    }
    if (to.size() == 1) {
      int at = rows.indexOf(session.chosen().get());
      Delivery next = to.get(0);
      decide(
          new DispatchDecision.ChangeDelivery(
              board.indexOf(rows.get(after.indexOf(next))), names.get(0), next, what),
          at < 0 ? next : after.get(at),
          after);
    } else if (!to.isEmpty()) {
      int at = Math.max(0, rows.indexOf(session.chosen().get()));
      decide(new DispatchDecision.ChangeDeliveries(names, to, what), after.get(at), after);
    }
  }

  /** Puts another delivery in the place of one, whatever is selected. */
  void one(Delivery old, Delivery next, String what) {
    int i = session.state().get().deliveries().indexOf(old);
    if (i >= 0 && !old.equals(next)) {
      decide(new DispatchDecision.ChangeDelivery(i, old.name(), next, what), next, List.of(next));
    }
  }

  private void decide(DispatchDecision decision, Delivery chosen, List<Delivery> rows) {
    session.store().decide(decision, () -> session.choose(chosen, rows));
  }
}
