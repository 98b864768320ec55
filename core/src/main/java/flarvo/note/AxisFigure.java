package flarvo.note;

import flarvo.convention.Dialect;
import flarvo.convention.SignedAxis;
import java.util.Locale;

/** A dialect's axes as a small drawing: what is right, up and away from a camera at the origin. */
final class AxisFigure {

  private static final int WIDTH = 170;
  private static final int HEIGHT = 112;
  private static final double LENGTH = 42;

  private AxisFigure() {}

  /** As SVG, to stand in a page. */
  static String of(Dialect d) {
    StringBuilder s = new StringBuilder(1200);
    s.append(
        String.format(
            Locale.ROOT,
            "<svg class=\"axes\" viewBox=\"0 0 %d %d\" width=\"%d\" height=\"%d\" role=\"img\""
                + " aria-label=\"right %s, up %s, away %s, %s-handed\">",
            WIDTH,
            HEIGHT,
            WIDTH,
            HEIGHT,
            d.world().right(),
            d.world().up(),
            d.world().away(),
            d.handedness().word()));
    arrow(s, LENGTH, 10, d.world().right(), "right");
    arrow(s, 0, -LENGTH - 4, d.world().up(), "up");
    arrow(s, LENGTH * 0.62, -LENGTH * 0.5, d.world().away(), "away");
    s.append("<circle cx=\"50\" cy=\"78\" r=\"3\"/></svg>");
    return s.toString();
  }

  private static void arrow(StringBuilder s, double dx, double dy, SignedAxis axis, String what) {
    double x = 50;
    double y = 78;
    double n = Math.hypot(dx, dy);
    double ux = dx / n;
    double uy = dy / n;
    double ex = x + dx;
    double ey = y + dy;
    s.append(
        String.format(
            Locale.ROOT,
            "<path d=\"M%.1f %.1fL%.1f %.1fM%.1f %.1fL%.1f %.1fL%.1f %.1f\"/>",
            x,
            y,
            ex,
            ey,
            ex - 7 * ux - 4 * uy,
            ey - 7 * uy + 4 * ux,
            ex,
            ey,
            ex - 7 * ux + 4 * uy,
            ey - 7 * uy - 4 * ux));
    boolean up = what.equals("up");
    s.append(
        String.format(
            Locale.ROOT,
            "<text x=\"%.1f\" y=\"%.1f\"%s><tspan>%s</tspan> %s</text>",
            up ? ex : ex + 5,
            up ? ey - 8 : ey + (what.equals("away") ? 0 : 5),
            up ? " text-anchor=\"middle\"" : "",
            axis,
            what));
  }
}
