package flarvo.desktop.window;

import flarvo.desktop.state.Playhead;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Tips;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;

/** Play, step, in and out, and the frame as a number that can be typed. */
public final class Transport extends HBox {

  public Transport(Session session) {
    Playhead head = session.playhead();
    getStyleClass().add("transport");
    setAlignment(Pos.CENTER_LEFT);
    setSpacing(4);
    Button first = button("|‹", "First frame (Home)", () -> head.goTo(head.range().first()));
    Button back = button("‹", "Previous frame (←)", () -> head.step(-1));
    Button play = button("Play", "Play or pause (Space)", () -> toggle(head));
    play.setId("play");
    play.setMinWidth(58);
    head.playing().addListener((o, a, b) -> play.setText(b ? "Pause" : "Play"));
    Button on = button("›", "Next frame (→)", () -> head.step(1));
    Button last = button("›|", "Last frame (End)", () -> head.goTo(head.range().last()));
    Button in = button("[", "Set in point ([)", head::setIn);
    Button out = button("]", "Set out point (])", head::setOut);
    Button all = button("All", "Clear in and out points", head::clearInOut);
    TextField frame = new TextField();
    frame.setId("frame");
    frame.getStyleClass().addAll("number", "small-field");
    frame.setAccessibleText("Plate frame");
    frame.setPrefColumnCount(5);
    head.frame()
        .addListener(
            (o, a, b) -> {
              if (!frame.isFocused()) {
                frame.setText(b.toString());
              }
            });
    frame.setOnAction(
        e -> {
          try {
            head.goTo(Integer.parseInt(frame.getText().trim()));
            frame.getStyleClass().remove("bad");
          } catch (NumberFormatException bad) {
            if (!frame.getStyleClass().contains("bad")) {
              frame.getStyleClass().add("bad");
            }
            session
                .message()
                .set("'" + frame.getText() + "' is not a frame number; enter an integer");
          }
        });
    Label rate = new Label();
    rate.getStyleClass().addAll("number", "quiet");
    Label range = new Label();
    range.getStyleClass().addAll("number", "quiet");
    session
        .state()
        .addListener(
            (o, a, b) -> {
              boolean none = !session.isOpen();
              rate.setText(none ? "" : head.rate().display() + " fps");
              range.setText(none ? "" : head.range() + " · " + head.range().count() + " frames");
              frame.setText(Integer.toString(head.frame().get()));
            });
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    getChildren().addAll(first, back, play, on, last, frame, in, out, all, gap, range, rate);
    disableProperty().bind(session.open().not());
  }

  public static void toggle(Playhead head) {
    head.playing().set(!head.playing().get());
  }

  private static Button button(String text, String what, Runnable action) {
    Button b = new Button(text);
    b.getStyleClass().add("small-button");
    Tips.on(b, what);
    b.setAccessibleText(what);
    b.setFocusTraversable(true);
    b.setOnAction(e -> action.run());
    return b;
  }
}
