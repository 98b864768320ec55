package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** The keys of the window and of the shown stop, over the window until any key or click. */
final class KeysCard extends OverlayCard {

  /** So many that the card fits the least window. */
  private static final int ROWS = 18;

  KeysCard() {
    super(new HBox(36), Pos.CENTER);
    setId("keys-card");
    setOnMouseClicked(e -> close());
  }

  void open(List<Action> everywhere, StopModule stop) {
    GridPane all = keys(everywhere);
    add(all, "Esc", "Cancel, or deselect");
    add(all, "?", "This card");
    GridPane here =
        keys(
            stop.actions().stream()
                .filter(a -> a.keys().isPresent() && !a.keys().get().shortcut())
                .toList());
    for (Gesture g : stop.gestures()) {
      add(here, g.how(), g.what());
    }
    VBox right = new VBox(10, title("Keys in " + stop.title()), here);
    card().getChildren().setAll(new VBox(10, title("Keys everywhere"), all));
    if (!here.getChildren().isEmpty()) {
      card().getChildren().add(right);
    }
    present(true);
  }

  void close() {
    present(false);
  }

  private static Label title(String text) {
    Label l = new Label(text);
    l.getStyleClass().add("panel-title");
    return l;
  }

  private static GridPane keys(List<Action> actions) {
    GridPane grid = new GridPane();
    grid.setHgap(18);
    grid.setVgap(3);
    for (Action a : actions) {
      if (a.keys().isPresent()) {
        add(grid, a.keys().get().words(), a.title());
      }
    }
    return grid;
  }

  /** Below the last; beside it where the column is full. */
  private static void add(GridPane grid, String keys, String what) {
    int n = grid.getChildren().size() / 2;
    int row = n % ROWS;
    int column = 2 * (n / ROWS);
    Label k = new Label(keys);
    k.getStyleClass().add("number");
    grid.add(k, column, row);
    grid.add(new Label(what), column + 1, row);
  }
}
