package flarvo.desktop.stop.receive;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopView;
import java.util.Optional;
import javafx.scene.Node;

/** The ledger with its desk; the columns of a table while they are being named. */
final class ReceiveView implements StopView {

  private final Session session;
  private final TableImport tableImport;
  private final LedgerView ledger;
  private final ReceiveDesk desk;
  private TableImportView columns; // made when first shown, like its desk
  private TableImportDesk columnsDesk;

  ReceiveView(Session session, TableImport tableImport) {
    this.session = session;
    this.tableImport = tableImport;
    ledger = new LedgerView(session);
    ledger.setFocusTraversable(true);
    desk = new ReceiveDesk(session, tableImport);
  }

  private boolean naming() {
    return tableImport.table().get() != null;
  }

  @Override
  public Node desk() {
    if (!naming()) {
      return desk;
    }
    if (columnsDesk == null) {
      columnsDesk = new TableImportDesk(session, tableImport);
    }
    return columnsDesk;
  }

  @Override
  public Optional<Node> centre() {
    if (naming()) {
      if (columns == null) {
        columns = new TableImportView(tableImport);
      }
      return Optional.of(columns);
    }
    return session.isOpen() && !session.view().viewersShown().get()
        ? Optional.of(ledger)
        : Optional.empty();
  }

  @Override
  public void onRearranged(Runnable told) {
    tableImport.table().addListener((o, a, b) -> told.run());
    session.view().viewersShown().addListener((o, a, b) -> told.run());
    session.open().addListener((o, a, b) -> told.run());
  }
}
