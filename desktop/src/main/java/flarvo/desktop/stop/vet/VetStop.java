package flarvo.desktop.stop.vet;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.Slot;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.vet.adjust.AdjustOptions;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import javafx.beans.Observable;
import javafx.beans.property.BooleanProperty;
import javafx.scene.input.KeyCode;

/** How good the solve is, and what makes it better. */
public final class VetStop implements StopModule {

  public static final String ID = "vet";

  /** What 'Cull and refine' aims at when it is run by name. */
  private static final double USUAL_TARGET_PX = 0.35;

  private final Session session;
  private final VetWork work;
  private VetView view;

  public VetStop(Session session) {
    this.session = session;
    work = new VetWork(session);
  }

  /** What is done here. */
  public VetWork work() {
    return work;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Vet";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.errors(), session.ledger(), session.view().errorLimitPx());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    if (session.errors().get() == null) {
      return new Fact("no 2D tracks", Fact.Mark.HOLLOW, false);
    }
    if (session.hasOpenClaims()) {
      return new Fact("settle claims first", Fact.Mark.HOLLOW, false);
    }
    double rms = session.errors().get().rmsPx();
    boolean over = rms > session.view().errorLimitPx().get();
    return new Fact(
        String.format(Locale.ROOT, rms < 1000 ? "%.2f px" : "%,.0f px", rms),
        over ? Fact.Mark.HALF : Fact.Mark.FULL,
        over);
  }

  @Override
  public List<Slot<?, ?>> slots() {
    return List.of(VetSlots.MEASURES, VetSlots.KIND);
  }

  private Can selected() {
    return Can.when(!session.selection().isEmpty(), "No tracker selected");
  }

  private Set<String> selection() {
    return Set.copyOf(session.selection());
  }

  private Runnable here(Runnable deed) {
    return () -> {
      session.stop().set(ID);
      deed.run();
    };
  }

  private static Runnable toggle(BooleanProperty p) {
    return () -> p.set(!p.get());
  }

  @Override
  public List<Action> actions() {
    return List.of(
        Action.of("vet.table", "Tracker table", here(toggle(session.view().tableShown())))
            .called("list of trackers", "spreadsheet")
            .on(Keys.of(KeyCode.T)),
        Action.of("vet.cull", "Cull selected trackers", () -> work.cullByHand(selection()))
            .called("leave out", "remove", "delete", "disable")
            .on(Keys.of(KeyCode.DELETE))
            .when(this::selected),
        Action.of("vet.restore", "Restore selected trackers", () -> work.restore(selection()))
            .called("bring back", "uncull", "enable")
            .on(Keys.of(KeyCode.INSERT))
            .when(this::selected),
        Action.of(
                "vet.restore-all",
                "Restore all trackers",
                () -> work.restore(work.vetting().culled()))
            .called("bring back", "uncull")
            .when(() -> Can.when(!work.vetting().culled().isEmpty(), "No tracker is culled")),
        Action.of("vet.weight", "Weight on or off", this::weigh)
            .called("ignore", "mute")
            .on(Keys.of(KeyCode.W))
            .when(this::selected),
        Action.of("vet.refine", "Refine the solve", () -> work.refine(AdjustOptions.USUAL))
            .called("bundle adjustment", "adjust"),
        Action.of(
                "vet.cull-and-refine",
                String.format(Locale.ROOT, "Cull and refine to %.2f px", USUAL_TARGET_PX),
                () -> work.cullAndRefine(USUAL_TARGET_PX, AdjustOptions.USUAL))
            .called("clean up", "remove outliers"),
        Action.of("vet.solve-from-tracks", "Solve from 2D tracks", () -> work.solveFromTracks(true))
            .called("resolve", "track camera"),
        Action.of("vet.revert", "Revert to the received solve", work::revertSolve)
            .called("reset", "original"),
        Action.of("vet.mark", "Mark an extra point", here(toggle(work.marking())))
            .called("extra point", "add tracker")
            .on(Keys.of(KeyCode.M)),
        Action.of("vet.rings", "Error rings", here(toggle(session.view().errorRings()))));
  }

  /** Weight off, or on again where none of the selected has any. */
  private void weigh() {
    work.weigh(selection(), work.vetting().weightless().containsAll(selection()));
  }

  @Override
  public List<Gesture> gestures() {
    return List.of(
        new Gesture("Alt+drag", "Select by lasso"),
        new Gesture("Ctrl+Alt+drag", "Select by box"),
        new Gesture("Drag the line", "Set the error limit in the graph"));
  }

  @Override
  public boolean escape() {
    boolean marking = work.marking().get();
    work.marking().set(false);
    return marking;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new VetView(session, work);
    }
    return view;
  }
}
