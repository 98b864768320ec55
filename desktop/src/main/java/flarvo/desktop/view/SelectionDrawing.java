package flarvo.desktop.view;

import flarvo.desktop.state.Session;
import flarvo.desktop.state.ShownTrackers;
import flarvo.desktop.theme.Theme;
import flarvo.scene.Pinhole;
import flarvo.vet.Reprojection;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** A second ring and the name; a tracker that is not seen at this frame gets its ring too. */
final class SelectionDrawing {

  private final Session session;
  private final double[] px = new double[3];

  SelectionDrawing(Session session) {
    this.session = session;
  }

  /** The shot has a camera at this frame. */
  void draw(GraphicsContext g, DrawContext c) {
    if (session.selection().isEmpty()) {
      return;
    }
    Pinhole pinhole =
        new Pinhole(c.shot().camera().orElseThrow(), c.shot().picture()).at(c.frame());
    Reprojection errors = session.errors().get();
    double limit = session.view().errorLimitPx().get();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    ShownTrackers list = session.shownTrackers(c.frame());
    for (String name : session.selection()) {
      int i = list.indexOf(name);
      if (i < 0) {
        continue;
      }
      pinhole.project(list.x(i), list.y(i), list.z(i), px);
      if (!(px[2] > 0)) {
        continue;
      }
      c.bend().to(px);
      double x = c.at().x(px[0]);
      double y = c.at().y(px[1]);
      TrackerMark.State state =
          TrackerMark.State.of(errors == null ? 0 : errors.trackerRmsPx(name), limit);
      TrackerMark.ring(g, c.palette(), x, y, state, true);
      TrackerMark.label(g, c.palette(), name, x + 12, y - 8);
    }
  }
}
