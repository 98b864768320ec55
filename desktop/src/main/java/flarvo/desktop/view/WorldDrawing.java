package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.Vec3;
import flarvo.stage.Solid;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;

/** What stands in the world, drawn through any projector: ground, axes, solids, hidden lines. */
public final class WorldDrawing {

  /** Nearer than this to the eye lines are cut, so that they do not fold over. */
  private static final double NEAR = 0.02;

  /** Pieces that an edge is cut into to find which of it is hidden. */
  private static final int PIECES = 12;

  private static final int MOST_LINES = 60;

  private final GraphicsContext g;
  private final Projector to;
  private final double[] a = new double[3];
  private final double[] b = new double[3];

  public WorldDrawing(GraphicsContext g, Projector to) {
    this.g = g;
    this.to = to;
  }

  public void line(Vec3 from, Vec3 end) {
    line(from.x(), from.y(), from.z(), end.x(), end.y(), end.z());
  }

  public void line(double x0, double y0, double z0, double x1, double y1, double z1) {
    to.project(x0, y0, z0, a);
    to.project(x1, y1, z1, b);
    if (a[2] < NEAR && b[2] < NEAR) {
      return;
    }
    if (a[2] < NEAR) {
      double u = (NEAR - a[2]) / (b[2] - a[2]);
      to.project(x0 + (x1 - x0) * u, y0 + (y1 - y0) * u, z0 + (z1 - z0) * u, a);
    } else if (b[2] < NEAR) {
      double u = (NEAR - b[2]) / (a[2] - b[2]);
      to.project(x1 + (x0 - x1) * u, y1 + (y0 - y1) * u, z1 + (z0 - z1) * u, b);
    }
    if (a[2] > 0 && b[2] > 0) {
      g.strokeLine(a[0], a[1], b[0], b[1]);
    }
  }

  /** Metres between lines of the ground that suit a distance to look at it from: 1, or tens. */
  public static double step(double distance) {
    double step = 1;
    while (distance > 60 * step && step < 1e6) {
      step *= 10;
    }
    while (distance < 1.5 * step && step > 1e-6) {
      step /= 10;
    }
    return step;
  }

  /**
   * Squares of the ground about a place; every fifth line stronger.
   *
   * @param step metres between lines
   * @param reach lines to each side
   * @param overPlate whether what lies under it is a picture, dark and bright
   */
  public void ground(Palette p, Vec3 about, double step, int reach, boolean overPlate) {
    if (overPlate) {
      lines(about, step, reach, p.panel().deriveColor(0, 1, 1, 0.4), 1.6);
    }
    lines(about, step, reach, p.ink().deriveColor(0, 1, 1, overPlate ? 0.5 : 0.35), 0);
    numbers(p, about, step, reach);
  }

  private void lines(Vec3 about, double step, int reach, Color c, double wider) {
    int n = Math.min(MOST_LINES, reach);
    long cx = Math.round(about.x() / step);
    long cz = Math.round(about.z() / step);
    for (int i = -n; i <= n; i++) {
      grid(c, cx + i, wider);
      line((cx + i) * step, 0, (cz - n) * step, (cx + i) * step, 0, (cz + n) * step);
      grid(c, cz + i, wider);
      line((cx - n) * step, 0, (cz + i) * step, (cx + n) * step, 0, (cz + i) * step);
    }
  }

  private void numbers(Palette p, Vec3 about, double step, int reach) {
    int n = Math.min(MOST_LINES, reach);
    long cx = Math.round(about.x() / step);
    long cz = Math.round(about.z() / step);
    g.setFont(Font.font(Theme.NUMBERS, 10));
    g.setFill(p.ink().deriveColor(0, 1, 1, 0.8));
    for (int i = -n; i <= n; i++) {
      if ((cx + i) % 5 == 0 && cx + i != 0) {
        metres((cx + i) * step, 0, (cx + i) * step);
      }
      if ((cz + i) % 5 == 0 && cz + i != 0) {
        metres(0, (cz + i) * step, (cz + i) * step);
      }
    }
  }

