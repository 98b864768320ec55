package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The keys of the window and of the shown stop, over the window until any key or click. */
final class KeysCard extends StackPane {

  private final HBox box = new HBox(36);

  KeysCard() {
    getStyleClass().add("overlay");
    setId("keys-card");
    setAlignment(Pos.CENTER);
    box.getStyleClass().add("pop-up");
    box.setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
    getChildren().add(box);
    setVisible(false);
    setManaged(false);
    setOnMouseClicked(e -> close());
  }

  void open(List<Action> everywhere, StopModule stop) {
    GridPane all = keys(everywhere);
    int row = all.getRowCount();
    add(all, row++, "Esc", "Leave what is armed, else clear the selection");
    add(all, row, "?", "This card");
    GridPane here =
        keys(
            stop.actions().stream()
                .filter(a -> a.keys().isPresent() && !a.keys().get().shortcut())
                .toList());
    int next = here.getRowCount();
    for (Gesture g : stop.gestures()) {
      add(here, next++, g.how(), g.what());
    }
    VBox right = new VBox(10, title("Keys in " + stop.title()), here);
    box.getChildren().setAll(new VBox(10, title("Keys everywhere"), all));
    if (next > 0) {
      box.getChildren().add(right);
    }
    setVisible(true);
    setManaged(true);
  }

  void close() {
    setVisible(false);
    setManaged(false);
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
    int row = 0;
    for (Action a : actions) {
      if (a.keys().isPresent()) {
        add(grid, row++, a.keys().get().words(), a.title());
      }
    }
    return grid;
  }

  private static void add(GridPane grid, int row, String keys, String what) {
    Label k = new Label(keys);
    k.getStyleClass().add("number");
    grid.add(k, 0, row);
    grid.add(new Label(what), 1, row);
  }
}
