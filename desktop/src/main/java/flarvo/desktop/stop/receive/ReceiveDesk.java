package flarvo.desktop.stop.receive;

import flarvo.convention.FilmBack;
import flarvo.decision.ReceiveDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.receive.Conflict;
import flarvo.receive.Evidence;
import flarvo.receive.Fact;
import flarvo.receive.FilmBacks;
import flarvo.receive.Ledger;
import flarvo.receive.ReceivedSet;
import flarvo.report.Note;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.util.StringConverter;

/** What contradicts, why, what is proposed, and how each reading measures. */
public final class ReceiveDesk extends Desk {

  private final Session session;
  private final TableImport tableImport;
  private final Button takeAll = new Button("Accept all proposals");
  private final VBox cards = new VBox(8);
  private final VBox notes = new VBox(4);
  private final Label notesHead = heading("Import notes");
  private final VBox tables = new VBox(4);
  private final VBox plates = new VBox(4);
  private final KeysPart keys;
  private final SenderPart sender;

  public ReceiveDesk(Session session, TableImport tableImport) {
    super("Receive");
    this.session = session;
    this.tableImport = tableImport;
    sender = new SenderPart(session);
    keys = new KeysPart(session);
    takeAll.setId("take-all");
    takeAll.getStyleClass().addAll("small-button", "accent");
    takeAll.setMaxWidth(Double.MAX_VALUE);
    takeAll.setOnAction(e -> session.takeProposals());
    getChildren().addAll(takeAll, tables, cards, plates, keys, sender, notesHead, notes);
    session.state().addListener((o, a, b) -> fill());
    session.ledger().addListener((o, a, b) -> fill());
    session.errors().addListener((o, a, b) -> fill());
    session.project().loading().addListener((o, a, b) -> loading(b));
    session.project().problem().addListener((o, a, b) -> fill());
    fill();
  }

  /** What stands here is not built anew for it: that would cost the window several frames. */
  private void loading(boolean begins) {
    if (begins && session.isOpen() && session.project().problem().get().isEmpty()) {
      say("Reading the files…");
    } else {
      fill();
    }
  }

  private void fill() {
    sender.fill();
    keys.fill();
    // What does not fit at all is a question of how the sender speaks, before any other.
    int place = getChildren().indexOf(sender.misfits() ? tables : notesHead);
    int now = getChildren().indexOf(sender);
    if (now != place - 1) {
      getChildren().remove(sender);
      getChildren().add(getChildren().indexOf(sender.misfits() ? tables : notesHead), sender);
    }
    cards.getChildren().clear();
    notes.getChildren().clear();
    tables.getChildren().clear();
    plates.getChildren().clear();
    Ledger l = session.ledger().get();
    boolean shown = l != null && session.project().problem().get().isEmpty();
    takeAll.setVisible(shown && !l.open().isEmpty());
    takeAll.setManaged(takeAll.isVisible());
    notesHead.setVisible(false);
    notesHead.setManaged(false);
    if (!session.project().problem().get().isEmpty()) {
      say(session.project().problem().get());
      return;
    }
    if (!session.isOpen()) {
      say(
          session.project().loading().get()
              ? "Reading the files…"
              : "Nothing received. Drop a project or one shot's files or folder on the window.");
      return;
    }
    if (l == null) {
      say(
          session.state().get().received().isPresent()
              ? "Weighing claims…"
              : "This shot came from no files.");
      return;
    }
    say(sentence(l));
    tables(session.state().get().received().orElseThrow());
    plates(session.state().get().received().orElseThrow());
    l.conflicts().forEach(c -> cards.getChildren().add(card(c, l)));
    List<Note> all = session.state().get().received().orElseThrow().notes();
    notesHead.setVisible(!all.isEmpty());
    notesHead.setManaged(!all.isEmpty());
    for (Note n : all) {
      notes.getChildren().add(wrapped(n.toString(), "note"));
    }
  }

  /** A table that nobody described comes first: without it, questions stay unmeasured. */
  private void tables(ReceivedSet set) {
    for (Path t : set.tables()) {
      boolean waits = set.unmapped().contains(t);
      Button b = new Button("Columns");
      b.setId("columns-of-" + t.getFileName().toString().replace('.', '-'));
      b.getStyleClass().add("small-button");
      b.setAccessibleText("Columns of " + t.getFileName());
      b.setOnAction(e -> tableImport.open(t));
      Label name = new Label(t.getFileName().toString());
      name.setTextOverrun(javafx.scene.control.OverrunStyle.LEADING_ELLIPSIS);
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      HBox head = new HBox(6, name, gap, b);
      head.setAlignment(Pos.CENTER_LEFT);
      VBox box =
          new VBox(
              4,
              head,
              wrapped(
                  waits
                      ? "Columns not assigned."
                      : "It does not say what its columns are; it is read by a mapping.",
                  "reason"));
      box.getStyleClass().addAll("card", waits ? "open" : "settled");
      tables.getChildren().add(box);
    }
  }

