package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.state.ShownTrackers;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.TrackerMark;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.vet.Reprojection;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** Where trackers were seen some frames before and after, and rings as large as their error. */
final class TrailsLayer implements Layer {

  private final Session session;
  private final double[] px = new double[3];

  TrailsLayer(Session session) {
    this.session = session;
  }

  @Override
  public Depth depth() {
    return Depth.UNDER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(session.view().trails(), session.view().errorRings());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    int trails = session.view().trails().get();
    Reprojection errors = session.errors().get();
    boolean rings = session.view().errorRings().get() && errors != null;
    boolean here =
        c.shot().camera().isPresent() && c.shot().camera().get().frames().contains(c.frame());
    if (!here || trails == 0 && !rings || !session.view().trackersShown().get()) {
      return;
    }
    Observations seen = c.shot().observations();
    Pinhole pinhole =
        new Pinhole(c.shot().camera().orElseThrow(), c.shot().picture()).at(c.frame());
    ShownTrackers list = session.shownTrackers(c.frame());
    double limit = session.view().errorLimitPx().get();
    double stretch = session.view().whiskers().get();
    for (int i = 0; i < list.size(); i++) {
      int row = list.row(i, c.frame());
      if (row < 0) {
        continue;
      }
      if (trails > 0) {
        trail(g, c, seen, list.name(i), trails);
      }
      if (rings && !Double.isNaN(errors.rowPx(row))) {
        pinhole.project(list.x(i), list.y(i), list.z(i), px);
        c.bend().to(px);
        TrackerMark.errorRing(
            g,
            c.palette(),
            c.at().x(px[0]),
            c.at().y(px[1]),
            errors.rowPx(row) * stretch * c.at().scale(),
            TrackerMark.State.of(list.rmsPx(i), limit));
      }
    }
  }

  /** Thin before the playhead, dotted after it. */
  private void trail(GraphicsContext g, DrawContext c, Observations seen, String name, int around) {
    int frame = c.frame();
    g.setStroke(c.palette().quiet());
    g.setLineWidth(1);
    double x = Double.NaN;
    double y = Double.NaN;
    for (int row = seen.firstRow(name); row < seen.endRow(name); row++) {
      int f = seen.frame(row);
      if (f < frame - around) {
        continue;
      }
      if (f > frame + around) {
        break;
      }
      px[0] = seen.x(row);
      px[1] = seen.y(row);
      c.bend().to(px);
      double nx = c.at().x(px[0]);
      double ny = c.at().y(px[1]);
      if (!Double.isNaN(x) && (f <= frame || f % 2 == 0)) {
        g.strokeLine(x, y, nx, ny);
      }
      x = nx;
      y = ny;
    }
  }
}
