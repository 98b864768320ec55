package flarvo.desktop.stop.level;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.Slot;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.level.LevelReading;
import flarvo.level.Stated;
import flarvo.scene.Similarity;
import flarvo.stage.Gauge;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.beans.Observable;
import javafx.beans.property.BooleanProperty;
import javafx.scene.input.KeyCode;

/** Where the shot stands, how large it is, and what is built on it. */
public final class LevelStop implements StopModule {

  public static final String ID = "level";

  private final Session session;
  private final LevelWork work;
  private final BuildWork build;
  private LevelView view;

  public LevelStop(Session session) {
    this.session = session;
    work = new LevelWork(session);
    build = new BuildWork(session, work);
  }

  /** What is done with the level. */
  public LevelWork work() {
    return work;
  }

  /** What is built on it. */
  public BuildWork build() {
    return build;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Level";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(work.now(), session.state());
  }

  /** Stated and whole, set by hand or given, or nothing yet. */
  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    long said = work.staging().statements().stream().filter(Stated::on).count();
    if (said > 0) {
      LevelReading r = work.reading();
      boolean open = r != null && r.lines().stream().anyMatch(l -> l.problem().isPresent());
      return new Fact(
          open ? "conflict" : said + " stated · " + unit(),
          open || r != null && !r.free().isEmpty() ? Fact.Mark.HALF : Fact.Mark.FULL,
          open);
    }
    return work.standing().equals(Similarity.IDENTITY)
        ? new Fact("as received", Fact.Mark.HOLLOW, false)
        : new Fact("levelled · " + unit(), Fact.Mark.HALF, false);
  }

  private String unit() {
    return String.format(Locale.ROOT, "%.3f m", work.standing().scale());
  }

  @Override
  public List<Slot<?, ?>> slots() {
    return List.of(LevelSlots.SCENE, LevelSlots.READING);
  }

  private static Runnable toggle(BooleanProperty p) {
    return () -> p.set(!p.get());
  }

  private Can open() {
    return Can.when(session.isOpen(), "No shot open");
  }

  private Runnable here(Runnable deed) {
    return () -> {
      session.stop().set(ID);
      deed.run();
    };
  }

  @Override
  public List<Action> actions() {
    List<Action> list = new ArrayList<>();
    list.add(
        Action.of("level.guess", "Find the ground", here(work::guessGround))
            .called("ground plane", "floor", "guess level")
            .when(this::open));
    list.add(
        Action.of("level.apply-guess", "Apply the guess", here(work::takeGuess))
            .when(() -> Can.when(work.guess().get() != null, "There is no guess to apply")));
    list.add(
        Action.of("level.handles", "Handles on or off", toggle(session.view().handlesShown()))
            .called("knobs", "manipulators")
            .on(Keys.of(KeyCode.G)));
    list.add(
        Action.of(
                "level.views",
                "One view, or Picture and Space",
                toggle(session.view().pictureAlone()))
            .called("split view")
            .on(Keys.of(KeyCode.V)));
    for (Gauge.Kind k : Gauge.Kind.values()) {
      list.add(
          Action.of(
                  "level.gauge-" + k.word(),
                  "Place a " + k.word(),
                  here(() -> build.dropping().set(k)))
              .called("gauge", "known size")
              .when(this::open));
    }
    list.add(
        Action.of("level.card", "Card through selected trackers", here(build::card))
            .called("plane", "stand-in", "geometry")
            .when(this::open));
    list.add(
        Action.of("level.clear-locators", "Remove all locators", here(build::clearLocators))
            .called("nulls", "axes")
            .when(
                () ->
                    Can.when(
                        !work.staging().locators().isEmpty(), "There are no locators to remove")));
    list.add(
        Action.of("level.remove", "Remove the selected gauge or stand-in", build::removeChosen)
            .called("delete")
            .on(Keys.of(KeyCode.DELETE)));
    return list;
  }

  @Override
  public List<Gesture> gestures() {
    return List.of(
        new Gesture("Drag a handle", "Move, turn or scale the world"),
        new Gesture("Shift+drag", "The same, ten times finer"));
  }

  @Override
  public boolean escape() {
    if (build.disarm()) {
      return true;
    }
    boolean guessed = work.guess().get() != null;
    if (guessed) {
      work.leaveGuess();
    }
    return guessed;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new LevelView(session, work, build);
    }
    return view;
  }
}
