package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.scene.Observations;
import flarvo.trace.Mover;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * Where features are seen in the shown frame, and where they were in the frames before; those on
 * what moves in a colour of their own.
 */
final class FeaturesLayer implements Layer {

  private static final int TRAIL = 12;
  private static final double DOT = 2.2;

  /** Of the line under the features of what is selected. */
  private static final double SELECTED = 5;

  private final Session session;
  private final MoverBench movers;
  private final double[] px = new double[2];

  FeaturesLayer(Session session, MoverBench movers) {
    this.session = session;
    this.movers = movers;
  }

  @Override
  public Depth depth() {
    return Depth.UNDER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(session.view().trackersShown(), movers.selected());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    if (!session.view().trackersShown().get()) {
      return;
    }
    Observations seen = c.shot().observations();
    g.setLineWidth(1);
    for (String name : seen.names()) {
      int row = seen.row(name, c.frame());
      if (row >= 0) {
        trail(g, c, seen, seen.firstRow(name), row, c.palette().ink());
      }
    }
    Observations all = movers.tracks();
    for (Mover m : movers.movers()) {
      boolean selected = m.name().equals(movers.selected().get());
      for (String name : m.features()) {
        int row = all.row(name, c.frame());
        if (row >= 0) {
          trail(g, c, all, all.firstRow(name), row, c.palette().attention());
          if (selected) {
            place(c, all, row);
            g.setStroke(c.palette().attention());
            g.strokeLine(px[0] - SELECTED, px[1] + SELECTED, px[0] + SELECTED, px[1] + SELECTED);
          }
        }
      }
    }
  }

  private void trail(
      GraphicsContext g, DrawContext c, Observations seen, int first, int row, Color dot) {
    place(c, seen, row);
    double x = px[0];
    double y = px[1];
    g.setFill(dot);
    g.fillOval(x - DOT, y - DOT, 2 * DOT, 2 * DOT);
    g.setStroke(c.palette().accent());
    for (int r = row - 1; r >= first && seen.frame(r) >= c.frame() - TRAIL; r--) {
      place(c, seen, r);
      g.strokeLine(x, y, px[0], px[1]);
      x = px[0];
      y = px[1];
    }
  }

  private void place(DrawContext c, Observations seen, int row) {
    px[0] = seen.x(row);
    px[1] = seen.y(row);
    c.bend().to(px);
    px[0] = c.at().x(px[0]);
    px[1] = c.at().y(px[1]);
  }
}
