package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.vet.TrackerGroup;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import javafx.collections.FXCollections;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TextField;
import javafx.scene.control.skin.VirtualFlow;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What the shot holds: cameras, trackers, plates; counts, eyes, search. */
public final class ManifestPane extends VBox {

  /** Those that the list has made; it keeps few more than it shows. */
  private final List<TrackerCell> cells = new ArrayList<>();

  private final Session session;
  private final ManifestThings things;
  private final ListView<String> trackers = new ListView<>();
  private final TextField search = new TextField();
  private List<TrackerGroup> groups = List.of();
  private List<String> filled = List.of(); // what the list was filled with last
  private boolean following;

  public ManifestPane(Session session) {
    this.session = session;
    things = new ManifestThings(session);
    getStyleClass().addAll("panel", "manifest");
    setPrefWidth(230);
    setMinWidth(200);
    Label title = new Label("Manifest");
    title.getStyleClass().add("panel-title");
    search.setPromptText("Search trackers");
    search.setAccessibleText("Search trackers by name");
    search.getStyleClass().add("small-field");
    search
        .textProperty()
        .addListener(
            (o, a, b) -> {
              fillTrackers();
              select(true);
            });
    trackers.setId("trackers");
    trackers.setAccessibleText("Trackers of the shot");
    trackers.getSelectionModel().setSelectionMode(SelectionMode.MULTIPLE);
    trackers.setFixedCellSize(22);
    trackers.setCellFactory(l -> new TrackerCell());
    trackers.setPlaceholder(empty("No trackers. They come with the solve."));
    trackers
        .getSelectionModel()
        .getSelectedItems()
        .addListener((javafx.collections.ListChangeListener<String>) c -> toSession());
    session.selection().addListener((SetChangeListener<String>) c -> select(true));
    VBox.setVgrow(trackers, Priority.ALWAYS);
    getChildren().addAll(title, things, search, trackers);
    session.shot().addListener((o, a, b) -> fill());
    session
        .state()
        .addListener(
            (o, a, b) -> {
              if (!b.vetting().groups().equals(groups)) {
                fill();
              }
            });
    session.errors().addListener((o, a, b) -> cells.forEach(TrackerCell::again));
    session.ledger().addListener((o, a, b) -> cells.forEach(TrackerCell::again));
    fill();
  }

  static Label empty(String text) {
    Label l = new Label(text);
    l.setWrapText(true);
    l.getStyleClass().add("empty");
    return l;
  }

  private void fill() {
    groups = session.state().get().vetting().groups();
    things.fill();
    fillTrackers();
  }

  @SuppressWarnings("ReferenceEquality")
  private void fillTrackers() {
    List<String> names = found(session.shot().get(), search.getText());
    if (names == filled || names.equals(filled)) {
      return; // most edits leave all of them; filling the list again takes longer than a pulse
    }
    int first = firstShown();
    String top = first > 0 && first < filled.size() ? filled.get(first) : null;
    filled = names;
    following = true;
    trackers.setItems(FXCollections.observableList(names));
    following = false;
    select(false);
    // The toolkit keeps a scroll position in per cent: another row in a shorter list.
    int now = top == null ? -1 : names.indexOf(top);
    if (now >= 0) {
      trackers.scrollTo(now);
    }
  }

  /** The row at the top of the list; −1 before there is one. */
  private int firstShown() {
    return trackers.lookup(".virtual-flow") instanceof VirtualFlow<?> f
            && f.getFirstVisibleCell() != null
        ? f.getFirstVisibleCell().getIndex()
        : -1;
  }

  /** All names as they lie, without a copy, where nothing is searched: there may be 100,000. */
  private static List<String> found(WorldShot shot, String text) {
    if (shot == null) {
      return List.of();
    }
    String wanted = text.trim();
    if (wanted.isEmpty() && shot.trackers().size() == 1) {
      return shot.trackers().get(0).names();
    }
    List<String> names = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      for (String n : t.names()) {
        if (holds(n, wanted)) {
          names.add(n);
        }
      }
    }
    return names;
  }

  /** Whatever the case of the letters. */
  private static boolean holds(String name, String part) {
    for (int i = 0; i <= name.length() - part.length(); i++) {
      if (name.regionMatches(true, i, part, 0, part.length())) {
        return true;
      }
    }
    return false;
  }

  private void toSession() {
    if (!following) {
      following = true;
      List<String> now = List.copyOf(trackers.getSelectionModel().getSelectedItems());
      session.selection().retainAll(now);
      session.selection().addAll(now);
      following = false;
    }
  }

  /**
   * Chooses what is chosen in the session.
   *
   * @param scrolls not after an edit: the list stays where it was left
   */
  private void select(boolean scrolls) {
    if (!following) {
      following = true;
      trackers.getSelectionModel().clearSelection();
      if (!session.selection().isEmpty()) {
        int[] at =
            IntStream.range(0, filled.size())
                .filter(i -> session.selection().contains(filled.get(i)))
                .toArray();
        if (at.length > 0) {
          trackers.getSelectionModel().selectIndices(at[0], at);
          if (scrolls) {
            trackers.scrollTo(Math.max(0, at[0] - 4));
          }
        }
      }
      following = false;
    }
  }

  private final class TrackerCell extends ListCell<String> {
    private final Label name = new Label();
    private final Label error = new Label();
    private final HBox box;

    TrackerCell() {
      Region gap = new Region();
      HBox.setHgrow(gap, Priority.ALWAYS);
      error.getStyleClass().add("number");
      name.getStyleClass().add("number");
      box = new HBox(6, name, gap, error);
      box.setAlignment(Pos.CENTER_LEFT);
      cells.add(this);
    }

    /** The same tracker with what is known of it now; a list that is refreshed makes new cells. */
    void again() {
      updateItem(getItem(), isEmpty());
    }

    @Override
    protected void updateItem(String item, boolean isEmpty) {
      super.updateItem(item, isEmpty);
      setText(null);
      if (isEmpty || item == null) {
        setGraphic(null);
        return;
      }
      name.setText(item);
      double rms =
          session.errors().get() == null || session.hasOpenClaims()
              ? Double.NaN
              : session.errors().get().trackerRmsPx(item);
      error.setText(Double.isNaN(rms) ? "" : String.format(Locale.ROOT, "%.2f px", rms));
      double limit = session.view().errorLimitPx().get();
      String look = rms > limit ? "over" : rms > limit / 2 ? "watch" : "quiet";
      if (!error.getStyleClass().contains(look)) {
        error.getStyleClass().removeAll("over", "watch", "quiet");
        error.getStyleClass().add(look);
      }
      setGraphic(box);
    }
  }
}
