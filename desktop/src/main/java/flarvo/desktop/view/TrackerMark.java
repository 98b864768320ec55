package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/**
 * How one tracker is drawn: a dot where it was observed, an open ring where the solve puts it, and
 * a whisker from dot to ring, stretched. The ring tells its state by shape as well as by colour.
 */
public final class TrackerMark {

  /** What the ring says about the tracker's error. */
  public enum State {
    WITHIN,
    WATCH,
    OVER;

    /** Over the limit, more than half of it, or less; unknown errors count as within. */
    public static State of(double rmsPx, double limitPx) {
      return rmsPx > limitPx ? OVER : rmsPx > limitPx / 2 ? WATCH : WITHIN;
    }
  }

  private static final double RADIUS = 5;

  private TrackerMark() {}

  public static Color colour(State s, Palette p) {
    return switch (s) {
      case WITHIN -> p.accent();
      case WATCH -> p.attention();
      case OVER -> p.conflict();
    };
  }

  public static void ring(
      GraphicsContext g, Palette p, double x, double y, State state, boolean selected) {
    g.setStroke(colour(state, p));
    g.setLineWidth(1.4);
    g.strokeOval(x - RADIUS, y - RADIUS, 2 * RADIUS, 2 * RADIUS);
    if (state == State.WATCH) {
      g.strokeLine(x, y - RADIUS, x, y - RADIUS - 4);
    } else if (state == State.OVER) {
      g.strokeLine(x - RADIUS - 4, y, x + RADIUS + 4, y);
    }
    if (selected) {
      selected(g, x, y);
    }
  }

  /** How far a ring and what is on it reach to either side, whole pixels. */
  static int acrossPx(State state) {
    return state == State.OVER ? 10 : 6;
  }

  /** The same up or down. */
  static int downPx(State state) {
    return state == State.WATCH ? 10 : 6;
  }

  /** A second ring. */
  public static void selected(GraphicsContext g, double x, double y) {
    double r = RADIUS + 4;
    g.setLineWidth(1.6);
    g.setStroke(Color.WHITE);
    g.strokeOval(x - r, y - r, 2 * r, 2 * r);
  }

  /** Where the tracker was seen, and the stretched way to where the solve puts it. */
  public static void observed(
      GraphicsContext g,
      Palette p,
      double ox,
      double oy,
      double x,
      double y,
      double stretch,
      State state) {
    g.setStroke(colour(state, p));
    g.setLineWidth(1);
    g.strokeLine(ox, oy, ox + (x - ox) * stretch, oy + (y - oy) * stretch);
    g.setFill(Color.WHITE);
    g.fillOval(ox - 1.6, oy - 1.6, 3.2, 3.2);
  }

  /** A tracker that counts for nothing: two short strokes across the ring. */
  public static void weightless(GraphicsContext g, Palette p, double x, double y) {
    g.setStroke(p.quiet());
    g.setLineWidth(1.4);
    g.strokeLine(x - RADIUS, y + RADIUS, x - RADIUS + 4, y + RADIUS - 4);
    g.strokeLine(x + RADIUS - 4, y - RADIUS + 4, x + RADIUS, y - RADIUS);
  }

  /** An extra point's mark: four strokes round a gap. */
  public static void extra(GraphicsContext g, Palette p, double x, double y, boolean found) {
    double r = found ? 6 : 9;
    g.setStroke(p.attention());
    g.setLineWidth(1.4);
    g.strokeLine(x - r, y, x, y - r);
    g.strokeLine(x + r, y, x, y + r);
  }

  /** A disc's edge as large as the error. */
  public static void errorRing(
      GraphicsContext g, Palette p, double x, double y, double radius, State state) {
    g.setStroke(colour(state, p).deriveColor(0, 1, 1, 0.55));
    g.setLineWidth(1);
    g.strokeOval(x - radius, y - radius, 2 * radius, 2 * radius);
  }

  /** Where a recipient sees it: a small upright cross. */
  public static void recipient(GraphicsContext g, Palette p, double x, double y) {
    g.setStroke(p.attention());
    g.setLineWidth(1.2);
    g.strokeLine(x - 8, y, x - 2, y);
    g.strokeLine(x + 2, y, x + 8, y);
    g.strokeLine(x, y - 8, x, y - 2);
    g.strokeLine(x, y + 2, x, y + 8);
  }

  /** Words beside a mark, on a ground of their own. */
  public static void label(GraphicsContext g, Palette p, String text, double x, double y) {
    g.setFill(p.panel().deriveColor(0, 1, 1, 0.8));
    g.fillRect(x - 3, y - 11, text.length() * 7.2 + 6, 14);
    g.setFill(p.ink());
    g.fillText(text, x, y);
  }
}
