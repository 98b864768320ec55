package flarvo.desktop.stop;

import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** The right side of a stop: its tools from top to bottom in the order of work. */
public abstract class Desk extends VBox {

  private final Label sentence = new Label();

  protected Desk(String title) {
    getStyleClass().add("desk");
    setSpacing(8);
    Label t = new Label(title);
    t.getStyleClass().add("panel-title");
    sentence.setWrapText(true);
    sentence.getStyleClass().add("sentence");
    sentence.setMinHeight(Region.USE_PREF_SIZE);
    getChildren().addAll(t, sentence);
  }

  /** The plain sentence on what is wrong or next. */
  protected final void say(String text) {
    sentence.setText(text);
  }

  public static Label heading(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("heading");
    return l;
  }

  /** A name at the left and something at the right. */
  public static HBox row(String name, Node value) {
    Label n = new Label(name);
    n.getStyleClass().add("quiet");
    n.setMinWidth(96);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox row = new HBox(8, n, gap, value);
    row.setAlignment(Pos.CENTER_LEFT);
    if (n.getText() != null) {
      value.setAccessibleText(name);
      n.setLabelFor(value);
    }
    return row;
  }

  /** A note of several lines. */
  public static Label wrapped() {
    Label l = new Label();
    l.setWrapText(true);
    l.setMinHeight(Region.USE_PREF_SIZE);
    l.getStyleClass().add("note");
    return l;
  }

  public static Label number(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("number");
    return l;
  }
}
