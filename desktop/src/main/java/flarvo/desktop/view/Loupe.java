package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;

/** What is under the pointer, eight times as large, in a corner where it covers nothing near. */
public final class Loupe {

  private static final double SIDE = 168;
  private static final double TIMES = 8;

  private double x = Double.NaN; // until the pointer comes
  private double y;

  /** Where the pointer is, in the view. */
  public void at(double px, double py) {
    x = px;
    y = py;
  }

  /** Draws it over everything else. */
  public void draw(GraphicsContext g, DrawContext c) {
    double s = c.at().scale();
    double overX = 0;
    double overY = 0;
    if (c.shownPlate() != null) {
      overX = Math.max(0, (c.shownPlate().getWidth() - c.shot().picture().width()) / 2);
      overY = Math.max(0, (c.shownPlate().getHeight() - c.shot().picture().height()) / 2);
    }
    draw(
        g,
        c.palette(),
        c.shownPlate(),
        c.at().left() - overX * s,
        c.at().top() - overY * s,
        s,
        c.width());
  }

  /**
   * @param below the plate; null while it is not here
   * @param s pixels of the screen for one of the picture
   */
  private void draw(
      GraphicsContext g, Palette p, Image below, double left, double top, double s, double width) {
    if (Double.isNaN(x)) {
      return;
    }
    double ox = x < width / 2 ? width - SIDE - 16 : 16;
    double oy = 16;
    g.setFill(p.panel());
    g.fillRect(ox, oy, SIDE, SIDE);
    if (below != null) {
      double part = SIDE / TIMES;
      double px = (x - left) / s - part / 2;
      double py = (y - top) / s - part / 2;
      double cutX = Math.max(0, px);
      double cutY = Math.max(0, py);
      double w = Math.min(below.getWidth(), px + part) - cutX;
      double h = Math.min(below.getHeight(), py + part) - cutY;
      if (w > 0 && h > 0) {
        g.setImageSmoothing(false);
        g.drawImage(
            below,
            cutX,
            cutY,
            w,
            h,
            ox + (cutX - px) * TIMES,
            oy + (cutY - py) * TIMES,
            w * TIMES,
            h * TIMES);
        g.setImageSmoothing(true);
      }
    }
    g.setStroke(p.accent());
    g.setLineWidth(1);
    g.strokeRect(ox + 0.5, oy + 0.5, SIDE - 1, SIDE - 1);
    double mx = ox + SIDE / 2;
    double my = oy + SIDE / 2;
    g.strokeLine(mx - 14, my, mx - 4, my);
    g.strokeLine(mx + 4, my, mx + 14, my);
    g.strokeLine(mx, my - 14, mx, my - 4);
    g.strokeLine(mx, my + 4, mx, my + 14);
  }
}
