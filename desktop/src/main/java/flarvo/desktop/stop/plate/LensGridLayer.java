package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

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
    }
    double wipe = session.view().wipe().get();
    if (wipe >= 0) {
      double x = Math.rint(c.at().x(wipe * w)) + 0.5;
      g.setStroke(c.palette().ink());
      g.setLineWidth(1);
      g.strokeLine(x, c.at().y(0), x, c.at().y(h));
      side(g, c, "original", x - 8, TextAlignment.RIGHT);
      side(g, c, "undistorted", x + 8, TextAlignment.LEFT);
    }
  }

  /** Which plate lies on a side of the wipe. */
  private static void side(
      GraphicsContext g, DrawContext c, String words, double x, TextAlignment align) {
    Text measured = new Text(words);
    Font font = Font.font(Theme.WORDS, 12);
    measured.setFont(font);
    double w = measured.getLayoutBounds().getWidth();
    double left = align == TextAlignment.RIGHT ? x - w : x;
    double y = c.at().y(c.shot().picture().height()) - 10;
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
