package flarvo.desktop.stop.receive;

import flarvo.convention.AngleUnit;
import flarvo.convention.LinearUnit;
import flarvo.convention.RotationOrder;
import flarvo.convention.SignedAxis;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.format.table.ColumnRole;
import flarvo.format.table.FocalReading;
import flarvo.format.table.PixelReading;
import flarvo.format.table.TableLayout;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableShape;
import flarvo.receive.FilmBacks;
import flarvo.receive.MappingTrials;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Collectors;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** How a table is cut, how its numbers count, and what comes of it. */
public final class TableImportDesk extends Desk {

  private static final String OPEN = "as the ledger settles";

  private final Session session;
  private final TableImport columns;
  private final Button use = new Button("Apply mapping");
  private final VBox ways = new VBox(2);
  private final VBox settings = new VBox(6);
  private final TextField name = new TextField();
  private final MenuButton saved = new MenuButton("Saved");

  public TableImportDesk(Session session, TableImport columns) {
    super("Columns");
    this.session = session;
    this.columns = columns;
    use.setId("columns-use");
    use.getStyleClass().addAll("small-button", "accent");
    use.setMaxWidth(Double.MAX_VALUE);
    use.setOnAction(e -> columns.use());
    Button leave = new Button("Close");
    leave.setId("columns-leave");
    leave.getStyleClass().add("small-button");
    leave.setOnAction(e -> columns.close());
    HBox buttons = new HBox(6, use, leave);
    HBox.setHgrow(use, Priority.ALWAYS);
    name.setPromptText("mapping name");
    name.setId("columns-name");
    name.getStyleClass().add("small-field");
    name.setAccessibleText("Name of this mapping");
    name.setOnAction(e -> columns.save(name.getText()));
    Button keep = new Button("Save mapping");
    keep.setId("columns-keep");
    keep.getStyleClass().add("small-button");
    keep.setOnAction(e -> columns.save(name.getText()));
    saved.getStyleClass().add("small-button");
    saved.setAccessibleText("Saved mappings");
    keep.setMinWidth(Region.USE_PREF_SIZE);
    saved.setMinWidth(Region.USE_PREF_SIZE);
    name.setPrefColumnCount(6);
    HBox.setHgrow(name, Priority.ALWAYS);
    HBox shelf = new HBox(6, name, keep, saved);
    shelf.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(buttons, shelf, ways, settings);
    columns.draft().addListener((o, a, b) -> fill());
    columns.outcome().addListener((o, a, b) -> outcome());
    fill();
    outcome();
  }

  private void set(TableMapping m) {
    columns.draft().set(m);
  }

  private void fill() {
    settings.getChildren().clear();
    TableMapping m = columns.draft().get();
    if (m == null) {
      return;
    }
    name.setText(m.name());
    saved.getItems().clear();
    for (TableMapping s : columns.saved()) {
      MenuItem i = new MenuItem(s.name());
      i.setOnAction(e -> set(s.withPicture(columns.draft().get().picture())));
      saved.getItems().add(i);
    }
    saved.setDisable(saved.getItems().isEmpty());
    layout(m);
    numbers(m);
  }

  private void layout(TableMapping m) {
    TableLayout l = m.layout();
    add(heading("Text"));
    add(
        row(
            "Separator",
            choice(
                "between",
                TableLayout.Between.values(),
                TableLayout.Between::word,
                l.between(),
                b -> columns.cut(l.withBetween(b)))));
    if (l.between() == TableLayout.Between.FIXED) {
      String cuts = l.cuts().stream().map(Object::toString).collect(Collectors.joining(" "));
      add(row("Columns begin at", field("cuts", cuts, t -> columns.cut(l.withCuts(cuts(t))))));
    }
    add(
        row(
            "Skip lines",
            field(
                "skip",
                Integer.toString(l.skip()),
                t -> columns.cut(l.withSkip(Math.max(0, whole(t)))))));
    add(
        row(
            "Layout",
            choice(
                "shape",
                TableShape.values(),
                TableShape::title,
                l.shape(),
                s -> columns.cut(l.withShape(s)))));
    add(check("header", "Header row", l.header(), b -> columns.cut(l.withHeader(b))));
    add(
        check(
            "comma",
            "Numbers have a decimal comma",
            l.decimalComma(),
            b -> columns.cut(l.withDecimalComma(b))));
  }

