package flarvo.desktop.stop.plate;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.MeasuredPlates;
import flarvo.desktop.state.PlateFindings;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.Slot;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.Blink;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.Gesture;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.DivideTool;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import flarvo.plate.match.PlateCheck;
import flarvo.scene.PlateRole;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Optional;
import javafx.beans.Observable;
import javafx.scene.Node;
import javafx.scene.input.KeyCode;

/** The lens of the plates: shown, taken out, and checked against the trackers. */
public final class PlateStop implements StopModule {

  public static final String ID = "plate";

  private final Session session;
  private final LensWorkbench bench;
  private final LineTool lines;
  private final Blink blink;
  private final MeasuredPlates.Last last = new MeasuredPlates.Last();
  private PlateDesk desk;
  private StopView view;

  public PlateStop(Session session) {
    this.session = session;
    bench = new LensWorkbench(session);
    lines = new LineTool(session, bench);
    blink =
        new Blink(
            () ->
                session
                    .view()
                    .plateRole()
                    .set(
                        session.view().plateRole().get() == PlateRole.ORIGINAL
                            ? PlateRole.UNDISTORTED
                            : PlateRole.ORIGINAL),
            () -> session.view().plateRole().set(PlateRole.UNDISTORTED));
  }

  @Override
  public String id() {
    return ID;
  }

  @Override
  public String title() {
    return "Plate";
  }

  @Override
  public List<Observable> factDependsOn() {
    return List.of(session.shot(), session.lens(), session.store().now());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    WorldShot shot = session.shot().get();
    List<PlateCheck> measured = last.of(session.store().now().get());
    if (PlateDesk.wrong(measured).isPresent() && !session.hasOpenClaims()) {
      return new Fact("wrong plates", Fact.Mark.HALF, true);
    }
    if (shot.plate(PlateRole.UNDISTORTED).isPresent()) {
      int n = shot.plate(PlateRole.UNDISTORTED).get().frames().count();
      boolean belongs =
          undistorted(measured).filter(c -> c.verdict() == PlateCheck.Verdict.BELONGS).isPresent();
      // Settled only when it is measured that these plates belong behind this camera.
      return new Fact("undistorted · " + n, belongs ? Fact.Mark.FULL : Fact.Mark.HALF, false);
    }
    return session.lens().get().track().isPresent()
        ? new Fact("lens known", Fact.Mark.HALF, false)
        : new Fact("no lens", Fact.Mark.HOLLOW, false);
  }

  private Optional<PlateCheck> undistorted(List<PlateCheck> all) {
    return all.stream().filter(c -> c.plates().role() == PlateRole.UNDISTORTED).findFirst();
  }

  @Override
  public List<Slot<?, ?>> slots() {
    return List.of(MeasuredPlates.SLOT, PlateFindings.SLOT);
  }

  @Override
  public List<Gesture> gestures() {
    return List.of(
        new Gesture("Click twice", "Trace an edge, while tracing"),
        new Gesture("Click a line", "Select it"));
  }

  @Override
  public boolean escape() {
    if (lines.giveUp()) {
      return true;
    }
    boolean tracing = bench.tracing().get();
    bench.tracing().set(false);
    return tracing;
  }

