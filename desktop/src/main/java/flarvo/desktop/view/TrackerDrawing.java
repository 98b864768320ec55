package flarvo.desktop.view;

import flarvo.desktop.state.Session;
import flarvo.desktop.state.ShownTrackers;
import flarvo.desktop.theme.Theme;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import java.util.Set;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/** Trackers over the plate: where they were observed, where they project, how far apart. */
final class TrackerDrawing {

  private final Session session;
  private final TrackerMarks marks = new TrackerMarks();
  private final double[] px = new double[3];
  private final double[] observed = new double[2];

  TrackerDrawing(Session session) {
    this.session = session;
  }

  /** The shot has a camera at this frame. */
  void draw(GraphicsContext g, DrawContext c) {
    Pinhole pinhole =
        new Pinhole(c.shot().camera().orElseThrow(), c.shot().picture()).at(c.frame());
    Observations seen = c.shot().observations();
    ShownTrackers list = session.shownTrackers(c.frame());
    double stretch = session.view().whiskers().get();
    double limit = session.view().errorLimitPx().get();
    Set<String> uncounted = session.uncounted();
    Placed at = c.at();
    double s = at.scale();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    marks.begin(c.palette(), list.live(c.frame()));
    for (int i = 0; i < list.size(); i++) {
      int row = list.row(i, c.frame());
      if (row < 0 && !seen.isEmpty() && !list.onlySolved(i)) {
        continue; // not seen at this frame
      }
      pinhole.project(list.x(i), list.y(i), list.z(i), px);
      if (!(px[2] > 0)) {
        continue;
      }
      c.bend().to(px);
      double x = at.left() + px[0] * s;
      double y = at.top() + px[1] * s;
      TrackerMark.State state = TrackerMark.State.of(list.rmsPx(i), limit);
      if (row >= 0) {
        observed[0] = seen.x(row);
        observed[1] = seen.y(row);
        c.bend().to(observed);
        marks.observed(
            at.left() + observed[0] * s,
            at.top() + observed[1] * s,
            x,
            y,
            stretch,
            state,
            list.look(i));
      }
      marks.ring(x, y, state);
      if (!uncounted.isEmpty() && uncounted.contains(list.name(i))) {
        TrackerMark.weightless(g, c.palette(), x, y);
      }
    }
    marks.draw(g);
  }
}