  private void grid(Color c, long i, double wider) {
    boolean strong = i % 5 == 0;
    g.setStroke(strong ? c : c.deriveColor(0, 1, 1, 0.55));
    g.setLineWidth((strong ? 1.4 : 0.8) + wider);
  }

  /** With as many digits as it needs. */
  public static String metres(double v) {
    return java.math.BigDecimal.valueOf(v)
            .round(new java.math.MathContext(6))
            .stripTrailingZeros()
            .toPlainString()
        + " m";
  }

  private void metres(double x, double z, double value) {
    to.project(x, 0, z, a);
    if (a[2] > NEAR) {
      g.fillText(metres(value), a[0] + 3, a[1] - 3);
    }
  }

  /** One metre of each axis, with its letter. */
  public void axes(double metres) {
    axis(new Vec3(metres, 0, 0), Palette.AXIS_X, "x");
    axis(new Vec3(0, metres, 0), Palette.AXIS_Y, "y");
    axis(new Vec3(0, 0, metres), Palette.AXIS_Z, "z");
  }

  private void axis(Vec3 end, Color c, String letter) {
    g.setStroke(c);
    g.setLineWidth(2);
    line(Vec3.ZERO, end);
    to.project(end.times(1.12), a);
    if (a[2] > 0) {
      g.setFill(c);
      g.setFont(Font.font(Theme.WORDS, FontWeight.BOLD, 13));
      g.fillText(letter, a[0] - 4, a[1] + 4);
    }
  }

  /**
   * Faces filled thinly from far to near, edges whole where they are seen and dotted where
   * something stands before them.
   *
   * @param before everything that may hide it
   */
  public void solid(Solid s, Color colour, double fill, List<Solid> before) {
    List<Integer> order = new ArrayList<>();
    for (int i = 0; i < s.faces().size(); i++) {
      order.add(i);
    }
    order.sort((i, k) -> Double.compare(far(s.faces().get(k)), far(s.faces().get(i))));
    for (int i : order) {
      List<Vec3> f = s.faces().get(i);
      if (facesEye(f) && !isHidden(middle(f), before)) {
        face(f, s.dark().get(i) ? colour.darker() : colour, fill);
      }
    }
    g.setStroke(colour);
    g.setLineWidth(1.2);
    for (List<Vec3> f : s.faces()) {
      for (int i = 0; i < f.size(); i++) {
        edge(f.get(i), f.get((i + 1) % f.size()), before);
      }
    }
  }

  private double far(List<Vec3> f) {
    return middle(f).minus(to.eye()).length();
  }

  private static Vec3 middle(List<Vec3> f) {
    Vec3 m = Vec3.ZERO;
    for (Vec3 v : f) {
      m = m.plus(v.times(1.0 / f.size()));
    }
    return m;
  }

  private boolean facesEye(List<Vec3> f) {
    Vec3 n = f.get(1).minus(f.get(0)).cross(f.get(2).minus(f.get(1)));
    return n.dot(to.eye().minus(f.get(0))) > 0;
  }

  private boolean isHidden(Vec3 v, List<Solid> before) {
    for (Solid s : before) {
      if (s.hides(to.eye(), v, 0.998)) {
        return true;
      }
    }
    return false;
  }

  private void face(List<Vec3> f, Color colour, double fill) {
    double[] x = new double[f.size()];
    double[] y = new double[f.size()];
    for (int i = 0; i < x.length; i++) {
      to.project(f.get(i), a);
      if (!(a[2] > NEAR)) {
        return;
      }
      x[i] = a[0];
      y[i] = a[1];
    }
    g.setFill(colour.deriveColor(0, 1, 1, fill));
    g.fillPolygon(x, y, x.length);
  }

  private void edge(Vec3 from, Vec3 end, List<Solid> before) {
    if (before.isEmpty()) {
      line(from, end);
      return;
    }
    Vec3 last = from;
    for (int i = 1; i <= PIECES; i++) {
      Vec3 next = from.plus(end.minus(from).times((double) i / PIECES));
      Vec3 mid = last.plus(next).times(0.5);
      boolean hidden = isHidden(mid, before);
      if (!hidden) {
        line(last, next);
      } else if (i % 3 == 0) {
        line(mid, next); // a hidden edge is dotted
      }
      last = next;
    }
  }
}