  /** What each sequence is for; names only suggest it. */
  private void plates(ReceivedSet set) {
    if (!set.plates().isEmpty()) {
      plates.getChildren().add(heading("Plate roles"));
    }
    for (int i = 0; i < set.plates().size(); i++) {
      PlateSequence p = set.plates().get(i);
      int index = i;
      ComboBox<PlateRole> role = new ComboBox<>();
      role.getItems().setAll(PlateRole.values());
      role.setConverter(
          new StringConverter<>() {
            @Override
            public String toString(PlateRole r) {
              return r == null ? "" : r.word();
            }

            @Override
            public PlateRole fromString(String s) {
              return PlateRole.of(s);
            }
          });
      role.setValue(p.role());
      role.setId("plate-role-" + i);
      role.getStyleClass().add("small-field");
      role.setPrefWidth(130);
      role.setMinWidth(130);
      role.setAccessibleText("What " + p.pattern() + " is");
      role.setOnAction(e -> role(set, index, role.getValue()));
      Label name = new Label(p.pattern());
      Tips.on(name, p.folder() + "\n" + p.facts().depth());
      name.setTextOverrun(javafx.scene.control.OverrunStyle.LEADING_ELLIPSIS);
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      HBox row = new HBox(6, name, gap, role);
      row.setAlignment(Pos.CENTER_LEFT);
      plates.getChildren().add(row);
    }
  }

  private void role(ReceivedSet set, int index, PlateRole role) {
    PlateSequence p = set.plates().get(index);
    if (role != p.role()) {
      session.store().decide(new ReceiveDecision.SetPlateRole(p.pattern(), role));
    }
  }

  private static String sentence(Ledger l) {
    int open = l.open().size();
    int all = l.conflicts().size();
    if (all == 0) {
      return "All claims agree.";
    }
    if (open == 0) {
      return "The files contradicted each other in "
          + all
          + (all == 1 ? " fact; it is ruled." : " facts; all are ruled.");
    }
    return open
        + (open == 1 ? " question is open" : " questions are open")
        + ". Accept proposals or type rulings in the ledger.";
  }

  private Node card(Conflict c, Ledger l) {
    Label title = new Label((c.ruled() ? "= " : "≠ ") + c.fact().title());
    title.getStyleClass().add("card-title");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox head = new HBox(6, title, gap);
    head.setAlignment(Pos.CENTER_LEFT);
    if (c.fact().equals(Fact.FILM_BACK)) {
      head.getChildren().add(sizeClasses());
    }
    VBox box = new VBox(4, head, wrapped(capital(names(c.sentence(), l)), "note"));
    box.getStyleClass().addAll("card", c.ruled() ? "settled" : "open");
    box.setId("conflict-" + c.fact().id());
    if (!c.proposal().isEmpty()) {
      boolean taken = l.rulings().of(c.fact()).filter(c.proposal()::equals).isPresent();
      Button take = new Button(taken ? "Withdraw ruling" : "Accept " + c.proposal());
      take.setId("take-" + c.fact().id());
      take.getStyleClass().add("small-button");
      take.setOnAction(
          e ->
              session
                  .store()
                  .decide(new ReceiveDecision.Rule(c.fact(), taken ? null : c.proposal())));
      String lead =
          l.rulings().of(c.fact()).map(r -> "Ruled " + r + ". ").orElse("Proposed " + c.proposal());
      box.getChildren()
          .add(
              wrapped(
                  lead + (c.ruled() ? "Proposed because " : ": ") + names(c.reason(), l),
                  "reason"));
      box.getChildren().add(take);
    } else {
      box.getChildren().add(wrapped(capital(names(c.reason(), l)), "reason"));
    }
    for (Evidence e : c.evidence()) {
      box.getChildren().add(evidence(c, e));
    }
    return box;
  }

  private static String names(String text, Ledger l) {
    return SourceNames.shortened(text, l.sources());
  }

  private static String capital(String s) {
    boolean name = s.split(" ", 2)[0].indexOf('.') > 0; // a file's name stays as it is
    return name || s.isEmpty()
        ? s + "."
        : s.substring(0, 1).toUpperCase(Locale.ROOT) + s.substring(1) + ".";
  }

  private Node evidence(Conflict c, Evidence e) {
    Label px =
        number(String.format(Locale.ROOT, e.errorPx() < 10 ? "%.2f px" : "%.0f px", e.errorPx()));
    Button b = new Button(e.reading());
    b.getStyleClass().addAll("row-button", "evidence");
    b.setMaxWidth(Double.MAX_VALUE);
    b.setAlignment(Pos.CENTER_LEFT);
    b.setAccessibleText("Rule " + c.fact().title() + " as " + e.reading());
    b.setOnAction(a -> session.store().decide(new ReceiveDecision.Rule(c.fact(), e.ruling())));
    HBox.setHgrow(b, Priority.ALWAYS);
    HBox row = new HBox(6, b, px);
    row.setAlignment(Pos.CENTER_LEFT);
    return row;
  }

  private MenuButton sizeClasses() {
    MenuButton m = new MenuButton("By size");
    m.getStyleClass().add("small-button");
    m.setAccessibleText("Film back by size class");
    for (Map.Entry<String, FilmBack> e : FilmBacks.classes().entrySet()) {
      MenuItem i = new MenuItem(e.getKey() + "    " + FilmBacks.words(e.getValue()));
      i.setOnAction(
          a ->
              session
                  .store()
                  .decide(new ReceiveDecision.Rule(Fact.FILM_BACK, FilmBacks.exact(e.getValue()))));
      m.getItems().add(i);
    }
    return m;
  }

  private static Label wrapped(String text, String style) {
    Label l = new Label(text);
    l.setWrapText(true);
    l.setMinHeight(Region.USE_PREF_SIZE);
    l.getStyleClass().add(style);
    return l;
  }
}
