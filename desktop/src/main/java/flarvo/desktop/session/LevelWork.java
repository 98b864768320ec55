package flarvo.desktop.session;

import flarvo.level.FirstGuess;
import flarvo.level.LevelCheck;
import flarvo.level.LevelReading;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.project.ShotEdit;
import flarvo.project.ShotState;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Locator;
import flarvo.stage.SlideReading;
import flarvo.stage.SolveOnSolve;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import flarvo.stage.TripodDepth;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;

/** What is done at Level: every decision as an edit; what is only tried stands beside the shot. */
public final class LevelWork {

  private static final Vec3 UP = new Vec3(0, 1, 0);

  private final Session session;
  private final ReadOnlyObjectWrapper<LevelReading> reading = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<List<String>> wrong = new ReadOnlyObjectWrapper<>(List.of());
  private final ReadOnlyObjectWrapper<Similarity> tried = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<FirstGuess> guess = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<Gauge.Kind> dropping = new SimpleObjectProperty<>();
  private final ObjectProperty<Sketch> sketching = new SimpleObjectProperty<>();
  private final ObservableList<Vec3> sketch = FXCollections.observableArrayList();
  private final StringProperty group = new SimpleStringProperty("stand-ins");
  private final DoubleProperty boxHeight = new SimpleDoubleProperty(0.5);
  private final StringProperty chosen = new SimpleStringProperty("");
  private final StringProperty said = new SimpleStringProperty("");
  private LevelScene scene;
  private Shot sceneOf;

  LevelWork(Session session) {
    this.session = session;
    session.state().addListener((o, a, b) -> follow());
    session.stop().addListener((o, a, b) -> follow());
  }

  /** What stands, with what is being tried given up; nobody looks at it away from Level. */
  private void follow() {
    tried.set(null);
    guess.set(null);
    ShotState s = session.state().get();
    if (s == null || session.stop().get() != Stop.LEVEL) {
      return;
    }
    if (!chosen.get().isEmpty() && !isPlaced(chosen.get())) {
      chosen.set("");
    }
    reading.set(Levelling.of(scene(), s.staging().statements(), s.shot().level()));
    wrong.set(LevelCheck.of(scene(), s.shot().level()));
  }

  private boolean isPlaced(String name) {
    return staging().gauge(name).isPresent() || staging().standIn(name).isPresent();
  }

  /** Anew only where trackers, camera or tracks are others: the level does not matter to it. */
  @SuppressWarnings("ReferenceEquality")
  public LevelScene scene() {
    Shot now = session.state().get().shot();
    if (scene == null
        || sceneOf.observations() != now.observations()
        || !sceneOf.trackers().equals(now.trackers())
        || !sceneOf.cameras().equals(now.cameras())) {
      scene = new LevelScene(now);
    }
    sceneOf = now;
    return scene;
  }

  /** Null away from Level. */
  public ReadOnlyObjectProperty<LevelReading> reading() {
    return reading.getReadOnlyProperty();
  }

  /** Sentences on what looks wrong. */
  public ReadOnlyObjectProperty<List<String>> wrong() {
    return wrong.getReadOnlyProperty();
  }

  /** A level that is only tried, while a handle is dragged or a guess is looked at; else null. */
  public ReadOnlyObjectProperty<Similarity> tried() {
    return tried.getReadOnlyProperty();
  }

  /** The first guess that is offered; null where none is. */
  public ReadOnlyObjectProperty<FirstGuess> guess() {
    return guess.getReadOnlyProperty();
  }

  /** The kind of gauge that the next click sets; null for none. */
  public ObjectProperty<Gauge.Kind> dropping() {
    return dropping;
  }

  /** Name of the gauge or stand-in that is worked on; empty for none. */
  public StringProperty chosen() {
    return chosen;
  }

  /** What the last longer action came to. */
  public StringProperty said() {
    return said;
  }

  public Staging staging() {
    return session.state().get() == null ? Staging.NONE : session.state().get().staging();
  }

  /** The level as it is drawn: the one that is tried, or the one that stands. */
  public Similarity shown() {
    return tried.get() != null ? tried.get() : standing();
  }

  public Similarity standing() {
    return session.state().get() == null
        ? Similarity.IDENTITY
        : session.state().get().shot().level();
  }

  private void stage(Staging s, String title) {
    session.apply(new ShotEdit.Stage(s, title));
  }

