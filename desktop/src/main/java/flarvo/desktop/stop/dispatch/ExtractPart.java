package flarvo.desktop.stop.dispatch;

import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.Tips;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** Which frames of the shot a delivery has, and whether it is levelled. */
final class ExtractPart extends VBox {

  private final TextField head = new TextField();
  private final TextField tail = new TextField();
  private final Label frames = Desk.wrapped();
  private final CheckBox levelled = new CheckBox("Levelled");
  private final BiConsumer<UnaryOperator<Delivery>, String> change;
  private final Consumer<String> refuse;
  private FrameRange all;
  private Delivery shown;
  private boolean filling;

  /**
   * @param change takes a change of a delivery, and what of it changes
   * @param refuse takes why something that was typed cannot be
   */
  ExtractPart(BiConsumer<UnaryOperator<Delivery>, String> change, Consumer<String> refuse) {
    super(8);
    this.change = change;
    this.refuse = refuse;
    head.setId("delivery-head");
    tail.setId("delivery-tail");
    Tips.on(head, "Frames left off at the head, such as handles; -8 adds eight that are held");
    Tips.on(tail, "Frames left off at the tail; -8 adds eight that are held");
    for (TextField f : List.of(head, tail)) {
      f.setPrefColumnCount(3);
      f.getStyleClass().addAll("number", "small-field");
      f.setOnAction(e -> changeFrames());
    }
    head.setAccessibleText("Frames left off at the head");
    tail.setAccessibleText("Frames left off at the tail");
    frames.setId("delivery-frames");
    levelled.setId("delivery-levelled");
    Tips.on(levelled, "In the world of the shot's level; otherwise in the space of the solve");
    levelled.setOnAction(e -> changeLevel());
    HBox both = new HBox(6, head, whole("head"), tail, whole("tail"));
    both.setAlignment(Pos.CENTER_LEFT);
    levelled.setMinWidth(USE_PREF_SIZE);
    HBox.setHgrow(frames, Priority.ALWAYS);
    HBox what = new HBox(8, frames, levelled);
    what.setAlignment(Pos.CENTER_LEFT);
    getChildren().addAll(Desk.row("Leave off", both), what);
  }

  private static Label whole(String text) {
    Label l = new Label(text);
    l.setMinWidth(USE_PREF_SIZE);
    return l;
  }

  /** Shows a delivery of a shot of these frames; null for none. */
  void show(Delivery d, FrameRange of) {
    filling = true;
    shown = d;
    all = of;
    head.setDisable(d == null);
    tail.setDisable(d == null);
    levelled.setDisable(d == null);
    frames.setText("");
    good();
    if (d != null) {
      Extract e = d.extract();
      head.setText(Integer.toString(e.head()));
      tail.setText(Integer.toString(e.tail()));
      levelled.setSelected(e.levelled());
      frames.setText(words(e));
    }
    filling = false;
  }

  private String words(Extract e) {
    try {
      FrameRange r = e.frames(all);
      String held = e.hasHandles() ? " Motion is held on the added ones." : "";
      return r + ", " + r.count() + (r.count() == 1 ? " frame." : " frames.") + held;
    } catch (InputError x) {
      return x.getMessage();
    }
  }

  private void changeFrames() {
    if (filling || shown == null) {
      return;
    }
    try {
      Extract e =
          shown
              .extract()
              .leavingOff(
                  Integer.parseInt(head.getText().strip()),
                  Integer.parseInt(tail.getText().strip()));
      e.frames(all);
      good();
      change.accept(
          d -> d.withExtract(d.extract().leavingOff(e.head(), e.tail())), "frames left off");
    } catch (NumberFormatException e) {
      bad("Frames left off are two integers, such as 8 and 8");
    } catch (IllegalArgumentException | InputError e) {
      bad(e.getMessage());
    }
  }

  private void changeLevel() {
    if (!filling && shown != null) {
      boolean wanted = levelled.isSelected();
      change.accept(d -> d.withExtract(d.extract().levelled(wanted)), "level");
    }
  }

  private void bad(String why) {
    for (TextField f : List.of(head, tail)) {
      if (!f.getStyleClass().contains("bad")) {
        f.getStyleClass().add("bad");
      }
    }
    refuse.accept(why);
  }

  private void good() {
    head.getStyleClass().remove("bad");
    tail.getStyleClass().remove("bad");
  }
}
