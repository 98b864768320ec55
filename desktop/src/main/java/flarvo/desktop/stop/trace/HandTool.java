package flarvo.desktop.stop.trace;

import flarvo.decision.TraceDecision;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Loupe;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.TrackerMark;
import flarvo.trace.HandFeature;
import flarvo.trace.PlatePixels;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * Clicks mark features under a loupe; a feature that is dragged is corrected on the shown frame.
 * Draws all features that were marked by hand, and the pattern of the selected one.
 */
final class HandTool implements Tool, Layer {

  /** How near a press must be to a feature, in the view's pixels. */
  private static final double NEAR = 9;

  private final TraceBench bench;
  private final HandBench hand;
  private final Loupe loupe = new Loupe();
  private final double[] px = new double[2];
  private final double[] heldAt = new double[2];
  private String held; // feature that is dragged; null while none is
  private double pointerX = Double.NaN;
  private double pointerY;

  HandTool(TraceBench bench) {
    this.bench = bench;
    this.hand = bench.hand();
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    Optional<String> at = featureAt(c, e.getX(), e.getY());
    if (at.isPresent()) {
      hand.selected().set(at.get());
      return true;
    }
    if (!hand.marking().get()) {
      return false;
    }
    hand.mark(c.at().toX(e.getX()), c.at().toY(e.getY()));
    return true;
  }

  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (held == null) {
      Optional<String> at = featureAt(c, e.getX() - dx, e.getY() - dy);
      if (at.isEmpty()) {
        return false;
      }
      held = at.get();
      hand.selected().set(held);
    }
    heldAt[0] = c.at().toX(e.getX());
    heldAt[1] = c.at().toY(e.getY());
    loupe.at(e.getX(), e.getY());
    return true;
  }

  @Override
  public void release() {
    if (held != null) {
      hand.correct(held, heldAt[0], heldAt[1]);
      held = null;
    }
  }

  @Override
  public boolean moved(double x, double y) {
    loupe.at(x, y);
    pointerX = x;
    pointerY = y;
    return hand.marking().get();
  }

  private Optional<String> featureAt(DrawContext c, double x, double y) {
    String best = null;
    double nearest = NEAR;
    for (HandFeature h : hand.shown()) {
      int row = h.path().row(h.name(), c.frame());
      if (row >= 0) {
        place(c, h.path().x(row), h.path().y(row));
        double d = Math.hypot(px[0] - x, px[1] - y);
        if (d < nearest) {
          nearest = d;
          best = h.name();
        }
      }
    }
    return Optional.ofNullable(best);
  }

  private void place(DrawContext c, double x, double y) {
    px[0] = x;
    px[1] = y;
    bench.toView(c, px);
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(hand.marking(), hand.selected(), hand.waiting(), hand.radius(), bench.plates());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    Palette p = c.palette();
    for (HandFeature h : hand.shown()) {
      int row = h.path().row(h.name(), c.frame());
      if (row < 0) {
        continue;
      }
      boolean dragged = h.name().equals(held);
      place(c, dragged ? heldAt[0] : h.path().x(row), dragged ? heldAt[1] : h.path().y(row));
      TrackerMark.extra(g, p, px[0], px[1], !h.marks().containsKey(c.frame()));
      if (h.name().equals(hand.selected().get())) {
        pattern(g, p, c, px[0], px[1], h.radius());
        searched(g, p, c, h);
        TrackerMark.label(g, p, h.name(), px[0] + 12, px[1] + 16);
      }
    }
    for (TraceDecision.MarkFeature m : hand.waiting()) {
      if (m.frame() == c.frame() && m.plates() == bench.plates().get()) {
        place(c, m.x(), m.y());
        TrackerMark.extra(g, p, px[0], px[1], false);
        TrackerMark.label(g, p, m.feature() + " …", px[0] + 12, px[1] + 16);
      }
    }
    if (hand.marking().get() || held != null) {
      if (hand.marking().get() && held == null && !Double.isNaN(pointerX)) {
        pattern(g, p, c, pointerX, pointerY, hand.radius().get());
      }
      loupe.draw(g, c);
    }
  }

  /** Where a feature is looked for, if not everywhere. */
  private void searched(GraphicsContext g, Palette p, DrawContext c, HandFeature h) {
    Optional<double[]> at = h.expected(c.frame());
    if (h.searchPx().isEmpty() || at.isEmpty()) {
      return;
    }
    double r = h.searchPx().getAsDouble() * c.at().scale();
    place(c, at.get()[0], at.get()[1]);
    g.setStroke(p.attention());
    g.setLineWidth(1);
    g.strokeOval(px[0] - r, px[1] - r, 2 * r, 2 * r);
  }

  /** The square that is compared from frame to frame. */
  private void pattern(
      GraphicsContext g, Palette p, DrawContext c, double x, double y, int radius) {
    double pixel = bench.sequence().map(s -> PlatePixels.of(s, c.shot().picture()).x()).orElse(1.0);
    double half = (radius + 0.5) * pixel * c.at().scale();
    g.setStroke(p.attention());
    g.setLineWidth(1);
    g.setLineDashes(3, 3);
    g.strokeRect(x - half, y - half, 2 * half, 2 * half);
    g.setLineDashes();
  }
}
