package flarvo.desktop.stop.trace;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Loupe;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.TrackerMark;
import flarvo.trace.PlaneFeature;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * Four clicks draw a plane under a loupe; a corner that is dragged is corrected on the shown frame.
 * Draws all planes with their diagonals.
 */
final class PlaneTool implements Tool, Layer {

  /** How near a press must be to a corner, in the view's pixels. */
  private static final double NEAR = 9;

  private static final int CORNERS = 4;

  private final Session session;
  private final TraceBench bench;
  private final PlaneBench planes;
  private final Loupe loupe = new Loupe();
  private final List<double[]> corners = new ArrayList<>(); // of the plane that is being drawn
  private final double[] px = new double[2];
  private final double[] heldAt = new double[2];
  private String held; // plane whose corner is dragged; null while none is
  private int heldCorner;

  PlaneTool(Session session, TraceBench bench) {
    this.session = session;
    this.bench = bench;
    this.planes = bench.planes();
    planes.drawing().addListener((o, a, b) -> corners.clear());
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    if (!planes.drawing().get()) {
      Optional<Corner> at = cornerAt(c, e.getX(), e.getY());
      at.ifPresent(k -> planes.selected().set(k.plane()));
      return at.isPresent();
    }
    corners.add(new double[] {c.at().toX(e.getX()), c.at().toY(e.getY())});
    if (corners.size() == CORNERS) {
      double[] flat = new double[2 * CORNERS];
      for (int i = 0; i < CORNERS; i++) {
        System.arraycopy(corners.get(i), 0, flat, 2 * i, 2);
      }
      planes.draw(flat);
    }
    return true;
  }

  /** Gives up a plane that was begun; false where there is none. */
  boolean giveUp() {
    boolean was = !corners.isEmpty();
    corners.clear();
    return was;
  }

  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (held == null) {
      Optional<Corner> at = cornerAt(c, e.getX() - dx, e.getY() - dy);
      if (at.isEmpty() || planes.drawing().get()) {
        return false;
      }
      held = at.get().plane();
      heldCorner = at.get().index();
      planes.selected().set(held);
      session.view().plateRole().set(bench.plates().get());
    }
    heldAt[0] = c.at().toX(e.getX());
    heldAt[1] = c.at().toY(e.getY());
    loupe.at(e.getX(), e.getY());
    return true;
  }

  @Override
  public void release() {
    if (held != null) {
      planes.correct(held, heldCorner, heldAt[0], heldAt[1]);
      held = null;
    }
  }

  @Override
  public boolean moved(double x, double y) {
    loupe.at(x, y);
    return planes.drawing().get();
  }

  private record Corner(String plane, int index) {}

  private Optional<Corner> cornerAt(DrawContext c, double x, double y) {
    for (PlaneFeature q : planes.shown()) {
      Optional<double[]> at = q.corners(c.frame());
      for (int i = 0; at.isPresent() && i < CORNERS; i++) {
        place(c, at.get(), i);
        if (Math.hypot(px[0] - x, px[1] - y) < NEAR) {
          return Optional.of(new Corner(q.name(), i));
        }
      }
    }
    return Optional.empty();
  }

  private void place(DrawContext c, double[] p, int i) {
    px[0] = p[2 * i];
    px[1] = p[2 * i + 1];
    bench.toView(c, px);
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(
        planes.drawing(),
        planes.selected(),
        bench.plates(),
        session.state(),
        session.playhead().frame());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    for (PlaneFeature q : planes.shown()) {
      q.corners(c.frame()).ifPresent(at -> plane(g, c, q, at));
    }
    if (planes.drawing().get()) {
      g.setStroke(c.palette().attention());
      g.setLineWidth(1.4);
      for (int i = 0; i < corners.size(); i++) {
        double x = c.at().x(corners.get(i)[0]);
        double y = c.at().y(corners.get(i)[1]);
        g.strokeLine(x - 5, y, x + 5, y);
        g.strokeLine(x, y - 5, x, y + 5);
        if (i > 0) {
          g.strokeLine(c.at().x(corners.get(i - 1)[0]), c.at().y(corners.get(i - 1)[1]), x, y);
        }
      }
    }
    if (planes.drawing().get() || held != null) {
      loupe.draw(g, c);
    }
  }

  private void plane(GraphicsContext g, DrawContext c, PlaneFeature q, double[] at) {
    Palette p = c.palette();
    if (q.name().equals(held)) {
      at[2 * heldCorner] = heldAt[0];
      at[2 * heldCorner + 1] = heldAt[1];
    }
    double[] xs = new double[CORNERS];
    double[] ys = new double[CORNERS];
    for (int i = 0; i < CORNERS; i++) {
      place(c, at, i);
      xs[i] = px[0];
      ys[i] = px[1];
    }
    boolean selected = q.name().equals(planes.selected().get());
    g.setStroke(selected ? p.attention() : p.ink());
    g.setLineWidth(selected ? 1.8 : 1.2);
    g.strokePolygon(xs, ys, CORNERS);
    g.setLineWidth(0.7);
    g.strokeLine(xs[0], ys[0], xs[2], ys[2]);
    g.strokeLine(xs[1], ys[1], xs[3], ys[3]);
    boolean key = q.shape().keys().containsKey(c.frame());
    TrackerMark.label(g, p, q.name() + (key ? ", key" : ""), xs[1] + 8, ys[1]);
  }
}