  /** Only what the columns at hand ask for. */
  private void numbers(TableMapping m) {
    boolean flat = m.has(ColumnRole.PIXEL_X) || m.has(ColumnRole.PIXEL_Y);
    boolean deep = m.has(ColumnRole.X) || m.has(ColumnRole.Y) || m.has(ColumnRole.Z);
    boolean turns =
        m.has(ColumnRole.TURN_X) || m.has(ColumnRole.TURN_Y) || m.has(ColumnRole.TURN_Z);
    add(heading("Number conventions"));
    if (flat) {
      PixelReading p = m.pixels();
      add(
          row(
              "2D from the",
              choice(
                  "origin",
                  PixelReading.Origin.values(),
                  PixelReading.Origin::word,
                  p.origin(),
                  v -> set(m.withPixels(p.withOrigin(v))))));
      add(check("up", "2D y grows upwards", p.up(), b -> set(m.withPixels(p.withUp(b)))));
      add(
          row(
              "2D in",
              choice(
                  "scale",
                  PixelReading.Scale.values(),
                  PixelReading.Scale::word,
                  p.scale(),
                  v -> set(m.withPixels(p.withScale(v))))));
      add(
          check(
              "centres",
              "Integers are pixel centres",
              p.centres(),
              b -> set(m.withPixels(p.withCentres(b)))));
    }
    if (deep) {
      space(m);
    }
    if (turns) {
      add(
          row(
              "Angles in",
              choice(
                  "angles",
                  AngleUnit.values(),
                  AngleUnit::word,
                  m.angles(),
                  v -> set(m.withAngles(v, m.order())))));
      add(
          row(
              "Rotation order",
              choice(
                  "order",
                  RotationOrder.values(),
                  RotationOrder::toString,
                  m.order(),
                  v -> set(m.withAngles(m.angles(), v)))));
    }
    if (m.isCamera()) {
      add(
          row(
              "Focal length is",
              choice(
                  "focal",
                  FocalReading.values(),
                  FocalReading::word,
                  m.focal(),
                  v -> set(m.withFocal(v)))));
    }
    if (m.isCamera() && !m.has(ColumnRole.FILM_WIDTH, ColumnRole.FILM_HEIGHT)) {
      add(
          row(
              "Film back",
              field(
                  "film",
                  m.film().map(FilmBacks::exact).orElse(""),
                  t ->
                      set(
                          m.withFilm(
                              t.isBlank() ? Optional.empty() : Optional.of(FilmBacks.parse(t)))))));
    }
    if (flat || m.isCamera()) {
      add(
          row(
              "Picture size",
              field(
                  "picture",
                  m.picture().map(PictureSize::toString).orElse(""),
                  t ->
                      set(
                          m.withPicture(
                              t.isBlank()
                                  ? Optional.empty()
                                  : Optional.of(PictureSize.parse(t)))))));
    }
    if (m.hasFrames() && m.frameRole() != ColumnRole.FRAME) {
      add(
          row(
              "Rate",
              field(
                  "rate",
                  m.rate().map(Rate::toString).orElse(""),
                  t ->
                      set(
                          m.withRate(
                              t.isBlank() ? Optional.empty() : Optional.of(Rate.parse(t)))))));
    }
    if (m.hasFrames()) {
      add(
          row(
              "Frame shift",
              field(
                  "shift",
                  Integer.toString(m.frameShift()),
                  t -> set(m.withFrameShift(whole(t))))));
    }
  }

