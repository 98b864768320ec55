package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import java.util.Comparator;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.Text;

/**
 * Lines that are straight in the undistorted picture, as the shown plate has them; and the wipe.
 */
final class LensGridLayer implements Layer {

  private static final int ACROSS = 16;
  private static final int STEPS = 48;

  private final Session session;
  private final double[] px = new double[2];

  LensGridLayer(Session session) {
    this.session = session;
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(session.view().lensGrid(), session.view().wipe(), session.lens());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    double w = c.shot().picture().width();
    double h = c.shot().picture().height();
    if (session.view().lensGrid().get() && session.lens().get().track().isPresent()) {
      g.setStroke(c.palette().accent());
      g.setGlobalAlpha(0.6);
      g.setLineWidth(1);
      int down = Math.max(2, (int) Math.round(ACROSS / c.shot().picture().aspect()));
      for (int i = 0; i <= ACROSS; i++) {
        double x = w * i / ACROSS;
        line(g, c, x, 0, x, h);
      }
      for (int i = 0; i <= down; i++) {
        double y = h * i / down;
        line(g, c, 0, y, w, y);
      }
      g.setGlobalAlpha(1);
      fold(g, c);
    }
    double wipe = session.view().wipe().get();
    if (wipe >= 0) {
      double x = Math.rint(c.at().x(wipe * w)) + 0.5;
      g.setStroke(c.palette().ink());
      g.setLineWidth(1);
      g.strokeLine(x, c.at().y(0), x, c.at().y(h));
      words(g, c, "original", x - 8, c.at().y(h) - 10, true);
      words(g, c, "undistorted", x + 8, c.at().y(h) - 10, false);
    }
  }

  /** Beyond this line the original has no undistorted place; dashed, and named where it is seen. */
  private static void fold(GraphicsContext g, DrawContext c) {
    List<double[]> line = c.bend().fold();
    if (line.isEmpty()) {
      return;
    }
    g.setStroke(c.palette().conflict());
    g.setLineWidth(1.5);
    g.setLineDashes(6, 4);
    g.beginPath();
    for (int i = 0; i <= line.size(); i++) {
      double[] p = line.get(i % line.size());
      if (i == 0) {
        g.moveTo(c.at().x(p[0]), c.at().y(p[1]));
      } else {
        g.lineTo(c.at().x(p[0]), c.at().y(p[1]));
      }
    }
    g.stroke();
    g.setLineDashes();
    double w = c.shot().picture().width();
    double h = c.shot().picture().height();
    line.stream()
        .filter(p -> p[0] > 0 && p[0] < w && p[1] > h * 0.1 && p[1] < h)
        .min(Comparator.comparingDouble(p -> p[0]))
        .ifPresent(p -> words(g, c, "the lens folds", c.at().x(p[0]) + 10, c.at().y(p[1]), false));
  }

  /** Words that can be read over any plate, ending or beginning at x. */
  static void words(
      GraphicsContext g, DrawContext c, String words, double x, double y, boolean ends) {
    Text measured = new Text(words);
    Font font = Font.font(Theme.WORDS, 12);
    measured.setFont(font);
    double w = measured.getLayoutBounds().getWidth();
    double left = ends ? x - w : x;
    g.setFill(c.palette().panel());
    g.setGlobalAlpha(0.8);
    g.fillRect(left - 4, y - 13, w + 8, 18);
    g.setGlobalAlpha(1);
    g.setFill(c.palette().ink());
    g.setFont(font);
    g.fillText(words, left, y);
  }

  private void line(GraphicsContext g, DrawContext c, double x0, double y0, double x1, double y1) {
    double lx = Double.NaN;
    double ly = Double.NaN;
    g.beginPath();
    for (int i = 0; i <= STEPS; i++) {
      double t = i / (double) STEPS;
      px[0] = x0 + t * (x1 - x0);
      px[1] = y0 + t * (y1 - y0);
      c.bend().to(px);
      double x = c.at().x(px[0]);
      double y = c.at().y(px[1]);
      // Over the wipe a line would jump from one plate's place to the other's.
      boolean joined = !Double.isNaN(lx) && Math.hypot(x - lx, y - ly) < 3 * step(c);
      if (Double.isFinite(x) && Double.isFinite(y)) {
        if (joined) {
          g.lineTo(x, y);
        } else {
          g.moveTo(x, y);
        }
      }
      lx = x;
      ly = y;
    }
    g.stroke();
  }

  private static double step(DrawContext c) {
    return c.at().scale() * c.shot().picture().width() / STEPS;
  }
}
