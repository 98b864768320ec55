package flarvo.desktop.session;

import flarvo.report.InputError;
import flarvo.scene.Pose;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Locator;
import flarvo.stage.SlideReading;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import flarvo.stage.TripodDepth;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
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
  private final ObjectProperty<Gauge.Kind> dropping = new SimpleObjectProperty<>();
  private final ObjectProperty<Sketch> sketching = new SimpleObjectProperty<>();
  private final ObservableList<Vec3> sketch = FXCollections.observableArrayList();
  private final StringProperty group = new SimpleStringProperty("stand-ins");
  private final DoubleProperty boxHeight = new SimpleDoubleProperty(0.5);
  private final StringProperty chosen = new SimpleStringProperty("");

  BuildWork(Session session) {
    this.session = session;
    session.state().addListener((o, a, b) -> follow());
  }

  private LevelWork level() {
    return session.level();
  }

  /** What is worked on may be gone. */
  private void follow() {
    if (!chosen.get().isEmpty() && !isPlaced(chosen.get())) {
      chosen.set("");
    }
  }

  private boolean isPlaced(String name) {
    return level().staging().gauge(name).isPresent() || level().staging().standIn(name).isPresent();
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
    List<Vec3> corners = List.copyOf(sketch);
    sketch.clear();
    sketching.set(null);
    if (what == Sketch.BOX) {
      box(
          level().standing().apply(corners.get(0)),
          level().standing().apply(corners.get(1)),
          boxHeight.get());
    } else {
      level()
          .attempt(
              () ->
                  addStandIn(
                      StandIn.card(
                          level().staging().freeName("card"), group.get(), corners, eye())));
    }
  }

  /** What a ray of the world meets first, in solve space. */
  public Optional<Vec3> under(Vec3 eye, Vec3 ray, boolean standIns) {
    Similarity back = level().standing().inverse();
    Vec3 from = back.apply(eye);
    Vec3 way = back.rotation().apply(ray);
    Vec3 best = null;
    if (standIns) {
      for (StandIn s : level().staging().standIns()) {
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
    String name = level().staging().freeName(kind.word());
    Gauge g = new Gauge(name, kind, solveSpace, kind.usual(), 0, tracker);
    List<Gauge> all = new ArrayList<>(level().staging().gauges());
    all.add(g);
    level()
        .stage(
            level().staging().withGauges(all),
            "set " + name + tracker.map(t -> " on " + t).orElse(" on the ground"));
    dropping.set(null);
    chosen.set(name);
  }

  public void changeGauge(String name, UnaryOperator<Gauge> how, String title) {
    level()
        .attempt(
            () ->
                level()
                    .staging()
                    .gauge(name)
                    .ifPresent(
                        g ->
                            level()
                                .stage(
                                    level()
                                        .staging()
                                        .withGauges(
                                            Staging.with(
                                                level().staging().gauges(),
                                                x -> x.name().equals(name),
                                                how.apply(g))),
                                    title)));
  }

  /** Takes the chosen gauge or stand-in away. */
  public void removeChosen() {
    String name = chosen.get();
    if (level().staging().gauge(name).isPresent()) {
      level()
          .stage(
              level()
                  .staging()
                  .withGauges(
                      Staging.without(level().staging().gauges(), g -> g.name().equals(name))),
              "remove " + name);
    } else if (level().staging().standIn(name).isPresent()) {
      level()
          .stage(
              level()
                  .staging()
                  .withStandIns(
                      Staging.without(level().staging().standIns(), s -> s.name().equals(name))),
              "remove " + name);
    } else {
      session.message().set("No gauge and no stand-in is chosen");
    }
  }

  /** How far the chosen thing would slide; empty where the camera does not see it. */
  public Optional<SlideReading> slide() {
    Staging s = level().staging();
    Optional<Vec3> foot =
        s.gauge(chosen.get())
            .map(g -> g.following(level().scene().places()).foot())
            .or(() -> s.standIn(chosen.get()).map(i -> i.points().get(0)));
    return foot.flatMap(
        f ->
            SlideReading.of(
                level().scene(), level().standing(), f, session.playhead().frame().get()));
  }

  // Stand-ins and locators

  public void addStandIn(StandIn s) {
    List<StandIn> all = new ArrayList<>(level().staging().standIns());
    all.add(s);
    level().stage(level().staging().withStandIns(all), "add " + s.name());
    chosen.set(s.name());
  }

  /** Eye in the middle of the shot, in solve space. */
  public Vec3 eye() {
    List<Pose> p = level().scene().poses();
    return p.isEmpty() ? Vec3.ZERO : p.get(p.size() / 2).position();
  }

  /** A card through the selected trackers. */
  public void card() {
    level()
        .attempt(
            () -> {
              List<Vec3> at =
                  session.selection().stream()
                      .sorted()
                      .map(level().scene().places()::get)
                      .filter(java.util.Objects::nonNull)
                      .toList();
              addStandIn(StandIn.card(level().staging().freeName("card"), group.get(), at, eye()));
            });
  }

  /** A box whose foot spans two places of the world. */
  public void box(Vec3 a, Vec3 b, double height) {
    level()
        .attempt(
            () ->
                addStandIn(
                    StandIn.box(
                        level().staging().freeName("box"),
                        group.get(),
                        a,
                        b,
                        height,
                        level().standing())));
  }

  /** A wall from the edge between the two selected trackers. */
  public void wall(double height) {
    level()
        .attempt(
            () -> {
              List<Vec3> at =
                  session.selection().stream()
                      .sorted()
                      .map(level().scene().places()::get)
                      .filter(java.util.Objects::nonNull)
                      .map(level().standing()::apply)
                      .toList();
              if (at.size() != 2) {
                throw InputError.words(
                    "a wall rises from the edge between two trackers, not " + at.size(),
                    "Select the two at its foot");
              }
              addStandIn(
                  StandIn.wall(
                      level().staging().freeName("wall"),
                      group.get(),
                      at.get(0),
                      at.get(1),
                      height,
                      level().standing().apply(eye()),
                      level().standing()));
            });
  }

  public void changeStandIn(String name, UnaryOperator<StandIn> how, String title) {
    level()
        .attempt(
            () ->
                level()
                    .staging()
                    .standIn(name)
                    .ifPresent(
                        s -> {
                          StandIn next = how.apply(s);
                          level()
                              .stage(
                                  level()
                                      .staging()
                                      .withStandIns(
                                          Staging.with(
                                              level().staging().standIns(),
                                              x -> x.name().equals(name),
                                              next)),
                                  title);
                        }));
  }

  /**
   * All of what is worked on goes to the selected tracker: a gauge onto it, a stand-in's corner.
   */
  public void moveToSelected() {
    String name = chosen.get();
    Vec3 to =
        session.selection().size() == 1
            ? level().scene().places().get(session.selection().iterator().next())
            : null;
    if (to == null) {
      session.message().set("Select the one tracker that it shall go to");
      return;
    }
    String tracker = session.selection().iterator().next();
    String title = "move " + name + " to " + tracker;
    changeGauge(
        name,
        g -> new Gauge(g.name(), g.kind(), to, g.metres(), g.turn(), Optional.of(tracker)),
        title);
    changeStandIn(name, s -> s.shifted(to.minus(nearest(s, to))), title);
  }

  private static Vec3 nearest(StandIn s, Vec3 to) {
    Vec3 best = s.points().get(0);
    for (Vec3 p : s.points()) {
      best = p.minus(to).length() < best.minus(to).length() ? p : best;
    }
    return best;
  }

  /** The corner nearest to the selected tracker goes there. */
  public void snap(String name) {
    if (session.selection().size() != 1) {
      session.message().set("Select the one tracker that a corner shall go to");
      return;
    }
    Vec3 to = level().scene().places().get(session.selection().iterator().next());
    if (to == null) {
      return;
    }
    changeStandIn(
        name,
        s -> {
          int best = 0;
          for (int i = 1; i < s.points().size(); i++) {
            if (s.points().get(i).minus(to).length() < s.points().get(best).minus(to).length()) {
              best = i;
            }
          }
          return s.snapped(best, to);
        },
        "snap " + name + " to " + session.selection().iterator().next());
  }

  /** A locator on each selected tracker, of a size that suits the scene. */
  public void locators(String stem, String group, double metres) {
    level()
        .attempt(
            () -> {
              if (session.selection().isEmpty()) {
                throw InputError.words(
                    "no tracker is selected", "Select where locators shall stand");
              }
              List<Locator> all = new ArrayList<>(level().staging().locators());
              Map<String, Vec3> places = level().scene().places();
              List<String> on =
                  session.selection().stream().sorted().filter(places::containsKey).toList();
              int n = 0;
              for (String t : on) {
                n++;
                String name = stem.isBlank() ? t + "_loc" : on.size() == 1 ? stem : stem + n;
                all.removeIf(l -> l.name().equals(name));
                all.add(new Locator(name, group, t, places.get(t), metres));
              }
              level()
                  .stage(
                      level().staging().withLocators(all),
                      "locators on " + on.size() + " trackers");
            });
  }

  public void clearLocators() {
    level().stage(level().staging().withLocators(List.of()), "remove all locators");
  }

  /** A fiftieth of how far the trackers reach, on a round number of metres. */
  public double suitingSize() {
    double reach = 0;
    Vec3 middle = Vec3.ZERO;
    int n = Math.max(1, level().scene().places().size());
    for (Vec3 v : level().scene().places().values()) {
      middle = middle.plus(v.times(1.0 / n));
    }
    for (Vec3 v : level().scene().places().values()) {
      reach += v.minus(middle).length() / n;
    }
    double m = Math.max(1e-6, reach * level().standing().scale() / 25);
    double unit = Math.pow(10, Math.floor(Math.log10(m)));
    return unit * Math.max(1, Math.rint(m / unit));
  }

  /** How a tripod's trackers get a distance. */
  public enum By {
    TYPED,
    GROUND,
    STAND_IN
  }

  public void depths(By by, double metres) {
    level()
        .attempt(
            () -> {
              TripodDepth d = new TripodDepth(session.state().get().shot());
              List<String> on =
                  session.selection().isEmpty()
                      ? List.copyOf(level().scene().places().keySet())
                      : List.copyOf(session.selection());
              List<GivenDepth> given =
                  switch (by) {
                    case TYPED -> d.typed(on, metres, level().standing());
                    case GROUND -> d.onGround(on, 0, level().standing());
                    case STAND_IN ->
                        d.on(
                            on,
                            level()
                                .staging()
                                .standIn(chosen.get())
                                .orElseThrow(
                                    () ->
                                        InputError.words(
                                            "no stand-in is chosen",
                                            "Choose the one they lie on")));
                  };
              List<GivenDepth> all = new ArrayList<>(level().staging().depths());
              given.forEach(g -> all.removeIf(x -> x.tracker().equals(g.tracker())));
              all.addAll(given);
              level()
                  .stage(
                      level().staging().withDepths(all),
                      "depths for " + given.size() + " trackers");
              level()
                  .said()
                  .set(
                      String.format(
                          Locale.ROOT,
                          "%d of %d trackers have a distance now; the others are sent as directions only",
                          all.size(),
                          level().scene().places().size()));
            });
  }

  public void clearDepths() {
    level().stage(level().staging().withDepths(List.of()), "take all depths back");
  }
}
