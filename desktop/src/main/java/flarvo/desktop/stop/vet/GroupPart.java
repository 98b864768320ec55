package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.view.DotMark;
import flarvo.scene.TrackerSet;
import flarvo.vet.TrackerGroup;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiFunction;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ListCell;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Groups of trackers, and how their dots look. */
public final class GroupPart extends VBox {

  private final Session session;
  private final VetWork vet;
  private final ComboBox<String> name = new ComboBox<>();
  private final ComboBox<TrackerGroup.Dot> dot = new ComboBox<>();
  private final ComboBox<Integer> tint = new ComboBox<>();
  private boolean filling;

  GroupPart(Session session, VetWork vet) {
    super(6);
    this.session = session;
    this.vet = vet;
    name.setEditable(true);
    name.setId("group-name");
    name.setPromptText("name");
    name.setAccessibleText("Group of trackers");
    name.setPrefWidth(132);
    dot.setPrefWidth(120);
    tint.setPrefWidth(140);
    dot.setId("group-dot");
    dot.setAccessibleText("Shape of its dots");
    dot.getItems().setAll(TrackerGroup.Dot.values());
    cells(dot, (d, c) -> c.look(d, 0, d.word()));
    tint.setId("group-tint");
    tint.setAccessibleText("Colour of its dots");
    for (int i = 0; i < TrackerGroup.TINTS; i++) {
      tint.getItems().add(i);
    }
    cells(tint, (t, c) -> c.look(TrackerGroup.Dot.SQUARE, t, DotMark.word(t)));
    List.of(name, dot, tint).forEach(c -> c.getStyleClass().add("small-field"));
    name.getEditor().textProperty().addListener((o, a, b) -> fill());
    dot.setOnAction(e -> restyle());
    tint.setOnAction(e -> restyle());
    Button put = button("Add selected", "group-put");
    put.setOnAction(e -> vet.putInGroup(group(), Set.copyOf(session.selection())));
    Button pick = button("Select", "group-select");
    pick.setOnAction(e -> select());
    Button dissolve = button("Dissolve", "group-dissolve");
    dissolve.setOnAction(e -> vet.dissolve(typed()));
    getChildren()
        .addAll(
            Desk.heading("Groups"),
            Desk.row("Group", name),
            new HBox(6, dot, tint),
            new HBox(6, put, pick, dissolve));
    session.state().addListener((o, a, b) -> names());
    names();
    dot.setValue(TrackerGroup.Dot.SQUARE);
    tint.setValue(1);
  }

  private static Button button(String text, String id) {
    Button b = new Button(text);
    b.setId(id);
    b.setMinWidth(Region.USE_PREF_SIZE);
    b.getStyleClass().add("small-button");
    return b;
  }

  /** A cell with the dot beside its word. */
  private final class Cell<T> extends ListCell<T> {
    private final BiFunction<T, Cell<?>, Void> how;

    Cell(BiFunction<T, Cell<?>, Void> how) {
      this.how = how;
    }

    @Override
    protected void updateItem(T item, boolean none) {
      super.updateItem(item, none);
      if (none || item == null) {
        setText(null);
        setGraphic(null);
      } else {
        how.apply(item, this);
      }
    }

    Void look(TrackerGroup.Dot d, int t, String word) {
      setText(word);
      setGraphic(DotMark.node(d, t, session.view().theme().get().palette().ink()));
      return null;
    }
  }

  private <T> void cells(ComboBox<T> box, BiFunction<T, Cell<?>, Void> how) {
    box.setCellFactory(l -> new Cell<>(how));
    box.setButtonCell(new Cell<>(how));
  }

  private String typed() {
    return name.getEditor().getText() == null ? "" : name.getEditor().getText().trim();
  }

  private TrackerGroup group() {
    String n = typed().isEmpty() ? free() : typed();
    return vet.vetting()
        .group(n)
        .orElse(new TrackerGroup(n, dot.getValue(), tint.getValue(), Set.of()));
  }

  private String free() {
    for (int i = 1; ; i++) {
      String n = "group" + i;
      if (vet.vetting().group(n).isEmpty()) {
        name.getEditor().setText(n);
        return n;
      }
    }
  }

  private boolean stands(String n) {
    return session.isOpen()
        && session.state().get().shot().trackers().stream().anyMatch(t -> t.name().equals(n));
  }

  /** A group that is there already changes at once. */
  private void restyle() {
    String n = typed();
    if (filling || n.isEmpty() || !stands(n)) {
      return;
    }
    TrackerGroup was = group();
    TrackerGroup now = new TrackerGroup(n, dot.getValue(), tint.getValue(), was.members());
    if (vet.vetting().group(n).filter(now::equals).isEmpty()) {
      vet.styleGroup(now);
    }
  }

  private void select() {
    session.state().get().shot().trackers().stream()
        .filter(t -> t.name().equals(typed()))
        .findFirst()
        .ifPresent(
            t -> {
              Set<String> all = Set.copyOf(t.names());
              session.selection().retainAll(all);
              session.selection().addAll(all);
            });
  }

  private void names() {
    String now = name.getEditor().getText();
    List<String> all = new ArrayList<>();
    if (session.isOpen()) {
      session.state().get().shot().trackers().stream().map(TrackerSet::name).forEach(all::add);
    }
    if (!name.getItems().equals(all)) {
      name.getItems().setAll(all);
      name.getEditor().setText(now);
    }
    fill();
  }

  private void fill() {
    Optional<TrackerGroup> g = vet.vetting().group(typed());
    if (g.isPresent()) {
      filling = true;
      dot.setValue(g.get().dot());
      tint.setValue(g.get().tint());
      filling = false;
    }
  }
}
