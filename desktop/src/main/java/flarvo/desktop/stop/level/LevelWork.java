package flarvo.desktop.stop.level;

import flarvo.decision.Decided;
import flarvo.decision.LevelDecision;
import flarvo.decision.Outcome;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.SnapshotProperty;
import flarvo.desktop.work.Lane;
import flarvo.level.FirstGuess;
import flarvo.level.LevelReading;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.report.InputError;
import flarvo.scene.Rotation;
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
  private final ReadOnlyObjectProperty<LevelNow> now;
  private final ReadOnlyObjectWrapper<FirstGuess> guess = new ReadOnlyObjectWrapper<>();
  private final StringProperty said = new SimpleStringProperty("");

  public LevelWork(Session session) {
    this.session = session;
    now = new SnapshotProperty<>(session.store().now(), s -> s.get(LevelSlots.READING).value());
    session.state().addListener((o, a, b) -> guess.set(null));
  }

  /** What is being tried is given up. */
  void giveUp() {
    session.view().tried().set(null);
    guess.set(null);
  }

  /** The trackers to level by; without any while they are not read yet. */
  public LevelScene scene() {
    LevelScene s = session.store().now().get().get(LevelSlots.SCENE).value();
    return s == null ? LevelSlots.NOTHING : s;
  }

  /** What the statements come to; null while it is not worked out. */
  public ReadOnlyObjectProperty<LevelNow> now() {
    return now;
  }

  /** Null while it is not worked out. */
  public LevelReading reading() {
    return now.get() == null ? null : now.get().reading();
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
    return session.state().get().staging();
  }

  /** The level as it is drawn: the one that is tried, or the one that stands. */
  public Similarity shown() {
    return session.shownLevel();
  }

  public Similarity standing() {
    return session.state().get().level();
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
          session.store().decide(new LevelDecision.AddStatement(s));
        });
  }

  public void change(int index, UnaryOperator<Stated> how, String title) {
    Stated was = staging().statements().get(index);
    session.store().decide(new LevelDecision.ChangeStatement(was.what(), how.apply(was), title));
  }

  public void unstate(int index) {
    session
        .store()
        .decide(new LevelDecision.RemoveStatement(staging().statements().get(index).what()));
  }

  // First guess

  public void guessGround() {
    ShotState s = session.state().get();
    if (!session.isOpen()) {
      session.message().set("No shot open");
      return;
    }
    said.set("");
    session
        .jobs()
        .newest(
            this,
            Lane.MEASURE,
            "Looking for the ground",
            p -> LevelDecision.ApplyGuess.guess(s, new LevelScene(s.shot()), p),
            g -> offer(s, g),
            said::set);
  }

  @SuppressWarnings("ReferenceEquality")
  private void offer(ShotState s, FirstGuess g) {
    if (session.state().get() == s) {
      session.view().tried().set(g.level());
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
    session.store().decide(new LevelDecision.ApplyGuess(), new Outcome.Level(g.level()));
  }

  public void leaveGuess() {
    giveUp();
    said.set("");
  }

  // By hand

  /** A level that is tried while a handle is dragged; statements hold on already. */
  public void tryLevel(Similarity level) {
    session.view().tried().set(Levelling.near(scene(), staging().statements(), level));
  }

  public void keepTried(String title) {
    Similarity t = session.view().tried().get();
    if (t != null) {
      move(t.after(standing().inverse()), title);
    }
  }

  /** Moves the whole shot in the world. */
  public void move(Similarity by, String title) {
    session.store().decide(new LevelDecision.MoveLevel(by, title));
  }

  public void turn(Vec3 axis, double radians, String title) {
    move(new Similarity(1, Rotation.about(axis, radians), Vec3.ZERO), title);
  }

  /** One part as received, that is as solve space has it. */
  public void reset(LevelDecision.Part part) {
    session.store().decide(new LevelDecision.ResetLevel(part));
  }

  // Solve on solve

  /** Reads another solve of this shot and lays it on the one that stands. */
  public void lay(List<Path> files) {
    if (files.isEmpty()) {
      return;
    }
    said.set("");
    session
        .store()
        .work(
            "Aligning second solve",
            (s, p) -> Decided.of(s, new ReceiveDecision.AlignSolve(files), p),
            d -> d,
            d -> said.set(d.outcome().map(o -> ((Outcome.Alignment) o).words()).orElse("")),
            why -> {
              said.set(why);
              session.message().set(why);
            });
  }
}
