package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import java.util.List;
import javafx.scene.Node;

/** Trace's desk, and features and masks over the plate. */
final class TraceView implements StopView {

  private final TraceBench bench;
  private final TraceDesk desk;
  private final FeaturesLayer features;
  private final MaskTool masks;
  private final HandTool hand;
  private final PlaneTool planes;

  TraceView(Session session, TraceBench bench) {
    this.bench = bench;
    desk = new TraceDesk(session, bench);
    features = new FeaturesLayer(session, bench.movers());
    masks = new MaskTool(session, bench);
    hand = new HandTool(bench);
    planes = new PlaneTool(session, bench);
  }

  TraceDesk traceDesk() {
    return desk;
  }

  MaskTool masks() {
    return masks;
  }

  PlaneTool planes() {
    return planes;
  }

  @Override
  public Node desk() {
    return desk;
  }

  @Override
  public List<Layer> layers(ViewKind kind) {
    return kind == ViewKind.PICTURE ? List.of(features, masks, planes, hand) : List.of();
  }

  @Override
  public List<Tool> tools(ViewKind kind) {
    return kind == ViewKind.PICTURE ? List.of(masks, planes, hand) : List.of();
  }

  @Override
  public void hidden() {
    bench.drawing().set(false);
    bench.hand().marking().set(false);
    bench.planes().drawing().set(false);
  }
}
