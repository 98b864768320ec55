package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.ViewKind;
import flarvo.desktop.view.WorldDrawing;
import flarvo.scene.Vec3;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** Everything of Level in one view; in the picture with the ground and what is being drawn. */
final class LevelDrawing implements Layer {

  private final Session session;
  private final LevelWork level;
  private final BuildWork build;
  private final ViewKind kind;
  private final Handles handles;
  private final HandleDrag drag;
  private final LevelLayer layer;
  private final double[] px = new double[3];

  LevelDrawing(
      Session session,
      LevelWork level,
      BuildWork build,
      ViewKind kind,
      Handles handles,
      HandleDrag drag) {
    this.session = session;
    this.level = level;
    this.build = build;
    this.kind = kind;
    this.handles = handles;
    this.drag = drag;
    layer = new LevelLayer(session, level, build, handles);
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(
        level.now(),
        build.chosen(),
        build.sketch(),
        session.state(),
        session.view().handlesShown());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    Projector to = c.world();
    if (to == null) {
      return;
    }
    handles.setRadius(c.reach());
    if (kind == ViewKind.PICTURE) {
      WorldDrawing w = new WorldDrawing(g, to);
      w.ground(c.palette(), Vec3.ZERO, WorldDrawing.step(4 * handles.radius()), 12, true);
      w.axes(handles.radius());
    }
    layer.draw(g, c.palette(), to, drag.held());
    if (kind == ViewKind.PICTURE) {
      sketch(g, c, to);
    }
  }

  /** Corners that were clicked so far. */
  private void sketch(GraphicsContext g, DrawContext c, Projector to) {
    WorldDrawing w = new WorldDrawing(g, to);
    g.setStroke(c.palette().ink());
    g.setLineWidth(1.4);
    Vec3 last = null;
    for (Vec3 v : build.sketch()) {
      Vec3 at = level.shown().apply(v);
      to.project(at, px);
      if (px[2] > 0) {
        g.strokeRect(px[0] - 3, px[1] - 3, 6, 6);
      }
      if (last != null) {
        w.line(last, at);
      }
      last = at;
    }
  }
}
