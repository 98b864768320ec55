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
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.SolveOnSolve;
import flarvo.stage.Staging;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** What is done at Level: every decision as an edit; what is only tried stands beside the shot. */
public final class LevelWork {

  private static final Vec3 UP = new Vec3(0, 1, 0);

  private final Session session;
  private final ReadOnlyObjectWrapper<LevelReading> reading = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<List<String>> wrong = new ReadOnlyObjectWrapper<>(List.of());
  private final ReadOnlyObjectWrapper<Similarity> tried = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<FirstGuess> guess = new ReadOnlyObjectWrapper<>();
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
    reading.set(Levelling.of(scene(), s.staging().statements(), s.shot().level()));
    wrong.set(LevelCheck.of(scene(), s.shot().level()));
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

  void stage(Staging s, String title) {
    session.apply(new ShotEdit.Stage(s, title));
  }

  /** Runs an edit whose making may find that it cannot be. */
  void attempt(Runnable edit) {
    try {
      edit.run();
    } catch (InputError e) {
      said.set(e.getMessage());
      session.message().set(e.getMessage());
    }
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
    Rotation upright = Rotation.between(up, UP);
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

  // Solve on solve

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
}
