package flarvo.desktop.stop.receive;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.stop.TextCopy;
import flarvo.receive.Ledger;
import flarvo.scene.WorldShot;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.input.KeyCode;

/** What came in, and what its files claim. */
public final class ReceiveStop implements StopModule {

  public static final String ID = "receive";

  private final Session session;
  private final TableImport tableImport;
  private ReceiveView view;

  public ReceiveStop(Session session) {
    this.session = session;
    tableImport = new TableImport(session);
  }

  /** The table whose columns are being named. */
  public TableImport tableImport() {
    return tableImport;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Receive";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.state(), session.ledger());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return new Fact("nothing yet", Fact.Mark.HOLLOW, false);
    }
    WorldShot shot = session.shot().get();
    Ledger l = session.ledger().get();
    int open = l == null ? 0 : l.open().size();
    return open == 0
        ? new Fact(shot.frames().count() + " · " + shot.rate().display(), Fact.Mark.FULL, false)
        : new Fact(open + (open == 1 ? " conflict" : " conflicts"), Fact.Mark.HALF, true);
  }

  private Can weighed() {
    return Can.when(session.ledger().get() != null, "There is no ledger yet");
  }

  @Override
  public List<Action> actions() {
    return List.of(
        Action.of(
                "receive.views",
                "Ledger, or Picture and Space",
                () -> session.view().viewersShown().set(!session.view().viewersShown().get()))
            .on(Keys.of(KeyCode.TAB)),
        Action.of("receive.accept-all", "Accept all proposals", session::takeProposals)
            .called("take", "rule", "settle", "ledger")
            .on(Keys.ctrl(KeyCode.R))
            .when(this::weighed),
        Action.of("receive.copy-ledger", "Copy the ledger as text", this::copyLedger)
            .when(this::weighed));
  }

  private void copyLedger() {
    TextCopy.copy(session, "Ledger", session.ledger().get().asText());
  }

  @Override
  public List<Action> objects() {
    List<Action> list = new ArrayList<>();
    for (Path t : session.tables()) {
      list.add(
          Action.of("columns." + t, "Columns of " + t.getFileName(), () -> tableImport.open(t)));
    }
    return list;
  }

  @Override
  public boolean escape() {
    boolean naming = tableImport.table().get() != null;
    if (naming) {
      tableImport.close();
    }
    return naming;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new ReceiveView(session, tableImport);
    }
    return view;
  }
}
