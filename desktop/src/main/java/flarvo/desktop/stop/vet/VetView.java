package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;

/** Vet's desk, its graph over the ladder, and the table of trackers. */
final class VetView implements StopView {

  private final Session session;
  private final VetWork work;
  private final VetDesk desk;
  private final VetGraph graph;
  private final Lasso lasso;
  private final MarkTool marks;
  private final TrailsLayer trails;
  private TrackerTable table; // made when first shown

  VetView(Session session, VetWork work) {
    this.session = session;
    this.work = work;
    desk = new VetDesk(session, work);
    graph = new VetGraph(session, work);
    lasso = new Lasso(session, work);
    marks = new MarkTool(work);
    trails = new TrailsLayer(session);
  }

  @Override
  public Node desk() {
    return desk;
  }

  @Override
  public Optional<Node> graph() {
    return Optional.of(graph);
  }

  @Override
  public Optional<Node> below() {
    if (!session.view().tableShown().get()) {
      return Optional.empty();
    }
    if (table == null) {
      table = new TrackerTable(session, work);
    }
    return Optional.of(table);
  }

  @Override
  public List<Layer> layers(ViewKind kind) {
    return kind == ViewKind.PICTURE ? List.of(trails, lasso, marks) : List.of();
  }

  @Override
  public List<Tool> tools(ViewKind kind) {
    return kind == ViewKind.PICTURE ? List.of(lasso, marks) : List.of();
  }

  @Override
  public void onRearranged(Runnable told) {
    session.view().tableShown().addListener((o, a, b) -> told.run());
  }

  @Override
  public void hidden() {
    work.marking().set(false);
  }
}
