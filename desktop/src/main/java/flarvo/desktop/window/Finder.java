package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Finds any action or object by name; lies over the window while it is open. */
final class Finder extends OverlayCard {

  private static final int MOST = 200;

  private final Supplier<List<Action>> actions;
  private final Consumer<String> say;
  private final TextField text = new TextField();
  private final ListView<Action> list = new ListView<>();
  private final Label none = new Label();
  private List<Entry> found = List.of();

  /** An action with everything that it is found by. */
  private record Entry(Action action, String text) {}

  /**
   * @param actions asked when the finder opens
   */
  Finder(Supplier<List<Action>> actions, Consumer<String> say) {
    super(new VBox(6), Pos.TOP_CENTER);
    this.actions = actions;
    this.say = say;
    text.setPromptText("Find an action, a tracker, a delivery or a frame");
    text.setAccessibleText("Find by name");
    text.setId("find-text");
    list.setCellFactory(l -> new ActionCell());
    list.setFixedCellSize(26);
    list.setFocusTraversable(false);
    list.setPlaceholder(none);
    card().getChildren().addAll(text, list);
    card().setMaxSize(520, 360);
    text.textProperty().addListener((o, a, b) -> fill());
    text.addEventFilter(KeyEvent.KEY_PRESSED, this::key);
    list.setOnMouseClicked(e -> run());
    setOnMouseClicked(
        e -> {
          if (e.getTarget() == this) {
            close();
          }
        });
  }

  public void open() {
    present(true);
    found = actions.get().stream().map(a -> new Entry(a, a.text())).toList();
    text.clear();
    fill();
    text.requestFocus();
  }

  public void close() {
    present(false);
  }

  private void fill() {
    String[] wanted = text.getText().toLowerCase(Locale.ROOT).trim().split("\\s+", -1);
    list.getItems()
        .setAll(
            found.stream()
                .filter(e -> has(e.text(), wanted))
                .sorted(Comparator.comparingInt(e -> behind(e, wanted)))
                .limit(MOST)
                .map(Entry::action)
                .toList());
    list.getSelectionModel().selectFirst();
    none.setText("Nothing found for '" + text.getText().trim() + "'");
  }

  /** What can be done comes first, and what is called so before what is only found by it. */
  private static int behind(Entry e, String[] wanted) {
    boolean can = e.action().can().get().isYes();
    boolean called = has(e.action().title().toLowerCase(Locale.ROOT), wanted);
    return (can ? 0 : 2) + (called ? 0 : 1);
  }

  private static boolean has(String text, String[] wanted) {
    for (String w : wanted) {
      if (!text.contains(w)) {
        return false;
      }
    }
    return true;
  }

  private void key(KeyEvent e) {
    int i = list.getSelectionModel().getSelectedIndex();
    if (e.getCode() == KeyCode.ESCAPE) {
      close();
    } else if (e.getCode() == KeyCode.DOWN) {
      list.getSelectionModel().select(Math.min(list.getItems().size() - 1, i + 1));
      list.scrollTo(Math.max(0, i - 6));
    } else if (e.getCode() == KeyCode.UP) {
      list.getSelectionModel().select(Math.max(0, i - 1));
      list.scrollTo(Math.max(0, i - 6));
    } else if (e.getCode() == KeyCode.ENTER) {
      run();
    } else {
      return;
    }
    e.consume();
  }

  private void run() {
    Action a = list.getSelectionModel().getSelectedItem();
    close();
    if (a != null) {
      a.run(say);
    }
  }

  private static final class ActionCell extends ListCell<Action> {
    private final Label title = new Label();
    private final Label keys = new Label();
    private final HBox box;

    ActionCell() {
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      keys.getStyleClass().addAll("number", "quiet");
      box = new HBox(title, gap, keys);
      box.setAlignment(Pos.CENTER_LEFT);
    }

    @Override
    protected void updateItem(Action a, boolean empty) {
      super.updateItem(a, empty);
      if (empty || a == null) {
        setGraphic(null);
      } else {
        title.setText(a.title());
        keys.setText(a.keys().map(k -> k.words()).orElse(""));
        boolean can = a.can().get().isYes();
        title.setOpacity(can ? 1 : 0.5);
        setGraphic(box);
      }
    }
  }
}
