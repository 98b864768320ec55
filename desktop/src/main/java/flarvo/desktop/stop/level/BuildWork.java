package flarvo.desktop.stop.level;

import flarvo.decision.Anchor;
import flarvo.decision.BuildDecision;
import flarvo.desktop.state.Session;
import flarvo.level.LevelScene;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.SlideReading;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** What is built on the level: gauges, stand-ins, locators, depths; every decision as an edit. */
public final class BuildWork {

  private final Session session;
  private final LevelWork level;
  private final ObjectProperty<Gauge.Kind> dropping = new SimpleObjectProperty<>();
  private final ObjectProperty<Sketch> sketching = new SimpleObjectProperty<>();
  private final ObservableList<Vec3> sketch = FXCollections.observableArrayList();
  private final StringProperty group = new SimpleStringProperty(StandIn.USUAL_GROUP);
  private final DoubleProperty boxHeight = new SimpleDoubleProperty(0.5);
  private final StringProperty chosen = new SimpleStringProperty("");

  public BuildWork(Session session, LevelWork level) {
    this.session = session;
    this.level = level;
    session.state().addListener((o, a, b) -> follow());
  }

  /** What is armed or half drawn is given up; false where there is nothing of the kind. */
  boolean disarm() {
    boolean any = dropping.get() != null || sketching.get() != null;
    dropping.set(null);
    sketching.set(null);
    sketch.clear();
    return any;
  }

  /** What is worked on may be gone. */
  private void follow() {
    if (!chosen.get().isEmpty() && !isPlaced(chosen.get())) {
      chosen.set("");
    }
  }

  private boolean isPlaced(String name) {
    return level.staging().gauge(name).isPresent() || level.staging().standIn(name).isPresent();
  }

  /** The kind of gauge that the next click sets; null for none. */
  public ObjectProperty<Gauge.Kind> dropping() {
    return dropping;
  }

  /** Name of the gauge or stand-in that is worked on; empty for none. */
  public StringProperty chosen() {
    return chosen;
  }

  /** What clicks over the plate draw, and how many of them it takes. */
  public enum Sketch {
    CARD(4),
    BOX(2);

    private final int clicks;

    Sketch(int clicks) {
      this.clicks = clicks;
    }

    public int clicks() {
      return clicks;
    }
  }

  /** Null while nothing is drawn. */
  public ObjectProperty<Sketch> sketching() {
    return sketching;
  }

  /** Corners that were clicked so far, in solve space. */
  public ObservableList<Vec3> sketch() {
    return sketch;
  }

  /** Group that the next stand-ins are in. */
  public StringProperty group() {
    return group;
  }

  /** Height in metres of boxes that are drawn. */
  public DoubleProperty boxHeight() {
    return boxHeight;
  }

  /** A click at a ray of the world: its corner lies on the nearest stand-in, or on the ground. */
  public void sketchAt(Vec3 eye, Vec3 ray) {
    Sketch what = sketching.get();
    if (what == null) {
      return;
    }
    Optional<Vec3> at = under(eye, ray, what == Sketch.CARD);
    if (at.isEmpty()) {
      session.message().set("There is neither ground nor a stand-in under the pointer");
      return;
    }
    sketch.add(at.get());
    if (sketch.size() < what.clicks()) {
      return;
    }
    List<Anchor> corners =
        sketch.stream().map(v -> (Anchor) new Anchor.World(level.standing().apply(v))).toList();
    sketch.clear();
    sketching.set(null);
    if (what == Sketch.BOX) {
      make(
          name ->
              new BuildDecision.AddBox(
                  name, group.get(), corners.get(0), corners.get(1), boxHeight.get()),
          "box");
    } else {
      make(name -> new BuildDecision.AddCard(name, group.get(), corners), "card");
    }
  }

  /** What a ray of the world meets first, in solve space. */
  public Optional<Vec3> under(Vec3 eye, Vec3 ray, boolean standIns) {
    Similarity back = level.standing().inverse();
    Vec3 from = back.apply(eye);
    Vec3 way = back.rotation().apply(ray);
    Vec3 best = null;
    if (standIns) {
      for (StandIn s : level.staging().standIns()) {
        Vec3 hit = s.meet(from, way).orElse(null);
        if (hit != null && (best == null || hit.minus(from).length() < best.minus(from).length())) {
          best = hit;
        }
      }
    }
    double t = -eye.y() / ray.y();
    if (t > 0 && Double.isFinite(t) && t < 1e6) {
      Vec3 ground = back.apply(eye.plus(ray.times(t)));
      if (best == null || ground.minus(from).length() < best.minus(from).length()) {
        best = ground;
      }
    }
    return Optional.ofNullable(best);
  }

  // Gauges

  /** Sets a gauge of the kind that waits; on a tracker, or with its foot at a place. */
  public void drop(Optional<String> tracker, Vec3 solveSpace) {
    Gauge.Kind kind = dropping.get();
    if (kind == null) {
      return;
    }
    String name = level.staging().freeName(kind.word());
    Anchor at =
        tracker.isPresent()
            ? new Anchor.Tracker(tracker.get())
            : new Anchor.World(level.standing().apply(solveSpace));
    session.store().decide(new BuildDecision.PlaceGauge(name, kind, at), () -> chosen.set(name));
    dropping.set(null);
  }

  public void resizeGauge(String name, double metres) {
    change(BuildDecision.ChangeGauge.size(name, metres));
  }

