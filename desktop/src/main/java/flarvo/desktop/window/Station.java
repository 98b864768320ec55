package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.theme.Palette;
import javafx.geometry.Pos;
import javafx.scene.Cursor;
import javafx.scene.control.Label;
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

  private final StopModule stop;
  private final boolean last;
  private final Session session;
  private final Circle ring = new Circle(RADIUS);
  private final Arc fill = new Arc(0, 0, RADIUS, RADIUS, 90, 180);
  private final Line rail = new Line();
  private final Label name;
  private final Label fact = new Label();
  private Fact shown;
  private boolean isCurrent;
  private Palette drawnIn;

  /**
   * @param number its key, from 1
   */
  Station(StopModule stop, int number, boolean last, Session session) {
    this.stop = stop;
    this.last = last;
    this.session = session;
    setId("stop-" + number);
    getStyleClass().add("station");
    setAlignment(Pos.TOP_LEFT);
    setMinWidth(84);
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
    setCursor(Cursor.HAND);
    setFocusTraversable(true);
    setOnMouseClicked(e -> session.stop().set(stop.id()));
    setOnKeyPressed(
        e -> {
          if (e.getCode() == javafx.scene.input.KeyCode.ENTER) {
            session.stop().set(stop.id());
          }
        });
  }

  void show(Fact f, boolean current) {
    Palette p = session.view().theme().get().palette();
    if (f.equals(shown) && current == isCurrent && p.equals(drawnIn)) {
      return;
    }
    shown = f;
    isCurrent = current;
    drawnIn = p;
    Color colour = f.bad() ? p.conflict() : current ? p.accent() : p.ink();
    ring.setStroke(colour);
    ring.setFill(f.mark() == Fact.Mark.FULL ? colour : Color.TRANSPARENT);
    fill.setVisible(f.mark() == Fact.Mark.HALF);
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
    setAccessibleText(stop.title() + ", " + f.text());
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    // The rail runs from behind the name to the next station's marker.
    double y = getHeight() / 2 - 9;
    rail.setStartX(24 + name.getWidth() + 8);
    rail.setEndX(last ? rail.getStartX() : getWidth() - 4);
    rail.setStartY(y);
    rail.setEndY(y);
  }
}
