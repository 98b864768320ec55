package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.CopiesText;
import flarvo.desktop.stop.TextCopy;
import flarvo.desktop.view.DotMark;
import flarvo.desktop.work.Lane;
import flarvo.vet.Measures;
import flarvo.vet.TrackerMeasure;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.function.Supplier;
import java.util.function.ToDoubleFunction;
import javafx.application.Platform;
import javafx.beans.binding.Bindings;
import javafx.beans.property.SimpleObjectProperty;
import javafx.collections.ListChangeListener;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TableCell;
import javafx.scene.control.TableColumn;
import javafx.scene.control.TableView;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Every tracker in numbers, those that were left out too; sorted, filtered, driven by keys. */
public final class TrackerTable extends VBox implements CopiesText {

  private final Session session;
  private final VetWork vet;
  private final TableView<TrackerMeasure> table = new TableView<>();
  private final WholeList<TrackerMeasure> shown = new WholeList<>();
  private final Map<TableColumn<TrackerMeasure, ?>, Supplier<Comparator<TrackerMeasure>>> orders =
      new HashMap<>();
  private List<TrackerMeasure> rows = List.of();
  private Map<String, Integer> rowOf = Map.of();
  private final TextField filter = new TextField();
  private final Label count = new Label();
  private boolean following;

  /** More rows than this are put in order beside the window. */
  private static final int FEW = 2_000;

  /** Rows as they are shown, and the place of each by its name. */
  private record Arranged(List<TrackerMeasure> list, Map<String, Integer> rowOf) {

    static Arranged of(
        List<TrackerMeasure> rows,
        Predicate<TrackerMeasure> passes,
        Optional<Comparator<TrackerMeasure>> order) {
      List<TrackerMeasure> list = new ArrayList<>(rows.size());
      for (TrackerMeasure t : rows) {
        if (passes.test(t)) {
          list.add(t);
        }
      }
      order.ifPresent(list::sort);
      Map<String, Integer> rowOf = new HashMap<>(2 * list.size());
      for (int i = 0; i < list.size(); i++) {
        rowOf.put(list.get(i).name(), i);
      }
      return new Arranged(list, rowOf);
    }
  }

  private boolean asked;

  public TrackerTable(Session session, VetWork vet) {
    this.session = session;
    this.vet = vet;
    getStyleClass().add("board");
    table.setId("tracker-table");
    table.setAccessibleText("Trackers in numbers");
    table.setPlaceholder(new Label("No trackers. They come with the solve."));
    table.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
    table.setFixedCellSize(22);
    text("Tracker", 68, TrackerMeasure::name);
    groups();
    states();
    number("RMS px", 58, "%.3f", TrackerMeasure::rmsPx);
    number("Max px", 56, "%.2f", TrackerMeasure::maxPx);
    number("Trend px", 60, "%.2f", TrackerMeasure::driftPx);
    number("Frames", 56, "%.0f", t -> t.frames());
    number("First", 46, "%.0f", t -> t.first());
    number("Last", 46, "%.0f", t -> t.last());
    number("Parallax °", 56, "%.1f", t -> Math.toDegrees(t.angle()));
    number("Depth m", 62, "%.2f", TrackerMeasure::depth);
    number("± m", 62, "%.3f", TrackerMeasure::depthError);
    table.setItems(shown);
    // Rows are put in order here, by their numbers: thousands of cells compared take too long.
    table.setSortPolicy(
        t -> {
          arrange();
          return true;
        });
    getChildren().addAll(bar(), table);
    VBox.setVgrow(table, Priority.ALWAYS);
    table
        .getSelectionModel()
        .getSelectedItems()
        .addListener((ListChangeListener<TrackerMeasure>) c -> toSession());
    session.selection().addListener((SetChangeListener<String>) c -> follow());
    vet.measures().addListener((o, a, b) -> fill());
    session
        .state()
        .addListener(
            (o, a, b) -> {
              // The state column follows by itself; a table that is refreshed makes new cells.
              if (!a.vetting().groups().equals(b.vetting().groups())) {
                table.refresh();
              }
            });
    fill();
  }