  private void space(TableMapping m) {
    List<String> units = new ArrayList<>(List.of(OPEN, "mm", "cm", "m", "inch", "foot"));
    String unit = m.unit().map(LinearUnit::toString).orElse(OPEN);
    if (!units.contains(unit)) {
      units.add(unit);
    }
    add(
        row(
            "Unit",
            choice(
                "unit",
                units.toArray(String[]::new),
                Function.identity(),
                unit,
                v ->
                    set(
                        m.withSpace(
                            v.equals(OPEN)
                                ? Optional.empty()
                                : v.equals(unit) ? m.unit() : Optional.of(LinearUnit.parse(v)),
                            m.up())))));
    add(
        row(
            "Up axis",
            choice(
                "up-axis",
                new String[] {OPEN, "+Y", "+Z"},
                Function.identity(),
                m.up().map(SignedAxis::toString).orElse(OPEN),
                v ->
                    set(
                        m.withSpace(
                            m.unit(),
                            v.equals(OPEN)
                                ? Optional.empty()
                                : Optional.of(SignedAxis.parse(v)))))));
  }

  private void outcome() {
    ways.getChildren().clear();
    TableImport.Outcome o = columns.outcome().get();
    use.setDisable(o == null || o.file().isEmpty());
    if (o == null) {
      say("Say what each column holds; what it reads as is shown below the table.");
      return;
    }
    if (o.file().isEmpty()) {
      say(o.why().substring(0, 1).toUpperCase(Locale.ROOT) + o.why().substring(1) + ".");
      return;
    }
    say(
        Double.isNaN(o.errorPx())
            ? "Mapping valid; nothing to measure against."
            : String.format(Locale.ROOT, "Error with this mapping: %s.", px(o.errorPx())));
    if (!o.ways().isEmpty()) {
      ways.getChildren().add(heading("Measured"));
    }
    for (MappingTrials.Way w : o.ways()) {
      Button b = new Button(w.words());
      b.getStyleClass().addAll("row-button", "evidence");
      b.setMaxWidth(Double.MAX_VALUE);
      b.setAlignment(Pos.CENTER_LEFT);
      b.setOnAction(e -> set(w.mapping()));
      HBox.setHgrow(b, Priority.ALWAYS);
      HBox line = new HBox(6, b, number(px(w.errorPx())));
      line.setAlignment(Pos.CENTER_LEFT);
      ways.getChildren().add(line);
    }
  }

  private static String px(double v) {
    return String.format(Locale.ROOT, v < 10 ? "%.2f px" : "%.0f px", v);
  }

  private void add(Node n) {
    settings.getChildren().add(n);
  }

  private <T> ComboBox<T> choice(
      String id, T[] all, Function<T, String> word, T now, Consumer<T> then) {
    ComboBox<T> c = new ComboBox<>();
    c.getItems().setAll(Arrays.asList(all));
    c.setConverter(Fields.shown(word));
    c.setValue(now);
    c.setId("columns-" + id);
    c.getStyleClass().add("small-field");
    c.setPrefWidth(168);
    c.setOnAction(e -> then.accept(c.getValue()));
    return c;
  }

  /** Typed text counts on Enter and when the field is left; nonsense is marked and said. */
  private TextField field(String id, String text, Consumer<String> then) {
    TextField f = new TextField(text);
    f.setId("columns-" + id);
    f.getStyleClass().addAll("small-field", "number");
    f.setPrefWidth(168);
    Runnable take =
        () -> {
          if (f.getText().equals(text)) {
            return;
          }
          try {
            then.accept(f.getText());
          } catch (IllegalArgumentException e) {
            if (!f.getStyleClass().contains("bad")) {
              f.getStyleClass().add("bad");
            }
            session.message().set(e.getMessage());
          }
        };
    f.setOnAction(e -> take.run());
    f.focusedProperty()
        .addListener(
            (o, a, now) -> {
              if (!now && f.getScene() != null) {
                take.run();
              }
            });
    return f;
  }

  private static CheckBox check(String id, String text, boolean on, Consumer<Boolean> then) {
    CheckBox c = new CheckBox(text);
    c.setId("columns-" + id);
    c.setSelected(on);
    c.setOnAction(e -> then.accept(c.isSelected()));
    return c;
  }

  private static int whole(String text) {
    try {
      return Integer.parseInt(text.trim());
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException("'" + text + "' is not an integer", e);
    }
  }

  private static List<Integer> cuts(String text) {
    List<Integer> out = new ArrayList<>();
    for (String t : text.trim().split("[\\s,;]+")) {
      if (!t.isEmpty()) {
        out.add(whole(t));
      }
    }
    return out;
  }
}
