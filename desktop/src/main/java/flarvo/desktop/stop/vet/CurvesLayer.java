package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.CanvasPane;
import flarvo.desktop.view.TimeAxis;
import flarvo.scene.Observations;
import flarvo.vet.PathRepair;
import flarvo.vet.Reprojection;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/**
 * Curves of selected trackers and frames of a mended path, over the graph of errors: another
 * selection draws these few again and not the graph.
 */
public final class CurvesLayer extends CanvasPane {

  private static final double FOOT = VetGraph.FOOT;
  private static final int MOST_CURVES = 6;

  private final Session session;
  private final VetWork vet;
  private final VetGraph graph;

  CurvesLayer(Session session, VetWork vet, VetGraph graph) {
    this.session = session;
    this.vet = vet;
    this.graph = graph;
    setMouseTransparent(true);
    setManaged(false);
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    g.clearRect(0, 0, w, h);
    Reprojection r = session.errors().get();
    if (r != null) {
      Palette p = session.view().theme().get().palette();
      double top = graph.top(r);
      selected(g, p, r, top, w, h);
      repaired(g, p, r, top, w, h);
    }
  }

  private void selected(
      GraphicsContext g, Palette p, Reprojection r, double top, double w, double h) {
    Observations o = session.shot().get().observations();
    int n = 0;
    g.setLineWidth(1.2);
    g.setFont(Font.font(Theme.NUMBERS, 10));
    for (String name : session.selection()) {
      if (n++ == MOST_CURVES || o.firstRow(name) < 0) {
        continue;
      }
      g.setStroke(p.ink());
      g.setLineDashes(n == 1 ? new double[0] : new double[] {2.0 * n, 3});
      g.beginPath();
      boolean pen = false;
      double x = 0;
      double y = 0;
      int before = Integer.MIN_VALUE;
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        double v = r.rowPx(row);
        if (Double.isNaN(v)) {
          pen = false;
          continue;
        }
        x = TimeAxis.xOf(o.frame(row), r.frames(), w);
        y = VetGraph.yOf(v, top, h);
        if (pen && o.frame(row) == before + 1) {
          g.lineTo(x, y);
        } else {
          g.moveTo(x, y);
        }
        pen = true;
        before = o.frame(row);
      }
      g.stroke();
      if (before == Integer.MIN_VALUE) {
        continue; // left out: nothing of it is measured
      }
      g.setFill(p.ink());
      g.fillText(name, Math.min(w - 60, x + 4), y + 3);
    }
    g.setLineDashes();
  }

  /**
   * Frames of a mended path: the error that they had, dashed, and how far the picture moved, as a
   * bar; together with the error's own curve this is the drift against the observations.
   */
  private void repaired(
      GraphicsContext g, Palette p, Reprojection r, double top, double w, double h) {
    PathRepair.Repair mended = vet.repaired().get();
    if (mended == null || mended.touched().isEmpty()) {
      return;
    }
    double step = (w - TimeAxis.LEFT - TimeAxis.RIGHT) / r.frames().count();
    g.setFill(p.ink().deriveColor(0, 1, 1, 0.3));
    for (int i = 0; i < mended.touched().size(); i++) {
      double x = TimeAxis.xOf(mended.touched().get(i), r.frames(), w);
      double y = VetGraph.yOf(mended.movedPx()[i], top, h);
      g.fillRect(x - 0.35 * step, y, Math.max(1, 0.7 * step), h - FOOT - y);
    }
    g.setStroke(p.ink());
    g.setLineWidth(1);
    g.setLineDashes(3, 3);
    g.beginPath();
    int last = Integer.MIN_VALUE;
    for (int i = 0; i < mended.touched().size(); i++) {
      int f = mended.touched().get(i);
      double v = mended.beforeFramesPx()[i];
      if (Double.isNaN(v)) {
        continue;
      }
      double x = TimeAxis.xOf(f, r.frames(), w);
      if (f == last + 1) {
        g.lineTo(x, VetGraph.yOf(v, top, h));
      } else {
        g.moveTo(x - 0.5 * step, VetGraph.yOf(v, top, h)); // one frame alone is a short stroke
        g.lineTo(x, VetGraph.yOf(v, top, h));
      }
      last = f;
    }
    g.stroke();
    g.setLineDashes();
    g.setFill(p.ink());
    g.setFont(Font.font(Theme.WORDS, 10));
    g.fillText(
        "repaired: bars, shift; dashed, error before",
        Math.min(w - 240, TimeAxis.xOf(mended.touched().get(0), r.frames(), w)),
        12);
  }
}