  private HBox bar() {
    Label title = new Label("Trackers");
    title.getStyleClass().add("panel-title");
    filter.setPromptText("name, group, > 0.5 px");
    filter.setAccessibleText(
        "Filter the table by name, group, error (> 0.5 px) or frames (< 20 fr)");
    filter.getStyleClass().add("small-field");
    filter.setPrefWidth(160);
    filter.textProperty().addListener((o, a, b) -> arrange());
    title.setMinWidth(Region.USE_PREF_SIZE);
    count.setMinWidth(Region.USE_PREF_SIZE);
    count.getStyleClass().addAll("quiet", "number");
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Button copy = button("Copy", this::copy);
    Button out = button("Cull", () -> vet.cullByHand(Set.copyOf(session.selection())));
    out.setId("cull-selected");
    Button back = button("Restore", () -> vet.restore(Set.copyOf(session.selection())));
    back.setId("restore-selected");
    Button weight =
        button(
            "Weight",
            () -> {
              Set<String> s = Set.copyOf(session.selection());
              boolean off = s.stream().allMatch(vet.vetting().weightless()::contains);
              vet.weigh(s, off);
            });
    HBox bar = new HBox(8, title, filter, count, gap, out, back, weight, copy);
    bar.setAlignment(Pos.CENTER_LEFT);
    return bar;
  }

  private static Button button(String text, Runnable action) {
    Button b = new Button(text);
    b.getStyleClass().add("small-button");
    b.setMinWidth(Region.USE_PREF_SIZE);
    b.setOnAction(e -> action.run());
    return b;
  }

  private void text(String title, double width, Function<TrackerMeasure, String> value) {
    TableColumn<TrackerMeasure, String> c = new TableColumn<>(title);
    c.setCellValueFactory(f -> new SimpleObjectProperty<>(value.apply(f.getValue())));
    c.setPrefWidth(width);
    table.getColumns().add(c);
    orders.put(c, () -> Comparator.comparing(value));
  }

  /** A group's name behind its dot. */
  private void groups() {
    text("Group", 68, TrackerMeasure::group);
    @SuppressWarnings("unchecked")
    TableColumn<TrackerMeasure, String> c =
        (TableColumn<TrackerMeasure, String>) table.getColumns().get(1);
    c.setCellFactory(
        k ->
            new TableCell<>() {
              @Override
              protected void updateItem(String v, boolean none) {
                super.updateItem(v, none);
                setText(none ? null : v);
                setGraphic(
                    none || v == null
                        ? null
                        : vet.vetting()
                            .group(v)
                            .map(
                                x ->
                                    DotMark.node(
                                        x.dot(),
                                        x.tint(),
                                        session.view().theme().get().palette().ink()))
                            .orElse(null));
              }
            });
  }

  private void number(
      String title, double width, String format, ToDoubleFunction<TrackerMeasure> value) {
    TableColumn<TrackerMeasure, Double> c = new TableColumn<>(title);
    c.setCellValueFactory(f -> new SimpleObjectProperty<>(value.applyAsDouble(f.getValue())));
    c.setCellFactory(
        k ->
            new TableCell<>() {
              @Override
              protected void updateItem(Double v, boolean none) {
                super.updateItem(v, none);
                setText(
                    none || v == null
                        ? null
                        : Double.isFinite(v) ? String.format(Locale.ROOT, format, v) : "–");
              }
            });
    c.getStyleClass().add("number-column");
    c.setPrefWidth(width);
    table.getColumns().add(c);
    orders.put(c, () -> Comparator.comparingDouble(value));
  }

  /** Says anew what becomes of a tracker whenever something is decided. */
  private void states() {
    TableColumn<TrackerMeasure, String> c = new TableColumn<>("State");
    c.setCellValueFactory(
        f ->
            Bindings.createStringBinding(
                () -> stateOf().apply(f.getValue()),
                session.state(),
                session.view().errorLimitPx()));
    c.setPrefWidth(60);
    table.getColumns().add(c);
    orders.put(c, () -> Comparator.comparing(stateOf()));
  }

  /** What is said of each tracker, as the shot stands now. */
  private Function<TrackerMeasure, String> stateOf() {
    Set<String> culled = vet.vetting().culled();
    Set<String> uncounted = vet.uncounted();
    double limit = session.view().errorLimitPx().get();
    return t -> {
      if (culled.contains(t.name())) {
        return "culled";
      }
      return uncounted.contains(t.name()) ? "no weight" : t.rmsPx() > limit ? "over" : "";
    };
  }

  private void fill() {
    Measures m = vet.measures().get();
    List<TrackerMeasure> all = new ArrayList<>();
    if (m != null) {
      all.addAll(m.trackers());
      double no = Double.NaN;
      for (String n : vet.vetting().culledInOrder()) {
        all.add(new TrackerMeasure(n, "", 0, 0, 0, no, no, no, no, no, no, no));
      }
    }
    rows = all;
    arrange();
  }

