package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Loupe;
import flarvo.desktop.view.Tool;
import flarvo.lens.fit.StraightLine;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** Two clicks trace an edge, under a loupe; the traced lines of the shown frame. */
final class LineTool implements Tool, Layer {

  /** How near a click must be to a line to select it, in the view's pixels. */
  private static final double NEAR = 7;

  private final Session session;
  private final LensWorkbench bench;
  private final Loupe loupe = new Loupe();
  private final double[] px = new double[2];
  private double[] begun; // first end, in pixels of the original; null while there is none
  private int begunAt;
  private double pointerX;
  private double pointerY;

  LineTool(Session session, LensWorkbench bench) {
    this.session = session;
    this.bench = bench;
    bench.tracing().addListener((o, a, b) -> begun = null);
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    if (!bench.tracing().get()) {
      Optional<String> line = at(c, e.getX(), e.getY());
      bench.selected().set(line.orElse(null));
      return line.isPresent();
    }
    double x = c.at().toX(e.getX());
    double y = c.at().toY(e.getY());
    if (begun == null || begunAt != c.frame()) {
      begun = new double[] {x, y};
      begunAt = c.frame();
    } else {
      bench.trace(begun[0], begun[1], x, y);
      begun = null;
    }
    return true;
  }

  /** Gives up a line that was begun; false where there is none. */
  boolean giveUp() {
    boolean was = begun != null;
    begun = null;
    return was;
  }

  @Override
  public boolean moved(double x, double y) {
    loupe.at(x, y);
    pointerX = x;
    pointerY = y;
    return bench.tracing().get();
  }

  private Optional<String> at(DrawContext c, double x, double y) {
    for (StraightLine l : bench.work().lines()) {
      for (int i = 0; l.frame() == c.frame() && i < l.size(); i++) {
        place(c, l, i);
        if (Math.hypot(px[0] - x, px[1] - y) < NEAR) {
          return Optional.of(l.name());
        }
      }
    }
    return Optional.empty();
  }

  private void place(DrawContext c, StraightLine l, int i) {
    px[0] = l.x(i);
    px[1] = l.y(i);
    c.bend().fromOriginal(px);
    px[0] = c.at().x(px[0]);
    px[1] = c.at().y(px[1]);
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(bench.tracing(), bench.selected(), session.state(), session.playhead().frame());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    for (StraightLine l : bench.work().lines()) {
      if (l.frame() == c.frame()) {
        line(g, c, l);
      }
    }
    if (!bench.tracing().get()) {
      return;
    }
    if (begun != null && begunAt == c.frame()) {
      double x = c.at().x(begun[0]);
      double y = c.at().y(begun[1]);
      g.setStroke(c.palette().attention());
      g.setLineWidth(1);
      g.strokeLine(x - 6, y, x + 6, y);
      g.strokeLine(x, y - 6, x, y + 6);
      g.setLineDashes(3, 3);
      g.strokeLine(x, y, pointerX, pointerY);
      g.setLineDashes();
    }
    loupe.draw(g, c);
  }

  /** A thin line with a bar at each end; the selected one is thicker and named. */
  private void line(GraphicsContext g, DrawContext c, StraightLine l) {
    Palette p = c.palette();
    boolean selected = l.name().equals(bench.selected().get());
    g.setStroke(selected ? p.attention() : p.accent());
    g.setLineWidth(selected ? 2.4 : 1.4);
    g.beginPath();
    double fx = 0;
    double fy = 0;
    for (int i = 0; i < l.size(); i++) {
      place(c, l, i);
      if (i == 0) {
        fx = px[0];
        fy = px[1];
        g.moveTo(fx, fy);
      } else {
        g.lineTo(px[0], px[1]);
      }
    }
    g.stroke();
    double length = Math.max(1e-6, Math.hypot(px[0] - fx, px[1] - fy));
    double nx = -(px[1] - fy) / length * 5;
    double ny = (px[0] - fx) / length * 5;
    g.strokeLine(fx - nx, fy - ny, fx + nx, fy + ny);
    g.strokeLine(px[0] - nx, px[1] - ny, px[0] + nx, px[1] + ny);
    if (selected) {
      LensGridLayer.words(g, c, l.name(), fx + 8, fy - 8, false);
    }
  }
}
