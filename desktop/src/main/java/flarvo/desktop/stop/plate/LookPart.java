package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.work.Lane;
import flarvo.plate.look.CubeTable;
import flarvo.plate.look.Look;
import java.nio.file.Path;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.DoubleFunction;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** How plates look on the screen. No file is changed by it. */
final class LookPart extends VBox {

  private final Session session;
  private final TextField stops = Fields.small("look-stops", "0", "Exposure in stops", 64);
  private final TextField gamma = Fields.small("look-gamma", "1", "Gamma", 64);
  private final Label table = Desk.number("none");
  private final Button clear;

  LookPart(Session session) {
    super(6);
    this.session = session;
    clear = Fields.button("look-clear", "As in the file", () -> set(Look.NONE));
    table.setId("look-table");
    stops.setOnAction(e -> typed(stops, "exposure in stops", v -> look().withStops(v)));
    gamma.setOnAction(e -> typed(gamma, "gamma", v -> look().withGamma(v)));
    getChildren()
        .addAll(
            Desk.heading("Plates on the screen"),
            Desk.row("Exposure (stops)", stops),
            Desk.row("Gamma", gamma),
            Desk.row("Look-up table", table),
            new HBox(6, Fields.button("look-load", "Load .cube…", this::choose), clear));
    session.view().look().addListener((o, a, b) -> fill());
    fill();
  }

  private Look look() {
    return session.view().look().get();
  }

  private void set(Look l) {
    session.view().look().set(l);
  }

  private void typed(TextField f, String what, DoubleFunction<Look> made) {
    OptionalDouble v = Fields.number(session, f, what);
    if (v.isPresent()) {
      try {
        set(made.apply(v.getAsDouble()));
      } catch (IllegalArgumentException e) {
        String why = e.getMessage();
        session.message().set(why.substring(0, 1).toUpperCase(Locale.ROOT) + why.substring(1));
      }
    }
    fill();
  }

  private void choose() {
    FileChooser c = new FileChooser();
    c.setTitle("Look-up table");
    c.getExtensionFilters().add(new FileChooser.ExtensionFilter("Look-up tables", "*.cube"));
    Optional.ofNullable(c.showOpenDialog(getScene().getWindow())).ifPresent(f -> load(f.toPath()));
  }

  /** Reads a table beside the window and shows plates through it. */
  void load(Path file) {
    session
        .jobs()
        .run(
            Lane.LOAD,
            "Reading " + file.getFileName(),
            p -> CubeTable.read(file),
            t -> set(look().withTable(Optional.of(t))),
            why -> session.message().set(why));
  }

  private void fill() {
    Look l = look();
    stops.setText(number(l.stops()));
    gamma.setText(number(l.gamma()));
    table.setText(l.table().map(CubeTable::name).orElse("none"));
    clear.setDisable(l.isNone());
  }

  private static String number(double v) {
    return String.format(Locale.ROOT, "%.3f", v).replaceAll("0+$", "").replaceAll("\\.$", "");
  }
}
