package flarvo.desktop.find;

import flarvo.desktop.session.Stop;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/** The keys of the current stop, over the window until any key or click. */
public final class KeysCard extends StackPane {

  private static final String[][] EVERYWHERE = {
    {"1 … 6", "go to a stop"},
    {"Space", "play or stop"},
    {"← →", "one frame; ten with Shift"},
    {"Home End", "first and last frame"},
    {"[ ]", "in and out here"},
    {"Tab", "picture or space; at Receive ledger or picture"},
    {"F", "frame the selection"},
    {"Ctrl+K", "find by name"},
    {"Ctrl+Z", "undo; redo with Shift"},
    {"Ctrl+C", "copy the picture, or the table that is worked in"},
    {"Ctrl+O", "open files"},
    {"Ctrl+S", "save the project; as another with Shift"},
    {"Ctrl+R", "take all proposals of the ledger"},
    {"Ctrl+D", "the shot's diary"},
    {"Ctrl+V", "paste a table, or copied files"},
    {"Ctrl+T", "dark or light"},
    {"Esc", "clear the selection"},
  };

  private static final String[][] VET = {
    {"T", "table of trackers"},
    {"Delete", "leave out what is selected"},
    {"Insert", "bring back what is selected"},
    {"W", "weight on or off"},
    {"M", "mark a late point"},
    {"Alt+drag", "draw round trackers; a box with Ctrl"},
  };

  private static final String[][] LEVEL = {
    {"G", "knobs on or off"},
    {"V", "one view, or Picture and Space"},
    {"Shift", "a knob goes ten times finer"},
    {"Delete", "remove the gauge or stand-in worked on"},
    {"Esc", "leave the guess, the gauge or the drawing"},
  };

  private final VBox box = new VBox(10);

  public KeysCard() {
    getStyleClass().add("overlay");
    setAlignment(Pos.CENTER);
    box.getStyleClass().add("pop-up");
    box.setMaxSize(480, 560);
    getChildren().add(box);
    setVisible(false);
    setManaged(false);
    setOnMouseClicked(e -> close());
  }

  public void open(Stop stop) {
    Label title = new Label("Keys in " + stop.title());
    title.getStyleClass().add("panel-title");
    GridPane grid = new GridPane();
    grid.setHgap(18);
    grid.setVgap(4);
    int row = 0;
    for (String[] k : EVERYWHERE) {
      add(grid, row++, k[0], k[1]);
    }
    if (stop == Stop.VET) {
      for (String[] k : VET) {
        add(grid, row++, k[0], k[1]);
      }
    }
    if (stop == Stop.LEVEL) {
      for (String[] k : LEVEL) {
        add(grid, row++, k[0], k[1]);
      }
    }
    if (stop == Stop.DISPATCH) {
      add(grid, row++, "Ctrl+Enter", "send all deliveries");
      add(grid, row, "Enter", "send the chosen delivery");
    }
    box.getChildren().setAll(title, grid);
    setVisible(true);
    setManaged(true);
  }

  public void close() {
    setVisible(false);
    setManaged(false);
  }

  private static void add(GridPane grid, int row, String keys, String what) {
    Label k = new Label(keys);
    k.getStyleClass().add("number");
    grid.add(k, 0, row);
    grid.add(new Label(what), 1, row);
  }
}
