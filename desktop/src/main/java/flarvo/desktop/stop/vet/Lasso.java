package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.vet.Culling;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.beans.Observable;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** An outline or a box drawn over the picture: it selects the trackers seen in it at this frame. */
final class Lasso implements Tool, Layer {

  private final Session session;
  private final VetWork vet;
  private final List<Double> outline = new ArrayList<>();
  private final IntegerProperty pen = new SimpleIntegerProperty(); // counts its movements
  private boolean drawing;

  Lasso(Session session, VetWork vet) {
    this.session = session;
    this.vet = vet;
  }

  /** Alt draws round trackers; without it the picture is moved. */
  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (c.at() == null || !drawing && !e.isAltDown()) {
      return false;
    }
    to(c.at().toX(e.getX()), c.at().toY(e.getY()), e.isControlDown());
    return true;
  }

  /** The pen goes on, in canonical pixels; a box goes from where it began to here. */
  private void to(double x, double y, boolean box) {
    if (!drawing) {
      outline.clear();
      drawing = true;
    }
    if (box && outline.size() >= 2) {
      double x0 = outline.get(0);
      double y0 = outline.get(1);
      outline.clear();
      outline.addAll(List.of(x0, y0, x, y0, x, y, x0, y));
    } else {
      outline.add(x);
      outline.add(y);
    }
    pen.set(pen.get() + 1);
  }

  @Override
  public void release() {
    drawing = false;
    WorldShot shot = session.shot().get();
    if (outline.size() >= 6) {
      vet.region().set(List.copyOf(outline));
      select(shot);
    }
    pen.set(pen.get() + 1);
  }

  private void select(WorldShot shot) {
    int frame = session.playhead().frame().get();
    Culling.InRegion region = new Culling.InRegion(outline, new FrameRange(frame, frame));
    Observations o = shot.observations();
    Set<String> inside = new HashSet<>();
    for (TrackerSet t : shot.trackers()) {
      for (String name : t.names()) {
        int row = o.row(name, frame);
        if (row >= 0 && region.contains(o.x(row), o.y(row))) {
          inside.add(name);
        }
      }
    }
    session.selection().retainAll(inside);
    session.selection().addAll(inside);
    session
        .message()
        .set(inside.size() + (inside.size() == 1 ? " tracker is" : " trackers are") + " selected");
  }

  @Override
  public Depth depth() {
    return Depth.OVER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(vet.region(), pen);
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    List<Double> shown = drawing ? outline : vet.region().get();
    int n = shown.size() / 2;
    if (n < 2) {
      return;
    }
    double[] x = new double[n];
    double[] y = new double[n];
    for (int i = 0; i < n; i++) {
      x[i] = c.at().x(shown.get(2 * i));
      y[i] = c.at().y(shown.get(2 * i + 1));
    }
    g.setStroke(c.palette().attention());
    g.setLineWidth(1);
    g.setLineDashes(4, 4);
    g.strokePolygon(x, y, n);
    g.setLineDashes();
  }
}
