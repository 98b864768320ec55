package flarvo.desktop.view;

import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Rectangle2D;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;
import javafx.scene.text.Text;

/**
 * Words beside things in a view, on a ground of their own. In one drawing they step aside from each
 * other and from what is to stay clear.
 */
public final class Labels {

  private static final double SIZE = 11;
  private static final double HEIGHT = 14;
  private static final double PAD = 3;
  private static final double GAP = 8;

  /** Where a label may stand about its thing, best first: in widths, and in heights. */
  private static final double[][] PLACES = {
    {0, 0}, {0, -1}, {0, 1}, {-1, 0}, {-1, -1}, {-1, 1}, {0, -2}, {0, 2}, {-1, -2}, {-1, 2}
  };

  private final List<Rectangle2D> taken = new ArrayList<>();
  private final Text ruler = new Text();
  private final Font font = Font.font(Theme.WORDS, SIZE);

  public Labels() {
    ruler.setFont(font);
  }

  /** Begins another drawing. */
  public void clear() {
    taken.clear();
  }

  /** No label covers this square. */
  public void keepClear(double x, double y, double half) {
    taken.add(new Rectangle2D(x - half, y - half, 2 * half, 2 * half));
  }

  private double width(String text) {
    ruler.setText(text);
    return Math.ceil(ruler.getLayoutBounds().getWidth()) + 2 * PAD;
  }

  /** Beside a thing, at the first place that is free; at the usual one where none is. */
  public void draw(GraphicsContext g, Palette p, String text, double x, double y) {
    double w = width(text);
    Rectangle2D at = place(x, y, w, PLACES[0]);
    for (double[] k : PLACES) {
      Rectangle2D r = place(x, y, w, k);
      if (taken.stream().noneMatch(r::intersects)) {
        at = r;
        break;
      }
    }
    taken.add(at);
    g.setFont(font);
    g.setFill(p.panel().deriveColor(0, 1, 1, 0.8));
    g.fillRect(at.getMinX(), at.getMinY(), at.getWidth(), at.getHeight());
    g.setFill(p.ink());
    g.fillText(text, Math.round(at.getMinX() + PAD), Math.round(at.getMinY() + HEIGHT - 3));
  }

  private static Rectangle2D place(double x, double y, double w, double[] k) {
    double left = k[0] < 0 ? x - GAP - w : x + GAP;
    return new Rectangle2D(left, y - HEIGHT / 2 + k[1] * HEIGHT, w, HEIGHT);
  }
}
