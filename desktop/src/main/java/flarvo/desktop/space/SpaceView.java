package flarvo.desktop.space;

import flarvo.desktop.picture.CanvasPane;
import flarvo.desktop.picture.DragOrClick;
import flarvo.desktop.picture.TrackerMark;
import flarvo.desktop.session.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Reprojection;
import java.util.Locale;
import javafx.collections.SetChangeListener;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;

/** The shot from outside: points, camera, its path and frustum, and the ground with its metres. */
public final class SpaceView extends CanvasPane {

  private static final double PICK_PX = 12;

  private final Session session;
  private final OrbitEye eye = new OrbitEye();
  private final double[] a = new double[3];
  private final double[] b = new double[3];
  private Shot framed;

  public SpaceView(Session session) {
    this.session = session;
    setAccessibleText("Space: the shot from outside");
    session.shot().addListener((o, x, y) -> redraw());
    session.playhead().frame().addListener((o, x, y) -> redraw());
    session.view().theme().addListener((o, x, y) -> redraw());
    session.view().trackersShown().addListener((o, x, y) -> redraw());
    session.view().hidden().addListener((SetChangeListener<String>) c -> redraw());
    session.selection().addListener((SetChangeListener<String>) c -> redraw());
    DragOrClick.install(this, this::drag, this::pick);
    setOnScroll(
        e -> {
          eye.zoom(Math.pow(0.9985, e.getDeltaY()));
          redraw();
        });
  }

  /** Turns to the selected trackers; to the whole shot without a selection. */
  public void frameSelection() {
    Shot shot = session.shot().get();
    if (shot != null) {
      frame(shot);
      redraw();
    }
  }

