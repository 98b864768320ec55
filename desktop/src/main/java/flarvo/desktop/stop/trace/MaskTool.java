package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.TrackerMark;
import flarvo.trace.DrawnMask;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * Clicks set a mask's corners, a click on the first closes it; a corner that is dragged sets a key
 * on the shown frame. Draws all masks.
 */
final class MaskTool implements Tool, Layer {

  /** How near a press must be to a corner, in the view's pixels. */
  private static final double NEAR = 9;

  private static final int ALONG_A_SIDE = 8;

  private final Session session;
  private final TraceBench bench;
  private final List<double[]> corners = new ArrayList<>(); // of the mask that is being drawn
  private double pointerX;
  private double pointerY;
  private String held; // mask whose corner is dragged; null while none is
  private int heldCorner;
  private final double[] heldAt = new double[2];
  private final double[] px = new double[2];

  MaskTool(Session session, TraceBench bench) {
    this.session = session;
    this.bench = bench;
    bench.drawing().addListener((o, a, b) -> corners.clear());
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    if (!bench.drawing().get()) {
      Optional<String> at = cornerAt(c, e.getX(), e.getY()).map(k -> k.mask().name());
      at.ifPresent(bench.mask()::set);
      return at.isPresent();
    }
    double x = c.at().toX(e.getX());
    double y = c.at().toY(e.getY());
    boolean closes =
        corners.size() >= 3
            && Math.hypot(
                    c.at().x(corners.get(0)[0]) - e.getX(), c.at().y(corners.get(0)[1]) - e.getY())
                < NEAR;
    if (closes) {
      double[] flat = new double[2 * corners.size()];
      for (int i = 0; i < corners.size(); i++) {
        flat[2 * i] = corners.get(i)[0];
        flat[2 * i + 1] = corners.get(i)[1];
      }
      bench.draw(flat);
    } else {
      corners.add(new double[] {x, y});
    }
    return true;
  }

  /** Gives up a mask that was begun; false where there is none. */
  boolean giveUp() {
    boolean was = !corners.isEmpty();
    corners.clear();
    return was;
  }

  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (held == null) {
      Corner k = cornerAt(c, e.getX() - dx, e.getY() - dy).orElse(null);
      if (k == null || bench.drawing().get()) {
        return false;
      }
      held = k.mask().name();
      heldCorner = k.index();
      bench.mask().set(held);
      session.view().plateRole().set(bench.drawnOver(k.mask()));
    }
    heldAt[0] = c.at().toX(e.getX());
    heldAt[1] = c.at().toY(e.getY());
    return true;
  }

  @Override
  public void release() {
    if (held != null) {
      bench.move(held, heldCorner, heldAt[0], heldAt[1]);
      held = null;
    }
  }

  @Override
  public boolean moved(double x, double y) {
    pointerX = x;
    pointerY = y;
    return bench.drawing().get() && !corners.isEmpty();
  }

  private record Corner(DrawnMask mask, int index) {}

  private Optional<Corner> cornerAt(DrawContext c, double x, double y) {
    for (DrawnMask m : bench.work().masks()) {
      double[] p = m.shape().at(c.frame());
      for (int i = 0; i < p.length / 2; i++) {
        place(c, m, p[2 * i], p[2 * i + 1]);
        if (Math.hypot(px[0] - x, px[1] - y) < NEAR) {
          return Optional.of(new Corner(m, i));
        }
      }
    }
    return Optional.empty();
  }

  /** A place of a mask in the view's pixels. */
  private void place(DrawContext c, DrawnMask m, double x, double y) {
    px[0] = x;
    px[1] = y;
    TraceBench.toView(c, bench.drawnOver(m), px);
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(
        bench.drawing(), bench.mask(), bench.plates(), session.state(), session.playhead().frame());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    for (DrawnMask m : bench.work().masks()) {
      mask(g, c, m);
    }
    if (bench.drawing().get() && !corners.isEmpty()) {
      g.setStroke(c.palette().attention());
      g.setLineWidth(1.4);
      g.beginPath();
      for (int i = 0; i < corners.size(); i++) {
        double x = c.at().x(corners.get(i)[0]);
        double y = c.at().y(corners.get(i)[1]);
        if (i == 0) {
          g.moveTo(x, y);
          g.strokeRect(x - 4, y - 4, 8, 8);
        } else {
          g.lineTo(x, y);
        }
      }
      g.lineTo(pointerX, pointerY);
      g.stroke();
    }
  }

  /** Outline and corners; hatched lightly, so that it is seen which side is which. */
  private void mask(GraphicsContext g, DrawContext c, DrawnMask m) {
    Palette p = c.palette();
    boolean selected = m.name().equals(bench.mask().get());
    double[] at = m.shape().at(c.frame());
    if (m.name().equals(held)) {
      at[2 * heldCorner] = heldAt[0];
      at[2 * heldCorner + 1] = heldAt[1];
    }
    int corners = at.length / 2;
    int n = corners * ALONG_A_SIDE; // the lens bends sides where other plates are shown
    double[] xs = new double[n];
    double[] ys = new double[n];
    for (int i = 0; i < n; i++) {
      int a = i / ALONG_A_SIDE;
      int b = (a + 1) % corners;
      double t = (double) (i % ALONG_A_SIDE) / ALONG_A_SIDE;
      place(
          c,
          m,
          at[2 * a] + t * (at[2 * b] - at[2 * a]),
          at[2 * a + 1] + t * (at[2 * b + 1] - at[2 * a + 1]));
      xs[i] = px[0];
      ys[i] = px[1];
    }
    g.setFill((bench.work().inside() ? p.accent() : p.conflict()).deriveColor(0, 1, 1, 0.18));
    g.fillPolygon(xs, ys, n);
    g.setStroke(selected ? p.attention() : p.ink());
    g.setLineWidth(selected ? 1.8 : 1);
    g.setLineDashes(m.shape().keys().containsKey(c.frame()) ? new double[0] : new double[] {5, 4});
    g.strokePolygon(xs, ys, n);
    g.setLineDashes();
    for (int i = 0; i < n; i += ALONG_A_SIDE) {
      g.strokeRect(xs[i] - 3, ys[i] - 3, 6, 6);
    }
    TrackerMark.label(
        g, p, m.name() + (bench.work().inside() ? ", followed" : ", left out"), xs[0] + 8, ys[0]);
  }
}
