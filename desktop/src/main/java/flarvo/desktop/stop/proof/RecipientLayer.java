package flarvo.desktop.stop.proof;

import flarvo.desktop.state.SendState;
import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Layer;
import flarvo.desktop.view.TrackerMark;
import flarvo.scene.Pinhole;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** The delivered camera and points, as their recipient sees them. */
final class RecipientLayer implements Layer {

  private final Session session;
  private final double[] px = new double[3];

  RecipientLayer(Session session) {
    this.session = session;
  }

  @Override
  public Depth depth() {
    return Depth.UNDER;
  }

  @Override
  public List<Observable> dependsOn() {
    return List.of(session.chosen(), session.sending().states());
  }

  @Override
  public void draw(GraphicsContext g, DrawContext c) {
    SendState state =
        session.chosen().get() == null
            ? null
            : session.sending().states().get(session.chosen().get());
    WorldShot there = state == null ? null : state.seen().orElse(null);
    if (there == null
        || there.camera().isEmpty()
        || !there.camera().get().frames().contains(c.frame())) {
      return;
    }
    // Over plates with overscan the recipient's picture is larger on all sides.
    double overX = (there.picture().width() - c.shot().picture().width()) / 2.0;
    double overY = (there.picture().height() - c.shot().picture().height()) / 2.0;
    Pinhole pinhole = new Pinhole(there.camera().get(), there.picture()).at(c.frame());
    for (TrackerSet t : there.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        pinhole.project(t, i, px);
        boolean live =
            there.observations().isEmpty()
                || there.observations().row(t.names().get(i), c.frame()) >= 0;
        if (live && px[2] > 0) {
          px[0] -= overX;
          px[1] -= overY;
          c.bend().to(px);
          TrackerMark.recipient(g, c.palette(), c.at().x(px[0]), c.at().y(px[1]));
        }
      }
    }
  }
}