  /** The rows that pass the filter, in the order of the columns that were clicked. */
  private void arrange() {
    List<TrackerMeasure> all = rows;
    Predicate<TrackerMeasure> passes = filtered();
    Optional<Comparator<TrackerMeasure>> order = order();
    if (all.size() <= FEW) {
      session.jobs().drop(this);
      show(Arranged.of(all, passes, order));
    } else {
      session
          .jobs()
          .newest(
              this,
              Lane.MEASURE,
              "Sorting the trackers",
              p -> Arranged.of(all, passes, order),
              this::show,
              session.message()::set);
    }
  }

  private void show(Arranged a) {
    following = true;
    boolean isNew = shown.isEmpty();
    // Else the table looks for what was chosen among all rows, value by value.
    table.getSelectionModel().clearSelection();
    shown.replace(a.list());
    rowOf = a.rowOf();
    following = false;
    count.setText(shown.size() + " of " + rows.size());
    select(isNew);
  }

  private Optional<Comparator<TrackerMeasure>> order() {
    Comparator<TrackerMeasure> all = null;
    for (TableColumn<TrackerMeasure, ?> c : table.getSortOrder()) {
      Comparator<TrackerMeasure> own = orders.get(c).get();
      own = c.getSortType() == TableColumn.SortType.DESCENDING ? own.reversed() : own;
      all = all == null ? own : all.thenComparing(own);
    }
    return Optional.ofNullable(all);
  }

  /** A name's part, or a limit on error or life. */
  private Predicate<TrackerMeasure> filtered() {
    String f = filter.getText().trim().toLowerCase(Locale.ROOT);
    String digits = f.replaceAll("[^0-9.]", "");
    if ((f.startsWith(">") || f.startsWith("<"))
        && !digits.isEmpty()
        && digits.matches("[0-9]*\\.?[0-9]*")) {
      double limit = Double.parseDouble(digits.equals(".") ? "0" : digits);
      boolean more = f.startsWith(">");
      boolean life = f.contains("fr");
      return t -> {
        double v = life ? t.frames() : t.rmsPx();
        return more ? v > limit : v < limit;
      };
    }
    return f.isEmpty()
        ? t -> true
        : t ->
            t.name().toLowerCase(Locale.ROOT).contains(f)
                || t.group().toLowerCase(Locale.ROOT).contains(f);
  }

  private void toSession() {
    if (!following) {
      following = true;
      Set<String> now = new HashSet<>();
      for (TrackerMeasure t : table.getSelectionModel().getSelectedItems()) {
        if (t != null) {
          now.add(t.name());
        }
      }
      session.selection().retainAll(now);
      session.selection().addAll(now);
      following = false;
    }
  }

  /** Several changes at once, such as clear and add, are followed once. */
  private void follow() {
    if (!following && !asked) {
      asked = true;
      Platform.runLater(
          () -> {
            asked = false;
            select(true);
          });
    }
  }

  /**
   * Chooses what is chosen in the session.
   *
   * @param scrolls not after an edit or a sort: the table stays where it was left
   */
  private void select(boolean scrolls) {
    if (following) {
      return;
    }
    following = true;
    table.getSelectionModel().clearSelection();
    if (!session.selection().isEmpty()) {
      List<Integer> at = new ArrayList<>();
      for (String n : session.selection()) {
        Integer row = rowOf.get(n);
        if (row != null) {
          at.add(row);
        }
      }
      if (!at.isEmpty()) {
        Collections.sort(at);
        int first = at.get(0);
        int[] rest = at.stream().skip(1).mapToInt(Integer::intValue).toArray();
        table.getSelectionModel().selectIndices(first, rest);
        if (scrolls) {
          table.scrollTo(Math.max(0, first - 2));
        }
      }
    }
    following = false;
  }

  /** The rows that are shown, as tab separated text with a header. */
  @Override
  public String asText() {
    StringBuilder text = new StringBuilder();
    table.getColumns().forEach(c -> text.append(c.getText()).append('\t'));
    for (int i = 0; i < table.getItems().size(); i++) {
      text.append('\n');
      for (TableColumn<TrackerMeasure, ?> c : table.getColumns()) {
        text.append(c.getCellData(i)).append('\t');
      }
    }
    return text.append('\n').toString();
  }

  @Override
  public String copiedName() {
    return "Tracker table";
  }

  private void copy() {
    TextCopy.copy(session, copiedName(), asText());
  }
}
