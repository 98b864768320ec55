package flarvo.desktop.stop.receive;

import flarvo.decision.ReceiveDecision;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.CopiesText;
import flarvo.desktop.stop.TextCopy;
import flarvo.desktop.stop.Tips;
import flarvo.receive.Claim;
import flarvo.receive.Conflict;
import flarvo.receive.Fact;
import flarvo.receive.Ledger;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.geometry.HPos;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * The ledger: a row for each fact, the ruling beside it, and a column for each source that says
 * something. What stands because a source is silent is in brackets.
 */
public final class LedgerView extends VBox implements CopiesText {

  private static final double FACT = 122;
  private static final double RULING = 140;
  private static final double SOURCE = 154;

  private final Session session;
  private final GridPane fixed = grid();
  private final GridPane sources = grid();
  private final Label empty = new Label();
  private final ObjectProperty<Fact<?>> chosen = new SimpleObjectProperty<>();

  public LedgerView(Session session) {
    this.session = session;
    getStyleClass().add("ledger");
    setAccessibleText("Ledger of claims");
    Label title = new Label("Ledger");
    title.getStyleClass().add("panel-title");
    Label key = new Label("(brackets): not stated, default used");
    key.getStyleClass().add("quiet");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button copy = new Button("Copy as text");
    copy.getStyleClass().add("small-button");
    copy.setOnAction(e -> copy());
    HBox bar = new HBox(12, title, key, gap, copy);
    bar.setAlignment(Pos.CENTER_LEFT);
    bar.getStyleClass().add("ledger-bar");
    ScrollPane across = new ScrollPane(sources);
    across.setVbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    across.setFitToHeight(true);
    across.getStyleClass().add("ledger-scroll");
    HBox.setHgrow(across, Priority.ALWAYS);
    HBox both = new HBox(fixed, across);
    ScrollPane down = new ScrollPane(both);
    down.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    down.setFitToWidth(true);
    down.getStyleClass().add("ledger-scroll");
    fixed.setMinWidth(FACT + RULING);
    empty.setWrapText(true);
    empty.getStyleClass().add("empty");
    VBox.setVgrow(down, Priority.ALWAYS);
    getChildren().addAll(bar, new StackPane(down, empty));
    VBox.setVgrow(getChildren().get(1), Priority.ALWAYS);
    session.ledger().addListener((o, a, b) -> fill());
    chosen.addListener((o, a, b) -> fill());
    fill();
  }

  private static GridPane grid() {
    GridPane g = new GridPane();
    g.getStyleClass().add("ledger-grid");
    return g;
  }

  /** The fact that the desk speaks about; may be null. */
  public ObjectProperty<Fact<?>> chosen() {
    return chosen;
  }

  private void copy() {
    TextCopy.copy(session, copiedName(), asText());
  }

  @Override
  public String copiedName() {
    return "Ledger";
  }

  @Override
  public String asText() {
    Ledger l = session.ledger().get();
    return l == null ? "" : l.asText();
  }

  private void fill() {
    fixed.getChildren().clear();
    sources.getChildren().clear();
    fixed.getColumnConstraints().setAll(column(FACT), column(RULING));
    sources.getColumnConstraints().clear();
    Ledger l = session.ledger().get();
    empty.setVisible(l == null);
    empty.setText(!session.isOpen() ? "The shot's claims appear here." : "Weighing claims…");
    if (l == null) {
      return;
    }
    fixed.add(head("Fact", null), 0, 0);
    fixed.add(head("Ruling", null), 1, 0);
    List<String> names = SourceNames.shortened(l.sources());
    for (int i = 0; i < names.size(); i++) {
      sources.getColumnConstraints().add(column(SOURCE));
      sources.add(head(names.get(i), l.sources().get(i)), i, 0);
    }
    int row = 1;
    for (Fact<?> f : Fact.values()) {
      Optional<Conflict> conflict = l.conflict(f);
      if (isEmpty(l, f)) {
        continue;
      }
      fixed.add(fact(f, conflict), 0, row);
      fixed.add(ruling(l, f), 1, row);
      for (int i = 0; i < l.sources().size(); i++) {
        sources.add(cell(l, l.of(f, l.sources().get(i)), conflict), i, row);
      }
      row++;
    }
  }

  /** Nobody says anything, nothing stands, and nothing was ruled. */
  private static boolean isEmpty(Ledger l, Fact<?> f) {
    return l.conflict(f).isEmpty()
        && l.rulings().of(f).isEmpty()
        && !l.standing().containsKey(f)
        && l.sources().stream().allMatch(s -> l.of(f, s).isEmpty());
  }

  private static ColumnConstraints column(double width) {
    ColumnConstraints c = new ColumnConstraints(width);
    c.setHalignment(HPos.LEFT);
    c.setFillWidth(true);
    return c;
  }

