package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.lens.LensModel;
import flarvo.lens.fit.StraightLine;
import java.util.List;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ToggleButton;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Edges that are straight in the world, and the lens that makes them so. */
final class LinesPart extends VBox {

  private final Session session;
  private final LensWorkbench bench;
  private final ToggleButton trace = new ToggleButton("Trace");
  private final Button edges;
  private final Button clear;
  private final Button board;
  private final Button remove;
  private final Button fit;
  private final Label count = Desk.wrapped();
  private final Label said = Desk.wrapped();

  LinesPart(Session session, LensWorkbench bench) {
    super(6);
    this.session = session;
    this.bench = bench;
    trace.setId("plate-trace");
    trace.getStyleClass().add("small-button");
    trace.selectedProperty().bindBidirectional(bench.tracing());
    edges = Fields.button("plate-edges", "Find edges", bench::findEdges);
    clear = Fields.button("plate-clear-lines", "Remove all", bench::removeAll);
    board = Fields.button("plate-board", "Find board", bench::findBoard);
    remove = Fields.button("plate-remove-line", "Remove", bench::removeSelected);
    fit = Fields.button("plate-fit", "Fit the lens", bench::fit);
    count.setId("plate-lines");
    said.setId("plate-said");
    said.textProperty().bind(bench.said());
    said.managedProperty().bind(bench.said().isNotEmpty());
    CheckBox centre = new CheckBox("Centre of distortion");
    centre.setId("plate-fit-centre");
    centre.selectedProperty().bindBidirectional(bench.centre());
    getChildren()
        .addAll(
            Desk.heading("Straight edges"),
            count,
            new HBox(6, trace, edges, board),
            new HBox(6, remove, clear),
            Desk.row("Model", models()),
            centre,
            fit,
            said);
    session.state().addListener((o, a, b) -> fill());
    session.playhead().frame().addListener((o, a, b) -> fill());
    session.shot().addListener((o, a, b) -> fill());
    bench.selected().addListener((o, a, b) -> fill());
    bench.tracing().addListener((o, a, b) -> fill());
    fill();
  }

  private ComboBox<LensModel> models() {
    ComboBox<LensModel> c = new ComboBox<>();
    c.getItems().setAll(LensModel.values());
    c.setId("plate-model");
    c.getStyleClass().add("small-field");
    c.setConverter(Fields.shown(LensModel::title));
    c.valueProperty().bindBidirectional(bench.model());
    return c;
  }

  private void fill() {
    List<StraightLine> lines = bench.work().lines();
    trace.setDisable(!bench.obstacle().isEmpty());
    board.setDisable(!bench.obstacle().isEmpty());
    edges.setDisable(!bench.obstacle().isEmpty());
    clear.setDisable(lines.isEmpty());
    remove.setDisable(bench.selected().get() == null);
    fit.setDisable(lines.isEmpty());
    long frames = lines.stream().mapToInt(StraightLine::frame).distinct().count();
    long here = lines.stream().filter(l -> l.frame() == session.playhead().frame().get()).count();
    String all =
        lines.size()
            + (lines.size() == 1 ? " edge" : " edges")
            + (frames == 1 && here > 0
                ? " on this frame."
                : " on "
                    + frames
                    + (frames == 1 ? " frame, " : " frames, ")
                    + here
                    + " on this one.");
    count.setText(
        !bench.obstacle().isEmpty()
            ? bench.obstacle() + "."
            : bench.tracing().get()
                ? "Click both ends of an edge that is straight in the world; it is followed"
                    + " between them. Esc ends."
                : lines.isEmpty()
                    ? "Trace or find edges that are straight in the world, near the borders of the"
                        + " picture above all, on any frames; or find a filmed chequer board."
                    : all);
  }
}
