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
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;

/** Cameras, plates, sets of trackers and meshes, a row each. */
final class ManifestThings extends VBox {

  /** Meshes listed by name. */
  private static final int MOST_MESHES = 12;

  /** What a row's box shows and hides. */
  private enum Eye {
    NONE,
    PLATES,
    SET
  }

  /**
   * A row.
   *
   * @param fact its last column: a number, or a few words
   * @param shown what the box says
   * @param plates empty for all but plates
   */
  private record Thing(
      String kind,
      String name,
      String fact,
      Eye eye,
      boolean shown,
      Optional<Dot> dot,
      Optional<PlateSequence> plates) {

    static Thing of(String kind, String name, String fact) {
      return new Thing(kind, name, fact, Eye.NONE, true, Optional.empty(), Optional.empty());
    }

    /** Whether it differs in its fact at most. */
    boolean isRowOf(Thing o) {
      return new Thing(kind, name, o.fact, eye, shown, dot, plates).equals(o);
    }
  }

  private record Dot(TrackerGroup.Dot shape, int tint, Color ink) {}

  private final Session session;
  private final List<Label> facts = new ArrayList<>();
  private List<Thing> rows; // null before the first

  ManifestThings(Session session) {
    this.session = session;
    setId("things");
    session.view().theme().addListener((o, a, b) -> fill());
  }

  /** Says what the shot holds now. New nodes take longer than a pulse: most edits need none. */
  void fill() {
    List<Thing> now = session.isOpen() ? things(session.shot().get()) : List.of();
    if (now.equals(rows)) {
      return;
    }
    boolean same = rows != null && now.size() == rows.size() && !now.isEmpty();
    for (int i = 0; same && i < now.size(); i++) {
      same = now.get(i).isRowOf(rows.get(i));
    }
    rows = now;
    if (same) {
      for (int i = 0; i < now.size(); i++) {
        facts.get(i).setText(now.get(i).fact());
      }
      return;
    }
    facts.clear();
    getChildren().setAll(now.stream().map(this::row).toList());
    if (now.isEmpty()) {
      getChildren()
          .add(ManifestPane.empty("Drop a project, or the files of a shot, on the window."));
    }
  }

  private List<Thing> things(WorldShot shot) {
    List<Thing> out = new ArrayList<>();
    for (ShotCamera c : shot.cameras()) {
      double[] f = c.optics().focalLengthRangeMm();
      String lens =
          c.optics().isConstant()
              ? String.format(Locale.ROOT, "%.2f mm", f[0])
              : String.format(Locale.ROOT, "%.1f–%.1f mm", f[0], f[1]);
      out.add(Thing.of("camera", c.name(), lens));
    }
    for (PlateSequence p : shot.plates()) {
      String count =
          p.missing().isEmpty()
              ? Integer.toString(p.frames().count())
              : p.frames().count() - p.missing().size() + " of " + p.frames().count();
      Eye eye = p.equals(shot.plates().get(0)) ? Eye.PLATES : Eye.NONE;
      out.add(
          new Thing("plate", p.role().word(), count, eye, true, Optional.empty(), Optional.of(p)));
    }
    for (TrackerSet t : shot.trackers()) {
      boolean seen = !session.view().hidden().contains(t.name());
      String moves = t.moves() ? " moving" : "";
      Color ink = session.view().theme().get().palette().ink();
      Optional<Dot> dot =
          session.state().get().vetting().group(t.name()).map(k -> new Dot(k.dot(), k.tint(), ink));
      out.add(
          new Thing("points", t.name(), t.size() + moves, Eye.SET, seen, dot, Optional.empty()));
    }
    for (Mesh m : shot.meshes().stream().limit(MOST_MESHES).toList()) {
      out.add(Thing.of("mesh", m.name(), m.points() + (m.moves() ? " moving" : "")));
    }
    int more = shot.meshes().size() - MOST_MESHES;
    if (more > 0) {
      out.add(Thing.of("meshes", "and " + more + " more", ""));
    }
    return out;
  }

  private HBox row(Thing t) {
    Label kind = new Label(t.kind());
    kind.getStyleClass().addAll("quiet", "kind");
    kind.setMinWidth(50);
    Label name = new Label(t.name());
    name.setMinWidth(30);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    Label fact = new Label(t.fact());
    fact.getStyleClass().addAll("number", "quiet");
    fact.setMinWidth(Region.USE_PREF_SIZE);
    facts.add(fact);
    HBox row = new HBox(6, kind, name, gap, fact);
    t.dot().ifPresent(d -> row.getChildren().add(2, DotMark.node(d.shape(), d.tint(), d.ink())));
    switch (t.eye()) {
      case NONE -> {}
      case PLATES -> {
        CheckBox eye = eye("Show plates");
        eye.selectedProperty().bindBidirectional(session.view().platesShown());
        row.getChildren().add(eye);
      }
      case SET -> {
        CheckBox eye = eye("Show " + t.name());
        eye.setSelected(t.shown());
        eye.selectedProperty().addListener((o, a, b) -> show(t.name(), b));
        row.getChildren().add(eye);
      }
    }
    t.plates()
        .ifPresent(
            p -> {
              row.setOnMouseClicked(e -> session.view().plateRole().set(p.role()));
              row.setAccessibleText("Plates, " + p.role().word() + ", " + p.pattern());
            });
    row.setAlignment(Pos.CENTER_LEFT);
    row.getStyleClass().add("manifest-row");
    return row;
  }

  private void show(String set, boolean on) {
    if (on) {
      session.view().hidden().remove(set);
    } else {
      session.view().hidden().add(set);
    }
  }

  private static CheckBox eye(String what) {
    CheckBox c = new CheckBox();
    c.setAccessibleText(what);
    Tips.on(c, what);
    c.getStyleClass().add("eye");
    return c;
  }
}