  @Override
  public List<Action> actions() {
    return List.of(
        Action.of("plate.trace", "Trace straight edges", this::trace)
            .called("lines", "straight lines", "lens")
            .on(Keys.of(KeyCode.E))
            .when(() -> Can.when(bench.obstacle().isEmpty(), bench.obstacle())),
        Action.of("plate.edges", "Find straight edges on this frame", this::edges)
            .called("detect lines", "lens")
            .when(() -> Can.when(bench.obstacle().isEmpty(), bench.obstacle())),
        Action.of("plate.board", "Find a filmed chequer board", this::board)
            .called("checkerboard", "chessboard", "lens grid", "calibration")
            .when(() -> Can.when(bench.obstacle().isEmpty(), bench.obstacle())),
        Action.of("plate.remove-line", "Remove the selected edge", bench::removeSelected)
            .called("delete line")
            .on(Keys.of(KeyCode.DELETE))
            .when(() -> Can.when(bench.selected().get() != null, "No edge selected")),
        Action.of("plate.remove-lines", "Remove all traced edges", bench::removeAll)
            .called("delete lines")
            .when(() -> Can.when(!bench.work().lines().isEmpty(), "No edges were traced")),
        Action.of("plate.fit", "Fit the lens to traced edges", bench::fit)
            .called("calibrate", "solve lens", "straight lines")
            .when(() -> Can.when(!bench.work().lines().isEmpty(), "No edges were traced")),
        Action.of("plate.undistort", "Undistort the plates", () -> desk().undistort().run())
            .called("straighten", "remove distortion")
            .when(
                () -> {
                  String why = desk().undistort().obstacle();
                  return Can.when(why.isEmpty(), why);
                }),
        Action.of(
                "plate.wipe",
                "Wipe original and undistorted plate",
                () -> desk().setWipe(session.view().wipe().get() < 0))
            .called("compare", "split")
            .when(this::bothPlates),
        Action.of(
                "plate.blink",
                "Blink original and undistorted plate",
                () -> blink.on().set(!blink.on().get()))
            .called("compare", "flip", "toggle")
            .when(this::bothPlates),
        Action.of(
                "plate.difference",
                "Show the difference of original and undistorted plate",
                () -> session.view().difference().set(!session.view().difference().get()))
            .called("compare", "subtract")
            .when(this::bothPlates),
        Action.of(
                "plate.grid",
                "Show the lens as a grid",
                () -> session.view().lensGrid().set(!session.view().lensGrid().get()))
            .called("distortion grid")
            .when(
                () ->
                    Can.when(
                        session.lens().get().track().isPresent(), session.lens().get().problem())));
  }

  private Can bothPlates() {
    return Can.when(
        session.shot().get().plate(PlateRole.ORIGINAL).isPresent()
            && session.shot().get().plate(PlateRole.UNDISTORTED).isPresent(),
        "The shot has no two plates to compare");
  }

  private void edges() {
    session.stop().set(ID);
    bench.findEdges();
  }

  private void board() {
    session.stop().set(ID);
    bench.findBoard();
  }

  private void trace() {
    session.stop().set(ID);
    bench.tracing().set(!bench.tracing().get());
  }

  private PlateDesk desk() {
    if (desk == null) {
      desk = new PlateDesk(session, bench, blink);
    }
    return desk;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new View(session, desk(), bench, lines, blink);
    }
    return view;
  }

  private static final class View implements StopView {
    private final Session session;
    private final PlateDesk desk;
    private final LensWorkbench bench;
    private final LineTool lines;
    private final Blink blink;
    private final LensGridLayer grid;
    private final DivideTool wipe;

    View(Session session, PlateDesk desk, LensWorkbench bench, LineTool lines, Blink blink) {
      this.session = session;
      this.desk = desk;
      this.bench = bench;
      this.lines = lines;
      this.blink = blink;
      grid = new LensGridLayer(session);
      wipe = new DivideTool(session.view().wipe(), () -> session.view().wipe().get() >= 0);
    }

    @Override
    public Node desk() {
      return desk;
    }

    @Override
    public List<Layer> layers(ViewKind kind) {
      return kind == ViewKind.PICTURE ? List.of(grid, lines) : List.of();
    }

    @Override
    public List<Tool> tools(ViewKind kind) {
      return kind == ViewKind.PICTURE ? List.of(wipe, lines) : List.of();
    }

    /** Elsewhere one plate is shown. */
    @Override
    public void hidden() {
      session.view().wipe().set(ViewSettings.NO_WIPE);
      session.view().difference().set(false);
      bench.tracing().set(false);
      blink.on().set(false);
    }
  }
}
