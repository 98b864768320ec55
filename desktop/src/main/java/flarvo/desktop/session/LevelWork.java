package flarvo.desktop.session;

import flarvo.decision.Decided;
import flarvo.decision.LevelDecision;
import flarvo.decision.Outcome;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.level.FirstGuess;
import flarvo.level.LevelCheck;
import flarvo.level.LevelReading;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.report.InputError;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.stage.Staging;
import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** What is done at Level: every decision as an edit; what is only tried stands beside the shot. */
public final class LevelWork {

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
          session.apply(new LevelDecision.AddStatement(s));
        });
  }

  public void change(int index, UnaryOperator<Stated> how, String title) {
    Stated was = staging().statements().get(index);
    session.apply(new LevelDecision.ChangeStatement(was.what(), how.apply(was), title));
  }

  public void unstate(int index) {
    session.apply(new LevelDecision.RemoveStatement(staging().statements().get(index).what()));
  }

  // First guess

  public void guessGround() {
    ShotState s = session.state().get();
    if (s == null) {
      return;
    }
    LevelScene now = scene();
    said.set("");
    session
        .jobs()
        .run(
            "Looking for the ground",
            p -> LevelDecision.ApplyGuess.guess(s, now, p),
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
    session.apply(new LevelDecision.ApplyGuess(), new Outcome.Level(g.level()));
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
      move(t.after(standing().inverse()), title);
    }
  }

  /** Moves the whole shot in the world. */
  public void move(Similarity by, String title) {
    session.apply(new LevelDecision.MoveLevel(by, title));
  }

  public void turn(Vec3 axis, double radians, String title) {
    move(new Similarity(1, Rotation.about(axis, radians), Vec3.ZERO), title);
  }

  /** One part as received, that is as solve space has it. */
  public void reset(LevelDecision.Part part) {
    session.apply(new LevelDecision.ResetLevel(part));
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
            "Aligning second solve",
            p -> Decided.of(s, new ReceiveDecision.AlignSolve(files), p),
            d -> aligned(s, d),
            why -> {
              said.set(why);
              session.message().set(why);
            });
  }

  @SuppressWarnings("ReferenceEquality")
  private void aligned(ShotState s, Decided d) {
    if (session.state().get() != s) {
      session.message().set("The shot was changed meanwhile; align the second solve again");
      return;
    }
    session.add(d);
    said.set(d.outcome().map(o -> ((Outcome.Alignment) o).words()).orElse(""));
  }
}
