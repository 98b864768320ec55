package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.trace.PlaneFeature;
import javafx.scene.control.Button;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.VBox;

/** What is flat and followed as a whole: the list, and what is done with it. */
final class PlanePart extends VBox {

  private final TraceBench bench;
  private final PlaneBench planes;
  private final Button draw;
  private final Button card;
  private final Button remove;
  private final FlowPane list = new FlowPane(4, 4);

  PlanePart(Session session, TraceBench bench) {
    super(8);
    this.bench = bench;
    this.planes = bench.planes();
    draw =
        Fields.button(
            "trace-plane", "Draw plane", () -> planes.drawing().set(!planes.drawing().get()));
    Tips.on(
        draw, "Click the four corners of something flat, round it. Drag a corner to correct it");
    card = Fields.button("trace-plane-card", "Make card", planes::card);
    remove = Fields.button("trace-plane-remove", "Remove plane", planes::remove);
    getChildren().addAll(Desk.heading("Planes"), new FlowPane(6, 6, draw, card, remove), list);
    planes.drawing().addListener((o, a, b) -> fill());
    planes.selected().addListener((o, a, b) -> fill());
    session.state().addListener((o, a, b) -> fill());
    session.shot().addListener((o, a, b) -> fill());
    bench.plates().addListener((o, a, b) -> fill());
    fill();
  }

  private void fill() {
    draw.setText(planes.drawing().get() ? "Stop drawing" : "Draw plane");
    draw.setDisable(!bench.obstacle().isEmpty());
    remove.setDisable(planes.selected().get() == null);
    String no = planes.noCard();
    card.setDisable(!no.isEmpty());
    Tips.on(
        card,
        no.isEmpty() ? "Geometry with its corners and centre, where the plane was solved" : no);
    list.getChildren().setAll(planes.shown().stream().map(this::button).toList());
    list.setManaged(!list.getChildren().isEmpty());
  }

  private Button button(PlaneFeature q) {
    int keys = q.shape().keys().size();
    Button b =
        Fields.button(
            "trace-plane-" + q.name(),
            q.name() + " · " + keys + (keys == 1 ? " key" : " keys"),
            () -> planes.selected().set(q.name()));
    if (q.name().equals(planes.selected().get())) {
      b.getStyleClass().add("on");
    }
    return b;
  }
}
