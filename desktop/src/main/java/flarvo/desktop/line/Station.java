package flarvo.desktop.line;

import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.desktop.theme.Palette;
import javafx.geometry.Pos;
import javafx.scene.Cursor;
import javafx.scene.control.Label;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.shape.Arc;
import javafx.scene.shape.ArcType;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;

/** One stop on the line: a marker that is hollow, half or full, a name, and a fact. */
final class Station extends StackPane {

  private static final double RADIUS = 5.5;

  private final Stop stop;
  private final Session session;
  private final Circle ring = new Circle(RADIUS);
  private final Arc fill = new Arc(0, 0, RADIUS, RADIUS, 90, 180);
  private final Line rail = new Line();
  private final Label name;
  private final Label fact = new Label();

  Station(Stop stop, Session session) {
    this.stop = stop;
    this.session = session;
    setId("stop-" + stop.number());
    getStyleClass().add("station");
    setAlignment(Pos.TOP_LEFT);
    setMinWidth(104);
    name = new Label(stop.title());
    name.getStyleClass().add("station-name");
    fact.getStyleClass().add("station-fact");
    fact.setMinWidth(0);
    fill.setType(ArcType.ROUND);
    ring.setStrokeWidth(1.5);
    StackPane marker = new StackPane(ring, fill);
    marker.setMinSize(2 * RADIUS + 3, 2 * RADIUS + 3);
    marker.setMaxSize(2 * RADIUS + 3, 2 * RADIUS + 3);
    rail.setManaged(false);
    rail.setStrokeWidth(1);
    HBox head = new HBox(7, marker, name);
    head.setAlignment(Pos.CENTER_LEFT);
    VBox box = new VBox(1, head, fact);
    box.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(rail, box);
    setAlignment(box, Pos.CENTER_LEFT);
    if (stop.isBuilt()) {
      setCursor(Cursor.HAND);
      setFocusTraversable(true);
      setOnMouseClicked(e -> session.stop().set(stop));
      setOnKeyPressed(
          e -> {
            if (e.getCode() == javafx.scene.input.KeyCode.ENTER) {
              session.stop().set(stop);
            }
          });
    } else {
      getStyleClass().add("unbuilt");
      Tooltip.install(this, new Tooltip(stop.needs()));
    }
  }

  void show(StopFacts.Fact f, boolean current) {
    Palette p = session.view().theme().get().palette();
    boolean built = stop.isBuilt();
    Color colour = f.bad() ? p.conflict() : current ? p.accent() : built ? p.ink() : p.quiet();
    ring.setStroke(colour);
    ring.setFill(f.mark() == StopFacts.Mark.FULL ? colour : Color.TRANSPARENT);
    if (!built) {
      ring.getStrokeDashArray().setAll(2.5, 2.5);
    }
    fill.setVisible(f.mark() == StopFacts.Mark.HALF);
    fill.setFill(colour);
    fill.setTranslateX(-RADIUS / 2);
    rail.setStroke(p.lines());
    fact.setText(f.text());
    fact.getStyleClass().removeAll("bad-fact");
    if (f.bad()) {
      fact.getStyleClass().add("bad-fact");
    }
    getStyleClass().remove("current");
    if (current) {
      getStyleClass().add("current");
    }
    setAccessibleText(stop.title() + ", " + f.text() + (built ? "" : ". " + stop.needs()));
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    // The rail runs from behind the name to the next station's marker.
    double y = getHeight() / 2 - 9;
    rail.setStartX(24 + name.getWidth() + 8);
    rail.setEndX(stop == Stop.PROOF ? rail.getStartX() : getWidth() - 4);
    rail.setStartY(y);
    rail.setEndY(y);
  }
}
