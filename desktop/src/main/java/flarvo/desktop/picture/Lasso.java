package flarvo.desktop.picture;

import flarvo.desktop.session.Session;
import flarvo.desktop.theme.Palette;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.vet.Culling;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import javafx.scene.canvas.GraphicsContext;

/** An outline or a box drawn over the picture: it selects the trackers seen in it at this frame. */
final class Lasso {

  private final Session session;
  private final Runnable redraw;
  private final List<Double> outline = new ArrayList<>();
  private boolean drawing;

  Lasso(Session session, Runnable redraw) {
    this.session = session;
    this.redraw = redraw;
    session.vet().region().addListener((o, a, b) -> redraw.run());
  }

  boolean isDrawing() {
    return drawing;
  }

  /** The pen goes on, in canonical pixels; a box goes from where it began to here. */
  void to(double x, double y, boolean box) {
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
    redraw.run();
  }

  void end() {
    if (!drawing) {
      return;
    }
    drawing = false;
    Shot shot = session.shot().get();
    if (outline.size() >= 6 && shot != null) {
      session.vet().region().set(List.copyOf(outline));
      select(shot);
    }
    redraw.run();
  }

  private void select(Shot shot) {
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

  void draw(GraphicsContext g, Palette p, double left, double top, double s) {
    List<Double> shown = drawing ? outline : session.vet().region().get();
    int n = shown.size() / 2;
    if (n < 2) {
      return;
    }
    double[] x = new double[n];
    double[] y = new double[n];
    for (int i = 0; i < n; i++) {
      x[i] = left + shown.get(2 * i) * s;
      y[i] = top + shown.get(2 * i + 1) * s;
    }
    g.setStroke(p.attention());
    g.setLineWidth(1);
    g.setLineDashes(4, 4);
    g.strokePolygon(x, y, n);
    g.setLineDashes();
  }
}
