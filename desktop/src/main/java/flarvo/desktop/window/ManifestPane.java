package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Tips;
import flarvo.desktop.view.DotMark;
import flarvo.scene.Mesh;
import flarvo.scene.PlateSequence;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.vet.TrackerGroup;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.collections.FXCollections;
import javafx.collections.SetChangeListener;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.SelectionMode;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What the shot holds: cameras, trackers, plates; counts, eyes, search. */
public final class ManifestPane extends VBox {

  /** Those that the list has made; it keeps few more than it shows. */
  private final List<TrackerCell> cells = new ArrayList<>();

  /** Meshes listed by name. */
  private static final int MOST_MESHES = 12;

  private final Session session;
  private final VBox things = new VBox();
  private final ListView<String> trackers = new ListView<>();
  private final TextField search = new TextField();
  private List<TrackerGroup> groups = List.of();
  private boolean following;

  public ManifestPane(Session session) {
    this.session = session;
    getStyleClass().addAll("panel", "manifest");
    setPrefWidth(230);
    setMinWidth(200);
    Label title = new Label("Manifest");
    title.getStyleClass().add("panel-title");
    search.setPromptText("Search trackers");
    search.setAccessibleText("Search trackers by name");
    search.getStyleClass().add("small-field");
    search.textProperty().addListener((o, a, b) -> fillTrackers());
    things.setId("things");
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
    session.selection().addListener((SetChangeListener<String>) c -> fromSession());
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

  private static Label empty(String text) {
    Label l = new Label(text);
    l.setWrapText(true);
    l.getStyleClass().add("empty");
    return l;
  }

  private void fill() {
    things.getChildren().clear();
    groups = session.state().get().vetting().groups();
    WorldShot shot = session.shot().get();
    if (!session.isOpen()) {
      things.getChildren().add(empty("Drop a project, or the files of a shot, on the window."));
      fillTrackers();
      return;
    }
    for (ShotCamera c : shot.cameras()) {
      double[] f = c.optics().focalLengthRangeMm();
      String lens =
          c.optics().isConstant()
              ? String.format(Locale.ROOT, "%.2f mm", f[0])
              : String.format(Locale.ROOT, "%.1f–%.1f mm", f[0], f[1]);
      things.getChildren().add(row("camera", c.name(), lens, null));
    }
    for (PlateSequence p : shot.plates()) {
      String count =
          p.missing().isEmpty()
              ? Integer.toString(p.frames().count())
              : p.frames().count() - p.missing().size() + " of " + p.frames().count();
      CheckBox eye = null;
      if (p.equals(shot.plates().get(0))) {
        eye = eye("Show plates");
        eye.selectedProperty().bindBidirectional(session.view().platesShown());
      }
      HBox row = row("plate", p.role().word(), count, eye);
      row.setOnMouseClicked(e -> session.view().plateRole().set(p.role()));
      row.setAccessibleText("Plates, " + p.role().word() + ", " + p.pattern());
      things.getChildren().add(row);
    }
    for (TrackerSet t : shot.trackers()) {
      CheckBox eye = eye("Show " + t.name());
      eye.setSelected(!session.view().hidden().contains(t.name()));
      eye.selectedProperty().addListener((o, a, b) -> hide(t.name(), !b));
      String moves = t.moves() ? " moving" : "";
      HBox row = row("points", t.name(), t.size() + moves, eye);
      session
          .state()
          .get()
          .vetting()
          .group(t.name())
          .ifPresent(
              k ->
                  row.getChildren()
                      .add(
                          2,
                          DotMark.node(
                              k.dot(), k.tint(), session.view().theme().get().palette().ink())));
      things.getChildren().add(row);
    }
    for (Mesh m : shot.meshes().stream().limit(MOST_MESHES).toList()) {
      String where = m.moves() ? " moving" : "";
      things.getChildren().add(row("mesh", m.name(), m.points() + where, null));
    }
    if (shot.meshes().size() > MOST_MESHES) {
      int more = shot.meshes().size() - MOST_MESHES;
      things.getChildren().add(row("meshes", "and " + more + " more", "", null));
    }
    fillTrackers();
  }

  private void hide(String set, boolean gone) {
    if (gone) {
      session.view().hidden().add(set);
    } else {
      session.view().hidden().remove(set);
    }
  }

  private static CheckBox eye(String what) {
    CheckBox c = new CheckBox();
    c.setAccessibleText(what);
    Tips.on(c, what);
    c.getStyleClass().add("eye");
    return c;
  }

  private static HBox row(String kind, String name, String fact, CheckBox eye) {
    Label k = new Label(kind);
    k.getStyleClass().addAll("quiet", "kind");
    k.setMinWidth(50);
    Label n = new Label(name);
    n.setMinWidth(30);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label f = new Label(fact);
    f.getStyleClass().addAll("number", "quiet");
    f.setMinWidth(Region.USE_PREF_SIZE);
    HBox row = new HBox(6, k, n, gap, f);
    if (eye != null) {
      row.getChildren().add(eye);
    }
    row.setAlignment(Pos.CENTER_LEFT);
    row.getStyleClass().add("manifest-row");
    return row;
  }

  private void fillTrackers() {
    List<String> names = found(session.shot().get(), search.getText());
    if (names.equals(trackers.getItems())) {
      return; // most edits leave all of them; filling the list again takes longer than a pulse
    }
    following = true;
    trackers.setItems(FXCollections.observableList(names));
    following = false;
    fromSession();
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

  private void fromSession() {
    if (!following) {
      following = true;
      trackers.getSelectionModel().clearSelection();
      for (String s : session.selection()) {
        int i = trackers.getItems().indexOf(s);
        if (i >= 0) {
          trackers.getSelectionModel().select(i);
          trackers.scrollTo(Math.max(0, i - 4));
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