  private void frame(Shot shot) {
    double[] lo = {1e300, 1e300, 1e300};
    double[] hi = {-1e300, -1e300, -1e300};
    boolean some = !session.selection().isEmpty();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        if (!some || session.selection().contains(t.names().get(i))) {
          grow(lo, hi, t.position(i));
        }
      }
    }
    if (!some && shot.camera().isPresent()) {
      ShotCamera c = shot.camera().get();
      grow(lo, hi, c.poses().at(c.frames().first()).position());
      grow(lo, hi, c.poses().at(c.frames().last()).position());
    }
    if (lo[0] > hi[0]) {
      return;
    }
    Vec3 middle = new Vec3((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2);
    double reach = Math.hypot(Math.hypot(hi[0] - lo[0], hi[1] - lo[1]), hi[2] - lo[2]) / 2;
    eye.look(middle, Math.max(reach, 0.3) * 0.75);
  }

  private static void grow(double[] lo, double[] hi, Vec3 v) {
    double[] p = {v.x(), v.y(), v.z()};
    for (int i = 0; i < 3; i++) {
      lo[i] = Math.min(lo[i], p[i]);
      hi[i] = Math.max(hi[i], p[i]);
    }
  }

  private double side() {
    return Math.max(getWidth(), getHeight());
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    Palette p = session.view().theme().get().palette();
    g.setFill(p.surround());
    g.fillRect(0, 0, w, h);
    Shot shot = session.shot().get();
    if (shot == null) {
      return;
    }
    if (framed == null || !framed.name().equals(shot.name())) {
      framed = shot;
      frame(shot);
    }
    double size = side();
    Pinhole view = eye.pinhole(size);
    g.save();
    g.translate((w - size) / 2, (h - size) / 2);
    ground(g, p, view);
    axes(g, view);
    shot.camera().ifPresent(c -> camera(g, p, view, c));
    if (session.view().trackersShown().get()) {
      points(g, p, view, shot);
    }
    g.restore();
    g.setFill(p.quiet());
    g.setFont(Font.font(Theme.WORDS, 12));
    g.fillText("ground: one square is 1 m", 12, h - 12);
  }

  /** One-metre squares about the target, every fifth line stronger and numbered. */
  private void ground(GraphicsContext g, Palette p, Pinhole view) {
    int reach = (int) Math.max(4, Math.min(40, eye.distance() * 1.4));
    int cx = (int) Math.rint(eye.target().x());
    int cz = (int) Math.rint(eye.target().z());
    g.setFont(Font.font(Theme.NUMBERS, 10));
    for (int i = -reach; i <= reach; i++) {
      boolean strong = (cx + i) % 5 == 0;
      g.setStroke(strong ? p.quiet().deriveColor(0, 1, 1, 0.55) : p.lines());
      g.setLineWidth(strong ? 1 : 0.7);
      line(g, view, cx + i, 0, cz - reach, cx + i, 0, cz + reach);
      strong = (cz + i) % 5 == 0;
      g.setStroke(strong ? p.quiet().deriveColor(0, 1, 1, 0.55) : p.lines());
      g.setLineWidth(strong ? 1 : 0.7);
      line(g, view, cx - reach, 0, cz + i, cx + reach, 0, cz + i);
    }
    g.setFill(p.quiet());
    for (int m = -20; m <= 20; m += 5) {
      view.project(m, 0, 0, a);
      if (m != 0 && a[2] > 0) {
        g.fillText(m + " m", a[0] + 3, a[1] - 3);
      }
    }
  }

  private void axes(GraphicsContext g, Pinhole view) {
    axis(g, view, 1, 0, 0, Palette.AXIS_X, "x");
    axis(g, view, 0, 1, 0, Palette.AXIS_Y, "y");
    axis(g, view, 0, 0, 1, Palette.AXIS_Z, "z");
  }

  private void axis(
      GraphicsContext g, Pinhole view, double x, double y, double z, Color c, String letter) {
    g.setStroke(c);
    g.setLineWidth(2);
    line(g, view, 0, 0, 0, x, y, z);
    view.project(1.12 * x, 1.12 * y, 1.12 * z, a);
    if (a[2] > 0) {
      g.setFill(c);
      g.setFont(Font.font(Theme.WORDS, javafx.scene.text.FontWeight.BOLD, 13));
      g.fillText(letter, a[0] - 4, a[1] + 4);
    }
  }

  private void camera(GraphicsContext g, Palette p, Pinhole view, ShotCamera c) {
    FrameRange frames = c.frames();
    g.setStroke(p.quiet());
    g.setLineWidth(1.3);
    Vec3 last = null;
    for (int f = frames.first(); f <= frames.last(); f++) {
      Vec3 at = c.poses().at(f).position();
      if (last != null) {
        line(g, view, last.x(), last.y(), last.z(), at.x(), at.y(), at.z());
      }
      last = at;
    }
    int now = frames.clamp(session.playhead().frame().get());
    Pose pose = c.poses().at(now);
    Optics o = c.optics().at(now);
    double depth = 0.6;
    double k = depth / o.focalLengthMm();
    Vec3[] corner = new Vec3[4];
    for (int i = 0; i < 4; i++) {
      double x = ((i == 0 || i == 3 ? -0.5 : 0.5) * o.filmWidthMm() - o.principalXMm()) * k;
      double y = ((i < 2 ? 0.5 : -0.5) * o.filmHeightMm() - o.principalYMm()) * k;
      corner[i] = pose.toWorld(new Vec3(x, y, -depth));
    }
    g.setStroke(p.ink());
    g.setLineWidth(1.2);
    for (int i = 0; i < 4; i++) {
      line(g, view, pose.position(), corner[i]);
      line(g, view, corner[i], corner[(i + 1) % 4]);
    }
    // A tick over the upper edge shows which way is up.
    Vec3 middle = corner[0].plus(corner[1]).times(0.5);
    Vec3 up = pose.rotation().apply(new Vec3(0, 0.12, 0));
    line(g, view, middle, middle.plus(up));
  }

  private void points(GraphicsContext g, Palette p, Pinhole view, Shot shot) {
    Reprojection errors = session.errors().get();
    double limit = session.view().errorLimitPx().get();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    for (TrackerSet t : shot.trackers()) {
      if (session.view().hidden().contains(t.name())) {
        continue;
      }
      for (int i = 0; i < t.size(); i++) {
        view.project(t.x(i), t.y(i), t.z(i), a);
        if (!(a[2] > 0)) {
          continue;
        }
        String name = t.names().get(i);
        TrackerMark.State state =
            TrackerMark.State.of(errors == null ? 0 : errors.trackerRmsPx(name), limit);
        if (session.selection().contains(name)) {
          TrackerMark.ring(g, p, a[0], a[1], state, true);
          g.setFill(p.ink());
          g.fillText(
              String.format(Locale.ROOT, "%s  %.3f %.3f %.3f m", name, t.x(i), t.y(i), t.z(i)),
              a[0] + 12,
              a[1] - 8);
        } else {
          g.setStroke(TrackerMark.colour(state, p));
          g.setLineWidth(1.2);
          g.strokeOval(a[0] - 2.5, a[1] - 2.5, 5, 5);
          if (state == TrackerMark.State.OVER) {
            g.strokeLine(a[0] - 5, a[1], a[0] + 5, a[1]);
          }
        }
      }
    }
  }

  private void line(GraphicsContext g, Pinhole view, Vec3 from, Vec3 to) {
    line(g, view, from.x(), from.y(), from.z(), to.x(), to.y(), to.z());
  }

  /** Cut at the viewer's plane, so that lines running behind do not fold over. */
  private void line(
      GraphicsContext g,
      Pinhole view,
      double x0,
      double y0,
      double z0,
      double x1,
      double y1,
      double z1) {
    view.project(x0, y0, z0, a);
    view.project(x1, y1, z1, b);
    double near = 0.02;
    if (a[2] < near && b[2] < near) {
      return;
    }
    if (a[2] < near) {
      double u = (near - a[2]) / (b[2] - a[2]);
      view.project(x0 + (x1 - x0) * u, y0 + (y1 - y0) * u, z0 + (z1 - z0) * u, a);
    } else if (b[2] < near) {
      double u = (near - b[2]) / (a[2] - b[2]);
      view.project(x1 + (x0 - x1) * u, y1 + (y0 - y1) * u, z1 + (z0 - z1) * u, b);
    }
    if (a[2] > 0 && b[2] > 0) {
      g.strokeLine(a[0], a[1], b[0], b[1]);
    }
  }

  private void drag(double dx, double dy, MouseEvent e) {
    if (e.getButton() == MouseButton.PRIMARY && !e.isShiftDown()) {
      eye.orbit(dx, dy);
    } else {
      eye.pan(dx, dy, side());
    }
    redraw();
  }

  private void pick(MouseEvent e) {
    requestFocus();
    Shot shot = session.shot().get();
    if (shot == null) {
      return;
    }
    double size = side();
    Pinhole view = eye.pinhole(size);
    double x = e.getX() - (getWidth() - size) / 2;
    double y = e.getY() - (getHeight() - size) / 2;
    String best = null;
    double nearest = PICK_PX;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        view.project(t.x(i), t.y(i), t.z(i), a);
        double d = a[2] > 0 ? Math.hypot(a[0] - x, a[1] - y) : 1e9;
        if (d < nearest) {
          nearest = d;
          best = t.names().get(i);
        }
      }
    }
    session.choose(best, e.isShiftDown());
  }
}