  public void rotateGauge(String name, double radians) {
    change(BuildDecision.ChangeGauge.turn(name, radians));
  }

  private void change(BuildDecision d) {
    session.store().decide(d);
  }

  /** Removes the chosen gauge or stand-in. */
  public void removeChosen() {
    if (isPlaced(chosen.get())) {
      session.store().decide(new BuildDecision.RemoveObject(chosen.get()));
    } else {
      session.message().set("No gauge or stand-in selected");
    }
  }

  /**
   * How far the chosen thing would slide at the frame that is shown; empty where the camera does
   * not see it. To be worked out on any thread.
   */
  public Supplier<Optional<SlideReading>> slide() {
    Staging s = level.staging();
    String name = chosen.get();
    LevelScene scene = level.scene();
    Similarity standing = level.standing();
    int frame = session.playhead().frame().get();
    return () ->
        s.gauge(name)
            .map(g -> g.following(scene.places()).foot())
            .or(() -> s.standIn(name).map(i -> i.points().get(0)))
            .flatMap(f -> SlideReading.of(scene, standing, f, frame));
  }

  // Stand-ins and locators

  private void make(Function<String, BuildDecision.MakingGeometry> how, String stem) {
    String name = level.staging().freeName(stem);
    session.store().decide(how.apply(name), () -> chosen.set(name));
  }

  private List<Anchor> selected() {
    return session.selection().stream()
        .sorted()
        .filter(level.scene().places()::containsKey)
        .map(t -> (Anchor) new Anchor.Tracker(t))
        .toList();
  }

  /** A card through the selected trackers. */
  public void card() {
    List<Anchor> on = selected();
    make(name -> new BuildDecision.AddCard(name, group.get(), on), "card");
  }

  /** A box whose base spans two places of the world. */
  public void box(Vec3 a, Vec3 b, double height) {
    make(
        name ->
            new BuildDecision.AddBox(
                name, group.get(), new Anchor.World(a), new Anchor.World(b), height),
        "box");
  }

  /** A wall from the edge between the two selected trackers. */
  public void wall(double height) {
    List<Anchor> on = selected();
    if (on.size() != 2) {
      session.message().set("a wall rises from the edge between two trackers, not " + on.size());
      return;
    }
    make(
        name -> new BuildDecision.AddWall(name, group.get(), on.get(0), on.get(1), height), "wall");
  }

  /** Extrudes the chosen stand-in. */
  public void extrude(double metres) {
    change(new BuildDecision.Extrude(chosen.get(), metres));
  }

  /** Whether the chosen stand-in's corners go along as locators. */
  public void sendCorners(boolean corners) {
    change(new BuildDecision.SendCorners(chosen.get(), corners));
  }

  private Optional<String> oneSelected(String why) {
    String t = session.selection().size() == 1 ? session.selection().iterator().next() : null;
    if (t == null || !level.scene().places().containsKey(t)) {
      session.message().set(why);
      return Optional.empty();
    }
    return Optional.of(t);
  }

  /** All of the chosen object goes to the selected tracker: a gauge, or a stand-in's corner. */
  public void moveToSelected() {
    String name = chosen.get();
    oneSelected("Select the one tracker to move to")
        .ifPresent(
            t ->
                change(
                    level.staging().gauge(name).isPresent()
                        ? new BuildDecision.ChangeGauge(
                            name,
                            OptionalDouble.empty(),
                            OptionalDouble.empty(),
                            Optional.of(new Anchor.Tracker(t)))
                        : new BuildDecision.MoveStandIn(name, t, false)));
  }

  /** The corner nearest to the selected tracker goes there. */
  public void snap(String name) {
    oneSelected("Select the one tracker to snap a corner to")
        .ifPresent(t -> change(new BuildDecision.MoveStandIn(name, t, true)));
  }

  /** A locator on each selected tracker, of a size that suits the scene. */
  public void locators(String stem, String group, double metres) {
    List<String> on = session.selection().stream().sorted().toList();
    change(new BuildDecision.AddLocators(stem, group, metres, on));
  }

  public void clearLocators() {
    session.store().decide(new BuildDecision.ClearLocators());
  }

  /** A fiftieth of how far the trackers reach, on a round number of metres. */
  public double suitingSize() {
    double reach = 0;
    Vec3 middle = Vec3.ZERO;
    int n = Math.max(1, level.scene().places().size());
    for (Vec3 v : level.scene().places().values()) {
      middle = middle.plus(v.times(1.0 / n));
    }
    for (Vec3 v : level.scene().places().values()) {
      reach += v.minus(middle).length() / n;
    }
    double m = Math.max(1e-6, reach * level.standing().scale() / 25);
    double unit = Math.pow(10, Math.floor(Math.log10(m)));
    return unit * Math.max(1, Math.rint(m / unit));
  }

  /** Gives the selected trackers of a nodal camera a distance; all where none is selected. */
  public void depths(BuildDecision.DepthSource source) {
    session
        .store()
        .decide(
            new BuildDecision.GiveDepths(source, List.copyOf(session.selection())),
            () ->
                level
                    .said()
                    .set(
                        String.format(
                            Locale.ROOT,
                            "%d of %d trackers have a distance; the others are sent as directions"
                                + " only",
                            level.staging().depths().size(),
                            level.scene().places().size())));
  }

  public void clearDepths() {
    session.store().decide(new BuildDecision.ClearDepths());
  }
}
