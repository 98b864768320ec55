package flarvo.desktop.stop.plate;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.state.Session;
import flarvo.desktop.state.ViewSettings;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import flarvo.scene.PlateRole;
import flarvo.scene.WorldShot;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.Node;

/** The lens of the plates: shown, taken out, and checked against the trackers. */
public final class PlateStop implements StopModule {

  public static final String ID = "plate";

  private final Session session;
  private PlateDesk desk;
  private StopView view;

  public PlateStop(Session session) {
    this.session = session;
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
    return List.of(session.shot(), session.lens());
  }

  @Override
  public Fact fact() {
    if (!session.isOpen()) {
      return Fact.NONE;
    }
    WorldShot shot = session.shot().get();
    if (shot.plate(PlateRole.UNDISTORTED).isPresent()) {
      // Settled only when it is measured that these plates belong behind this camera.
      int n = shot.plate(PlateRole.UNDISTORTED).get().frames().count();
      return new Fact("undistorted · " + n, Fact.Mark.HALF, false);
    }
    return session.lens().get().track().isPresent()
        ? new Fact("lens known", Fact.Mark.HALF, false)
        : new Fact("no lens", Fact.Mark.HOLLOW, false);
  }

  @Override
  public List<Action> actions() {
    return List.of(
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
            .when(
                () ->
                    Can.when(
                        session.shot().get().plate(PlateRole.ORIGINAL).isPresent()
                            && session.shot().get().plate(PlateRole.UNDISTORTED).isPresent(),
                        "The shot has no two plates to wipe")),
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

  private PlateDesk desk() {
    if (desk == null) {
      desk = new PlateDesk(session);
    }
    return desk;
  }

  @Override
  public StopView view() {
    if (view == null) {
      view = new View(session, desk());
    }
    return view;
  }

  private static final class View implements StopView {
    private final Session session;
    private final PlateDesk desk;
    private final LensGridLayer grid;
    private final WipeTool wipe;

    View(Session session, PlateDesk desk) {
      this.session = session;
      this.desk = desk;
      grid = new LensGridLayer(session);
      wipe = new WipeTool(session);
    }

    @Override
    public Node desk() {
      return desk;
    }

    @Override
    public List<Layer> layers(ViewKind kind) {
      return kind == ViewKind.PICTURE ? List.of(grid) : List.of();
    }

    @Override
    public List<Tool> tools(ViewKind kind) {
      return kind == ViewKind.PICTURE ? List.of(wipe) : List.of();
    }

    /** Elsewhere one plate is shown. */
    @Override
    public void hidden() {
      session.view().wipe().set(ViewSettings.NO_WIPE);
    }
  }
}
