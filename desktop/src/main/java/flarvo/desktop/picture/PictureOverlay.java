package flarvo.desktop.picture;

import flarvo.desktop.level.Handles;
import flarvo.desktop.level.LevelLayer;
import flarvo.desktop.level.Projector;
import flarvo.desktop.level.WorldDrawing;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.LatePoint;
import flarvo.vet.Reprojection;
import java.util.HashMap;
import java.util.Map;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.text.Font;

/**
 * What lies over plate and trackers and changes more often than they do: the selection, what is
 * being drawn or marked. Drawing it costs nothing of what thousands of trackers cost.
 */
final class PictureOverlay extends CanvasPane {

  private final Session session;
  private final PictureView view;
  private final Lasso lasso;
  private final Loupe loupe;
  private final double[] px = new double[3];
  private final Map<String, Vec3> places = new HashMap<>();
  private Shot placesOf;
  private final Handles handles;
  private final LevelLayer layer;

  PictureOverlay(Session session, PictureView view, Lasso lasso, Loupe loupe, Handles handles) {
    this.handles = handles;
    layer = new LevelLayer(session, handles);
    this.session = session;
    this.view = view;
    this.lasso = lasso;
    this.loupe = loupe;
    setMouseTransparent(true);
    setManaged(false);
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    g.clearRect(0, 0, w, h);
    Shot shot = session.shot().get();
    if (shot == null) {
      return;
    }
    Palette p = session.view().theme().get().palette();
    PictureView.Placed at = view.placed(shot);
    int frame = session.playhead().frame().get();
    if (session.view().trackersShown().get()
        && shot.camera().isPresent()
        && shot.camera().get().frames().contains(frame)) {
      selected(g, p, shot, frame, at);
    }
    if (session.stop().get() == Stop.LEVEL) {
      level(g, p, frame);
    }
    if (session.stop().get() == Stop.VET) {
      lasso.draw(g, p, at.left(), at.top(), at.scale());
      late(g, p, frame, at);
      if (session.vet().marking().get()) {
        loupe.draw(g, p, view.shownPlate(shot, frame), at.left(), at.top(), at.scale(), w);
      }
    }
  }

  /** The ground over the plate, and what was built on it. */
  private void level(GraphicsContext g, Palette p, int frame) {
    Projector to = view.world(frame);
    if (to == null) {
      return;
    }
    WorldDrawing w = new WorldDrawing(g, to);
    double step = WorldDrawing.step(4 * handles.radius());
    w.ground(p, Vec3.ZERO, step, 12, true);
    w.axes(handles.radius());
    layer.draw(g, p, to, view.held());
    g.setStroke(p.ink());
    g.setLineWidth(1.4);
    Vec3 last = null;
    for (Vec3 v : session.build().sketch()) {
      Vec3 at = session.level().shown().apply(v);
      to.project(at, px);
      if (px[2] > 0) {
        g.strokeRect(px[0] - 3, px[1] - 3, 6, 6);
      }
      if (last != null) {
        w.line(last, at);
      }
      last = at;
    }
  }

  @SuppressWarnings("ReferenceEquality")
  private Map<String, Vec3> places(Shot shot) {
    if (placesOf != shot) {
      placesOf = shot;
      places.clear();
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          places.put(t.names().get(i), t.position(i));
        }
      }
    }
    return places;
  }

  /** A second ring and the name; one that is not seen at this frame gets its ring too. */
  private void selected(GraphicsContext g, Palette p, Shot shot, int frame, PictureView.Placed at) {
    if (session.selection().isEmpty()) {
      return;
    }
    Pinhole pinhole = new Pinhole(shot.camera().orElseThrow(), shot.picture()).at(frame);
    Reprojection errors = session.errors().get();
    double limit = session.view().errorLimitPx().get();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    for (String name : session.selection()) {
      Vec3 v = places(shot).get(name);
      if (v == null) {
        continue;
      }
      pinhole.project(v.x(), v.y(), v.z(), px);
      if (!(px[2] > 0)) {
        continue;
      }
      double x = at.x(px[0]);
      double y = at.y(px[1]);
      TrackerMark.ring(
          g,
          p,
          x,
          y,
          TrackerMark.State.of(errors == null ? 0 : errors.trackerRmsPx(name), limit),
          true);
      label(g, p, name, x + 12, y - 8);
    }
  }

  /** Marks of late points at this frame: those that a hand set and, smaller, those found. */
  private void late(GraphicsContext g, Palette p, int frame, PictureView.Placed at) {
    for (LatePoint point : session.vet().vetting().late()) {
      for (LatePoint.Mark m : point.marks()) {
        if (m.frame() == frame) {
          TrackerMark.late(g, p, at.x(m.x()), at.y(m.y()), m.found());
          label(g, p, point.name(), at.x(m.x()) + 12, at.y(m.y()) + 16);
        }
      }
    }
  }

  static void label(GraphicsContext g, Palette p, String text, double x, double y) {
    g.setFill(p.panel().deriveColor(0, 1, 1, 0.8));
    g.fillRect(x - 3, y - 11, text.length() * 7 + 6, 14);
    g.setFill(p.ink());
    g.fillText(text, x, y);
  }
}
