package flarvo.desktop.stop.trace;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.trace.TraceWork;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.input.KeyCode;

/** A solve from nothing but the plates, where none came or the one that came is useless. */
public final class TraceStop implements StopModule {

  public static final String ID = "trace";

  private final Session session;
  private final TraceBench bench;
  private TraceView view;

  public TraceStop(Session session) {
    this.session = session;
    bench = new TraceBench(session);
  }

  /** What is done here. */
  public TraceBench bench() {
    return bench;
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Trace";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.state(), session.shot());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    TraceWork w = bench.work();
    if (w.hasTracks()) {
      int n = w.features().map(f -> f.observations().names().size()).orElse(0) + w.hand().size();
      int planes = w.planes().size();
      return new Fact(
          n == 0 ? planes + (planes == 1 ? " plane" : " planes") : n + " features",
          w.solve().isPresent() ? Fact.Mark.FULL : Fact.Mark.HALF,
          false);
    }
    if (!session.solved().observations().isEmpty()) {
      return new Fact("not needed", Fact.Mark.FULL, false);
    }
    return new Fact(
        session.solved().plates().isEmpty() ? "no plates" : "not traced", Fact.Mark.HOLLOW, false);
  }

  private Can canFollow() {
    return Can.when(bench.obstacle().isEmpty(), bench.obstacle());
  }

  private Can hasMover() {
    return Can.when(bench.movers().selected().get() != null, "Nothing that moves is selected");
  }

  private Can hasFeature() {
    return Can.when(bench.hand().feature().isPresent(), "No feature by hand is selected");
  }

  private TraceDesk desk() {
    session.stop().set(ID);
    view();
    return view.traceDesk();
  }

  @Override
  public List<Action> actions() {
    return List.of(
        Action.of("trace.follow", "Follow features", () -> desk().follow())
            .called("detect", "2D tracks", "points")
            .when(this::canFollow),
        Action.of("trace.solve", "Solve from the plates", () -> desk().solve())
            .called("resection", "focal length", "reconstruct")
            .when(() -> Can.when(bench.solveObstacle().isEmpty(), bench.solveObstacle())),
        Action.of("trace.auto", "Plates to levelled solve", () -> desk().all())
            .called("one step", "everything", "by itself")
            .when(this::canFollow),
        Action.of(
                "trace.plane",
                "Draw a plane",
                () -> {
                  session.stop().set(ID);
                  bench.planes().drawing().set(!bench.planes().drawing().get());
                })
            .called("planar", "corner pin", "homography", "four corners")
            .when(this::canFollow),
        Action.of("trace.remove-plane", "Remove the selected plane", bench.planes()::remove)
            .called("delete plane")
            .when(() -> Can.when(bench.planes().selected().get() != null, "No plane selected")),
        Action.of("trace.movers", "Find what moves", () -> desk().findMovers())
            .called("moving objects", "segment", "outliers", "people")
            .when(() -> Can.when(bench.work().features().isPresent(), "No features were followed")),
        Action.of("trace.mover-mask", "Mask what moves", () -> bench.movers().mask())
            .called("roto", "exclude")
            .when(this::hasMover),
        Action.of("trace.mover-solve", "Solve what moves as an object", bench.movers()::solve)
            .called("object track", "second solve")
            .when(
                () ->
                    Can.when(
                        bench.movers().solveObstacle().isEmpty(), bench.movers().solveObstacle())),
        Action.of("trace.mover-back", "Count what moves as scene", bench.movers()::giveBack)
            .called("use again")
            .when(this::hasMover),
        Action.of(
                "trace.mask",
                "Draw a mask",
                () -> {
                  session.stop().set(ID);
                  bench.drawing().set(!bench.drawing().get());
                })
            .called("roto", "garbage mask", "exclude", "shape")
            .when(this::canFollow),
        Action.of(
                "trace.mark",
                "Mark features by hand",
                () -> {
                  session.stop().set(ID);
                  bench.hand().marking().set(!bench.hand().marking().get());
                })
            .called("add tracker", "manual", "2D track")
            .on(Keys.of(KeyCode.M))
            .when(this::canFollow),
        Action.of("trace.begin-here", "Begin the feature here", bench.hand()::beginHere)
            .called("trim", "cut before")
            .when(this::hasFeature),
        Action.of("trace.end-here", "End the feature here", bench.hand()::endHere)
            .called("trim", "cut after")
            .when(this::hasFeature),
        Action.of("trace.remove-feature", "Remove the selected feature", bench.hand()::remove)
            .called("delete tracker")
            .on(Keys.of(KeyCode.DELETE))
            .when(this::hasFeature),
        Action.of("trace.remove-mask", "Remove the selected mask", bench::removeMask)
            .called("delete mask")
            .when(() -> Can.when(bench.mask().get() != null, "No mask selected")),
        Action.of("trace.forget", "Forget followed features", bench::forget)
            .called("clear tracks", "remove features")
            .when(
                () -> Can.when(bench.work().features().isPresent(), "No features were followed")));
  }

  @Override
  public List<Gesture> gestures() {
    return List.of(
        new Gesture("Click", "Mark a feature, or select one"),
        new Gesture("Drag a feature", "Correct it on this frame; the rest follows"),
        new Gesture("Four clicks", "Draw a plane, round its corners"),
        new Gesture("Click, click, …", "Draw a mask; a click on its first corner closes it"),
        new Gesture("Drag a corner", "Set a key of the mask on this frame"));
  }

  @Override
  public boolean escape() {
    if (view != null && (view.masks().giveUp() || view.planes().giveUp())) {
      return true;
    }
    boolean was =
        bench.drawing().get() || bench.hand().marking().get() || bench.planes().drawing().get();
    bench.planes().drawing().set(false);
    bench.drawing().set(false);
    bench.hand().marking().set(false);
    return was;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new TraceView(session, bench);
    }
    return view;
  }
}
