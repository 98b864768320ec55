package flarvo.desktop.stop.plate;

import flarvo.desktop.action.Action;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fact;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.scene.PlateRole;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.Node;

/** Lens distortion out of the plate. It only shows the received plates so far, and says so. */
public final class PlateStop implements StopModule {

  public static final String ID = "plate";

  private final Session session;
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
    return List.of(session.shot());
  }

  @Override
  public Fact fact() {
    return session.shot().get().plate(PlateRole.UNDISTORTED).isPresent()
        ? new Fact("as received", Fact.Mark.HALF, false)
        : new Fact("not available yet", Fact.Mark.HOLLOW, false);
  }

  @Override
  public List<Action> actions() {
    return List.of();
  }

  @Override
  public StopView view() {
    if (view == null) {
      PlateDesk desk = new PlateDesk(session);
      view =
          new StopView() {
            @Override
            public Node desk() {
              return desk;
            }
          };
    }
    return view;
  }
}
