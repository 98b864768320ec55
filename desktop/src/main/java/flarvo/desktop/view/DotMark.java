package flarvo.desktop.view;

import flarvo.vet.TrackerGroup;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;

/** The dot of a tracker's group: shape and colour, small enough for thousands. */
public final class DotMark {

  private static final Color[] TINTS = {
    Color.WHITE,
    Color.web("#8FA8E8"),
    Color.web("#C79BD8"),
    Color.web("#D98CA6"),
    Color.web("#A9C76B"),
    Color.web("#6FC7E0"),
    Color.web("#C9A27A"),
  };

  /** In the order of {@link TrackerGroup#tint()}. */
  private static final String[] WORDS = {
    "plain", "periwinkle", "lilac", "rose", "moss", "sky", "clay"
  };

  /** Half the height of a dot in the picture. */
  static final double RADIUS = 3;

  private DotMark() {}

  public static Color colour(int tint) {
    return TINTS[tint];
  }

  public static String word(int tint) {
    return WORDS[tint];
  }

  /** Fills the dot with the current paint. */
  static void fill(GraphicsContext g, TrackerGroup.Dot dot, double x, double y, double r) {
    switch (dot) {
      case DISC -> g.fillOval(x - 0.55 * r, y - 0.55 * r, 1.1 * r, 1.1 * r);
      case SQUARE -> g.fillRect(x - 0.8 * r, y - 0.8 * r, 1.6 * r, 1.6 * r);
      case WEDGE -> polygon(g, x, y, r, -1, 0.9, 1, 0.9, 0, -0.9);
      case KITE -> polygon(g, x, y, 1.15 * r, -0.8, 0, 0, -1, 0.8, 0, 0, 1);
      case BAR -> g.fillRect(x - 1.3 * r, y - 0.4 * r, 2.6 * r, 0.8 * r);
      case POST -> g.fillRect(x - 0.4 * r, y - 1.3 * r, 0.8 * r, 2.6 * r);
    }
  }

  private static void polygon(GraphicsContext g, double x, double y, double r, double... c) {
    double[] xs = new double[c.length / 2];
    double[] ys = new double[xs.length];
    for (int i = 0; i < xs.length; i++) {
      xs[i] = x + c[2 * i] * r;
      ys[i] = y + c[2 * i + 1] * r;
    }
    g.fillPolygon(xs, ys, xs.length);
  }

  /** The dot for a list or a table. The plain one takes the ink's colour, to be seen on paper. */
  public static Canvas node(TrackerGroup.Dot dot, int tint, Color ink) {
    Canvas c = new Canvas(14, 14);
    c.getGraphicsContext2D().setFill(tint == 0 ? ink : colour(tint));
    fill(c.getGraphicsContext2D(), dot, 7, 7, 4);
    return c;
  }
}