  /** Runs an edit whose making may find that it cannot be. */
  private void attempt(Runnable edit) {
    try {
      edit.run();
    } catch (InputError e) {
      said.set(e.getMessage());
      session.message().set(e.getMessage());
    }
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
      box(standing().apply(corners.get(0)), standing().apply(corners.get(1)), boxHeight.get());
    } else {
      attempt(
          () -> addStandIn(StandIn.card(staging().freeName("card"), group.get(), corners, eye())));
    }
  }

  /** What a ray of the world meets first, in solve space. */
  public Optional<Vec3> under(Vec3 eye, Vec3 ray, boolean standIns) {
    Similarity back = standing().inverse();
    Vec3 from = back.apply(eye);
    Vec3 way = back.rotation().apply(ray);
    Vec3 best = null;
    if (standIns) {
      for (StandIn s : staging().standIns()) {
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

  // Statements

  public void state(Statement s) {
    attempt(
        () -> {
          s.check();
          List<Stated> all = new ArrayList<>(staging().statements());
          all.add(new Stated(s));
          stage(staging().withStatements(all), s.words());
        });
  }

  public void change(int index, UnaryOperator<Stated> how, String title) {
    List<Stated> all = new ArrayList<>(staging().statements());
    all.set(index, how.apply(all.get(index)));
    stage(staging().withStatements(all), title);
  }

  public void unstate(int index) {
    List<Stated> all = new ArrayList<>(staging().statements());
    Stated gone = all.remove(index);
    stage(staging().withStatements(all), "take back: " + gone.what().words());
  }

  // First guess

  public void guessGround() {
    ShotState s = session.state().get();
    if (s == null) {
      return;
    }
    LevelScene now = scene();
    Optional<PlateSequence> plates = s.shot().plate(PlateRole.UNDISTORTED);
    said.set("");
    session
        .jobs()
        .run(
            "Looking for the ground",
            p ->
                FirstGuess.of(
                    now, s.shot().level(), f -> plates.flatMap(q -> PlateLuma.of(q, f)), p),
            g -> offer(s, g),
            said::set);
  }

  @SuppressWarnings("ReferenceEquality")
  private void offer(ShotState s, FirstGuess g) {
    if (session.state().get() == s) {
      tried.set(g.level());
      guess.set(g);
      said.set(g.words());
    }
  }

  /** The guess becomes the level; its ground is stated too, so that it stays. */
  public void takeGuess() {
    FirstGuess g = guess.get();
    if (g == null) {
      return;
    }
    session.apply(new ShotEdit.SetLevel(g.level(), "take the first guess"));
  }

  public void leaveGuess() {
    tried.set(null);
    guess.set(null);
    said.set("");
  }

  // By hand

  /** A level that is tried while a handle is dragged; statements hold on already. */
  public void tryLevel(Similarity level) {
    tried.set(Levelling.near(scene(), staging().statements(), level));
  }

  public void keepTried(String title) {
    Similarity t = tried.get();
    if (t != null) {
      session.apply(new ShotEdit.SetLevel(t, title));
    }
  }

  /** Moves the whole shot in the world. */
  public void move(Similarity by, String title) {
    session.apply(new ShotEdit.SetLevel(by.after(standing()), title));
  }

  public void turn(Vec3 axis, double radians, String title) {
    move(new Similarity(1, Rotation.about(axis, radians), Vec3.ZERO), title);
  }

  /** Parts of the level that can be given back. */
  public enum Part {
    TURN("turn"),
    TILT("tilt"),
    PLACE("place"),
    HEIGHT("height"),
    SIZE("size"),
    ALL("level");

    private final String word;

    Part(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  /** One part as it came, that is as solve space has it. */
  public void reset(Part part) {
    Similarity l = standing();
    Vec3 up = l.rotation().inverse().apply(UP);
    Rotation upright = shortest(up, UP);
    Similarity next =
        switch (part) {
          case ALL -> Similarity.IDENTITY;
          case SIZE -> new Similarity(1, l.rotation(), l.translation().times(1 / l.scale()));
          case PLACE ->
              new Similarity(l.scale(), l.rotation(), new Vec3(0, l.translation().y(), 0));
          case HEIGHT ->
              new Similarity(
                  l.scale(), l.rotation(), new Vec3(l.translation().x(), 0, l.translation().z()));
          case TURN -> new Similarity(l.scale(), upright, l.translation());
          case TILT ->
              // What turns solve space about its own up is kept.
              new Similarity(l.scale(), l.rotation().after(upright.inverse()), l.translation());
        };
    session.apply(new ShotEdit.SetLevel(next, "reset the " + part.word));
  }

  private static Rotation shortest(Vec3 from, Vec3 to) {
    Vec3 axis = from.cross(to);
    if (axis.length() < 1e-12) {
      return from.dot(to) > 0 ? Rotation.IDENTITY : Rotation.about(new Vec3(1, 0, 0), Math.PI);
    }
    return Rotation.about(axis.normalized(), Math.atan2(axis.length(), from.dot(to)));
  }

  // Gauges

  /** Sets a gauge of the kind that waits; on a tracker, or with its foot at a place. */
  public void drop(Optional<String> tracker, Vec3 solveSpace) {
    Gauge.Kind kind = dropping.get();
    if (kind == null) {
      return;
    }
    String name = staging().freeName(kind.word());
    Gauge g = new Gauge(name, kind, solveSpace, kind.usual(), 0, tracker);
    List<Gauge> all = new ArrayList<>(staging().gauges());
    all.add(g);
    stage(
        staging().withGauges(all),
        "set " + name + tracker.map(t -> " on " + t).orElse(" on the ground"));
    dropping.set(null);
    chosen.set(name);
  }

  public void changeGauge(String name, UnaryOperator<Gauge> how, String title) {
    attempt(
        () ->
            staging()
                .gauge(name)
                .ifPresent(
                    g ->
                        stage(
                            staging()
                                .withGauges(
                                    Staging.with(
                                        staging().gauges(),
                                        x -> x.name().equals(name),
                                        how.apply(g))),
                            title)));
  }

  /** Takes the chosen gauge or stand-in away. */
  public void removeChosen() {
    String name = chosen.get();
    if (staging().gauge(name).isPresent()) {
      stage(
          staging().withGauges(Staging.without(staging().gauges(), g -> g.name().equals(name))),
          "remove " + name);
    } else if (staging().standIn(name).isPresent()) {
      stage(
          staging().withStandIns(Staging.without(staging().standIns(), s -> s.name().equals(name))),
          "remove " + name);
    } else {
      session.message().set("No gauge and no stand-in is chosen");
    }
  }

  /** How far the chosen thing would slide; empty where the camera does not see it. */
  public Optional<SlideReading> slide() {
    Staging s = staging();
    Optional<Vec3> foot =
        s.gauge(chosen.get())
            .map(g -> g.following(scene().places()).foot())
            .or(() -> s.standIn(chosen.get()).map(i -> i.points().get(0)));
    return foot.flatMap(
        f -> SlideReading.of(scene(), standing(), f, session.playhead().frame().get()));
  }

  // Stand-ins and locators

  public void addStandIn(StandIn s) {
    List<StandIn> all = new ArrayList<>(staging().standIns());
    all.add(s);
    stage(staging().withStandIns(all), "add " + s.name());
    chosen.set(s.name());
  }

  /** Eye in the middle of the shot, in solve space. */
  public Vec3 eye() {
    List<Pose> p = scene().poses();
    return p.isEmpty() ? Vec3.ZERO : p.get(p.size() / 2).position();
  }

  /** A card through the selected trackers. */
  public void card() {
    attempt(
        () -> {
          List<Vec3> at =
              session.selection().stream()
                  .sorted()
                  .map(scene().places()::get)
                  .filter(java.util.Objects::nonNull)
                  .toList();
          addStandIn(StandIn.card(staging().freeName("card"), group.get(), at, eye()));
        });
  }

  /** A box whose foot spans two places of the world. */
  public void box(Vec3 a, Vec3 b, double height) {
    attempt(
        () ->
            addStandIn(
                StandIn.box(staging().freeName("box"), group.get(), a, b, height, standing())));
  }

  /** A wall from the edge between the two selected trackers. */
  public void wall(double height) {
    attempt(
        () -> {
          List<Vec3> at =
              session.selection().stream()
                  .sorted()
                  .map(scene().places()::get)
                  .filter(java.util.Objects::nonNull)
                  .map(standing()::apply)
                  .toList();
          if (at.size() != 2) {
            throw InputError.words(
                "a wall rises from the edge between two trackers, not " + at.size(),
                "Select the two at its foot");
          }
          addStandIn(
              StandIn.wall(
                  staging().freeName("wall"),
                  group.get(),
                  at.get(0),
                  at.get(1),
                  height,
                  standing().apply(eye()),
                  standing()));
        });
  }

  public void changeStandIn(String name, UnaryOperator<StandIn> how, String title) {
    attempt(
        () ->
            staging()
                .standIn(name)
                .ifPresent(
                    s -> {
                      StandIn next = how.apply(s);
                      stage(
                          staging()
                              .withStandIns(
                                  Staging.with(
                                      staging().standIns(), x -> x.name().equals(name), next)),
                          title);
                    }));
  }

  /** The corner nearest to the selected tracker goes there. */
  public void snap(String name) {
    if (session.selection().size() != 1) {
      session.message().set("Select the one tracker that a corner shall go to");
      return;
    }
    Vec3 to = scene().places().get(session.selection().iterator().next());
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
    attempt(
        () -> {
          if (session.selection().isEmpty()) {
            throw InputError.words("no tracker is selected", "Select where locators shall stand");
          }
          List<Locator> all = new ArrayList<>(staging().locators());
          Map<String, Vec3> places = scene().places();
          List<String> on =
              session.selection().stream().sorted().filter(places::containsKey).toList();
          int n = 0;
          for (String t : on) {
            n++;
            String name = stem.isBlank() ? t + "_loc" : on.size() == 1 ? stem : stem + n;
            all.removeIf(l -> l.name().equals(name));
            all.add(new Locator(name, group, t, places.get(t), metres));
          }
          stage(staging().withLocators(all), "locators on " + on.size() + " trackers");
        });
  }

  public void clearLocators() {
    stage(staging().withLocators(List.of()), "remove all locators");
  }

  /** A fiftieth of how far the trackers reach, on a round number of metres. */
  public double suitingSize() {
    double reach = 0;
    Vec3 middle = Vec3.ZERO;
    int n = Math.max(1, scene().places().size());
    for (Vec3 v : scene().places().values()) {
      middle = middle.plus(v.times(1.0 / n));
    }
    for (Vec3 v : scene().places().values()) {
      reach += v.minus(middle).length() / n;
    }
    double m = Math.max(1e-6, reach * standing().scale() / 25);
    double unit = Math.pow(10, Math.floor(Math.log10(m)));
    return unit * Math.max(1, Math.rint(m / unit));
  }

  // Solve on solve, depths

  /** Reads another solve of this shot and lays it on the one that stands. */
  public void lay(List<Path> files) {
    ShotState s = session.state().get();
    if (s == null || files.isEmpty()) {
      return;
    }
    said.set("");
    session
        .jobs()
        .run(
            "Laying another solve on this one",
            p -> {
              ShotIntake intake = new ShotIntake();
              for (Path f : files) {
                intake.add(f, IntakeOptions.NONE, p);
              }
              s.received().ifPresent(r -> keepTheRest(intake, r, p));
              s.shot().plates().forEach(intake::add);
              ReceivedSet set = intake.received(IntakeOptions.NONE);
              Shot other = set.shot(s.shot().name(), s.rulings());
              return new Laid(set, other, SolveOnSolve.of(s.shot(), other));
            },
            l -> laid(s, l),
            why -> {
              said.set(why);
              session.message().set(why);
            });
  }

  /** 2D tracks, logs and lenses of the first solve are those of the second too. */
  private static void keepTheRest(ShotIntake intake, ReceivedSet r, Progress p) {
    for (ReceivedFile f : r.files()) {
      if (f.scene().cameras().isEmpty() && f.scene().trackers().isEmpty()) {
        if (f.mapping().isPresent()) {
          intake.add(f.path(), f.mapping().get(), IntakeOptions.NONE, p);
        } else {
          intake.add(f.path(), IntakeOptions.NONE, p);
        }
      }
    }
    r.lenses().forEach(l -> intake.add(l.path(), IntakeOptions.NONE, p));
    r.logs().forEach(l -> intake.add(l.path(), IntakeOptions.NONE, p));
  }

  private record Laid(ReceivedSet set, Shot other, SolveOnSolve fit) {}

  @SuppressWarnings("ReferenceEquality")
  private void laid(ShotState s, Laid l) {
    if (session.state().get() != s) {
      session.message().set("The shot was changed meanwhile; lay the other solve on it again");
      return;
    }
    String words = l.fit().words(s.shot().level());
    session.apply(
        new ShotEdit.LayOn(l.set(), l.other(), l.fit().onto(), "lay another solve on it"));
    said.set(words);
  }

  /** How a tripod's trackers get a distance. */
  public enum By {
    TYPED,
    GROUND,
    STAND_IN
  }

  public void depths(By by, double metres) {
    attempt(
        () -> {
          TripodDepth d = new TripodDepth(session.state().get().shot());
          List<String> on =
              session.selection().isEmpty()
                  ? List.copyOf(scene().places().keySet())
                  : List.copyOf(session.selection());
          List<GivenDepth> given =
              switch (by) {
                case TYPED -> d.typed(on, metres, standing());
                case GROUND -> d.onGround(on, 0, standing());
                case STAND_IN ->
                    d.on(
                        on,
                        staging()
                            .standIn(chosen.get())
                            .orElseThrow(
                                () ->
                                    InputError.words(
                                        "no stand-in is chosen", "Choose the one they lie on")));
              };
          List<GivenDepth> all = new ArrayList<>(staging().depths());
          given.forEach(g -> all.removeIf(x -> x.tracker().equals(g.tracker())));
          all.addAll(given);
          stage(staging().withDepths(all), "depths for " + given.size() + " trackers");
          said.set(
              String.format(
                  Locale.ROOT,
                  "%d of %d trackers have a distance now; the others are sent as directions only",
                  all.size(),
                  scene().places().size()));
        });
  }

  public void clearDepths() {
    stage(staging().withDepths(List.of()), "take all depths back");
  }
}
