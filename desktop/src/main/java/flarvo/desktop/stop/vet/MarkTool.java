package flarvo.desktop.stop.vet;

import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Loupe;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.TrackerMark;
import flarvo.vet.ExtraPoint;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** Clicks that mark an extra point, under a loupe; and the marks of all extra points. */
final class MarkTool implements Tool, Layer {

  private final VetWork vet;
  private final Loupe loupe = new Loupe();

  MarkTool(VetWork vet) {
    this.vet = vet;
  }

  @Override
  public boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    boolean marking = vet.marking().get();
    if (marking) {
      double[] p = {c.at().toX(e.getX()), c.at().toY(e.getY())};
      c.bend().back(p);
      if (Double.isFinite(p[0]) && Double.isFinite(p[1])) {
        vet.mark(p[0], p[1]);
      }
    }
    return marking;
  }

  @Override
  public boolean moved(double x, double y) {
    loupe.at(x, y);
    return vet.marking().get();
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(vet.marking());
  }

  /** Marks at this frame: those that a hand set and, smaller, those found. */
  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    for (ExtraPoint point : vet.vetting().extras()) {
      for (ExtraPoint.Mark m : point.marks()) {
        if (m.frame() == c.frame()) {
          double[] p = {m.x(), m.y()};
          c.bend().to(p);
          double x = c.at().x(p[0]);
          double y = c.at().y(p[1]);
          TrackerMark.extra(g, c.palette(), x, y, m.found());
          TrackerMark.label(g, c.palette(), point.name(), x + 12, y + 16);
        }
      }
    }
    if (vet.marking().get()) {
      loupe.draw(g, c);
    }
  }
}