  private static Node head(String text, String whole) {
    Label l = new Label(text);
    l.getStyleClass().add("ledger-head");
    l.setMaxWidth(Double.MAX_VALUE);
    if (whole != null) {
      Tips.on(l, whole);
      l.setTextOverrun(javafx.scene.control.OverrunStyle.LEADING_ELLIPSIS);
    }
    return l;
  }

  /** A name, and a mark whose shape tells an open question from a settled one. */
  private Node fact(Fact<?> f, Optional<Conflict> conflict) {
    Label name = new Label(f.title());
    Label mark = new Label(conflict.isEmpty() ? "" : conflict.get().ruled() ? "=" : "≠");
    mark.getStyleClass().add("ledger-mark");
    mark.setMinWidth(14);
    HBox box = new HBox(4, mark, name);
    box.getStyleClass().add("ledger-cell");
    box.setAlignment(Pos.CENTER_LEFT);
    if (conflict.isPresent()) {
      box.getStyleClass().add(conflict.get().ruled() ? "settled" : "open");
      box.setFocusTraversable(true);
      box.setAccessibleText(
          f.title() + ": " + (conflict.get().ruled() ? "ruled" : "open question"));
      box.setOnMouseClicked(e -> chosen.set(f));
    }
    if (f.equals(chosen.get())) {
      box.getStyleClass().add("chosen");
    }
    box.setId("fact-" + f.id());
    return box;
  }

  private Node ruling(Ledger l, Fact<?> f) {
    String ruled = l.rulings().of(f).orElse("");
    String standing = l.standing().getOrDefault(f, "");
    if (!f.canBeRuled()) {
      Label label = new Label(standing);
      label.getStyleClass().addAll("number", "ledger-cell");
      label.setMaxWidth(Double.MAX_VALUE);
      return label;
    }
    TextField field = new TextField(ruled);
    field.setPromptText(standing);
    field.getStyleClass().addAll("number", "small-field", "ledger-field");
    field.setAccessibleText("Ruling on " + f.title());
    field.setId("rule-" + f.id());
    field.setOnAction(e -> rule(f, field));
    field.focusedProperty().addListener((o, a, now) -> leave(f, field, ruled, now));
    HBox box = new HBox(field);
    HBox.setHgrow(field, Priority.ALWAYS);
    box.setAlignment(Pos.CENTER_LEFT);
    box.getStyleClass().add("ledger-cell");
    return box;
  }

  /** What was typed counts also when the field is left by another way than Enter. */
  private void leave(Fact<?> f, TextField field, String ruled, boolean now) {
    if (!now && !field.getText().equals(ruled) && field.getScene() != null) {
      rule(f, field);
    }
  }

  private void rule(Fact<?> f, TextField field) {
    String text = field.getText().trim();
    Ledger l = session.ledger().get();
    if (text.equals(l.rulings().of(f).orElse(""))) {
      return;
    }
    try {
      if (!text.isEmpty()) {
        f.check(text);
      }
      if (field.isFocused()) {
        requestFocus(); // the row is made anew, the keys stay with the ledger; leaving rules
        return;
      }
      session.store().decide(new ReceiveDecision.Rule(f, text.isEmpty() ? null : text));
    } catch (IllegalArgumentException e) {
      if (!field.getStyleClass().contains("bad")) {
        field.getStyleClass().add("bad");
      }
      session.message().set(e.getMessage());
    }
  }

  private static Node cell(Ledger l, List<Claim<?>> claims, Optional<Conflict> conflict) {
    VBox box = new VBox();
    box.setAlignment(Pos.CENTER_LEFT);
    box.getStyleClass().add("ledger-cell");
    for (Claim<?> c : claims) {
      Label text = new Label(c.assumed() ? "(" + c.text() + ")" : c.text());
      text.getStyleClass().add("number");
      if (c.assumed()) {
        text.getStyleClass().add("quiet");
      }
      if (conflict.isPresent() && disagrees(l, c, conflict.get())) {
        text.getStyleClass().add("against");
      }
      Tips.on(
          text,
          (c.assumed() ? "not stated in file: " : "stated: ") + c.place() + "\n" + c.source());
      box.getChildren().add(text);
    }
    return box;
  }

  /** Whether a claim is not what was ruled, or not what is proposed. */
  private static <T> boolean disagrees(Ledger l, Claim<T> c, Conflict conflict) {
    Fact<T> f = c.fact();
    if (f.equals(Fact.UP_AXIS) || f.equals(Fact.UNIT)) {
      return c.value().isEmpty(); // what a file states counts for itself; rulings are for the rest
    }
    String ruling = l.rulings().of(f).orElse(conflict.proposal());
    try {
      return !ruling.isEmpty() && !c.value().map(v -> f.agrees(ruling, v)).orElse(false);
    } catch (IllegalArgumentException e) {
      return false;
    }
  }
}
