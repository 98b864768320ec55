package flarvo.desktop.view;

import flarvo.desktop.state.Session;
import flarvo.desktop.state.ShownTrackers;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Optics;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.beans.InvalidationListener;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.text.Font;

/** The shot from outside: points, camera, its path and frustum, and the ground with its metres. */
public final class SpaceView extends CanvasPane {

  private static final double PICK_PX = 12;

  /** From so many trackers on they are pixels and no rings. */
  private static final int MANY = 2000;

  /** Trackers this far out at each end do not decide what is framed: strays stand anywhere. */
  private static final double STRAY_SHARE = 0.08;

  /** A scene is rarely as high as it is wide. */
  private static final double NARROW = 0.75;

  private static final double MOST_NARROW = 2;

  /** Pieces that the camera's path is drawn in, at most. */
  private static final int MOST_OF_PATH = 200;

  private final Session session;
  private final OrbitEye eye = new OrbitEye();
  private final double[] a = new double[3];
  private final GeometryDrawing geometry = new GeometryDrawing();
  private final PointCloud cloud = new PointCloud();
  private final LayerList layers = new LayerList(this::redraw, this::redraw);
  private final ToolBelt tools = new ToolBelt();
  private final HBox sides = new HBox(4);
  private WorldShot framed;

  public SpaceView(Session session) {
    this.session = session;
    setAccessibleText("Space: the shot from outside");
    InvalidationListener again = o -> redraw();
    for (Observable o :
        List.of(
            session.shot(),
            session.errors(),
            session.playhead().frame(),
            session.view().theme(),
            session.view().trackersShown(),
            session.view().errorLimitPx(),
            session.view().hidden(),
            session.view().tried(),
            session.selection())) {
      o.addListener(again);
    }
    for (SpaceSide s : SpaceSide.values()) {
      Button b = new Button(s.word());
      b.setId("space-" + s.word());
      b.getStyleClass().add("small-button");
      b.setFocusTraversable(false);
      b.setOnAction(e -> look(s));
      sides.getChildren().add(b);
    }
    sides.setManaged(false);
    getChildren().add(sides);
    DragOrClick.install(this, this::drag, this::pick, e -> tools.release());
    setOnScroll(
        e -> {
          eye.zoom(Math.pow(0.9985, e.getDeltaY()));
          redraw();
        });
  }

  /** Frames the whole shot when it is drawn next, as it is laid out then. */
  public void reframe() {
    framed = null;
    redraw();
  }

  /** What the shown stop draws and does here. */
  public void use(List<Layer> more, List<Tool> with) {
    layers.set(more);
    tools.set(with);
  }

  /** Looks from a side, as if from very far. */
  public void look(SpaceSide side) {
    eye.from(side);
    redraw();
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    sides.autosize();
    sides.relocate(10, 10);
  }

  /** Of the disc with the handles, in metres: a share of what is in view. */
  public double discRadius() {
    return Math.max(0.02, eye.distance() / 7);
  }

  /** The world into this view. */
  public Projector world() {
    double size = side();
    return new Projector(
        eye.pinhole(size), eye.eye(), (getWidth() - size) / 2, (getHeight() - size) / 2, 1);
  }

  /** Everything that layers and tools work with, as it stands now. */
  public DrawContext context() {
    return new DrawContext(
        session.view().theme().get().palette(),
        session.shot().get(),
        session.playhead().frame().get(),
        getWidth(),
        getHeight(),
        null,
        world(),
        discRadius(),
        Bend.NONE,
        null);
  }

  /** Turns to the selected trackers; to the whole shot without a selection. */
  public void frameSelection() {
    frame(session.shot().get());
    redraw();
  }

  private void frame(WorldShot shot) {
    double[] lo = {1e300, 1e300, 1e300};
    double[] hi = {-1e300, -1e300, -1e300};
    boolean some = !session.selection().isEmpty();
    List<Vec3> at = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        if (!some || session.selection().contains(t.names().get(i))) {
          at.add(t.position(i, session.playhead().frame().get()));
        }
      }
    }
    within(at, some ? 0 : STRAY_SHARE).forEach(v -> grow(lo, hi, v));
    if (!some && shot.camera().isPresent()) {
      ShotCamera c = shot.camera().get();
      grow(lo, hi, c.poses().at(c.frames().first()).position());
      grow(lo, hi, c.poses().at(c.frames().last()).position());
    }
    if (lo[0] > hi[0]) {
      return;
    }
    if (!some) {
      grow(lo, hi, Vec3.ZERO); // the world's axes are what a shot is levelled by
    }
    Vec3 middle = new Vec3((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2);
    double reach = Math.hypot(Math.hypot(hi[0] - lo[0], hi[1] - lo[1]), hi[2] - lo[2]) / 2;
    eye.look(middle, Math.max(reach, 0.3) * 0.75 * narrow());
  }

  /** Two corners of a box that leaves out the outermost share of each coordinate at both ends. */
  private static List<Vec3> within(List<Vec3> all, double share) {
    if (all.isEmpty()) {
      return List.of();
    }
    int cut = (int) (share * all.size());
    double[] x = all.stream().mapToDouble(Vec3::x).sorted().toArray();
    double[] y = all.stream().mapToDouble(Vec3::y).sorted().toArray();
    double[] z = all.stream().mapToDouble(Vec3::z).sorted().toArray();
    int last = all.size() - 1 - cut;
    return List.of(new Vec3(x[cut], y[cut], z[cut]), new Vec3(x[last], y[last], z[last]));
  }

  /** The view's long side is the square that is projected into: a short one shows less. */
  private double narrow() {
    double shorter = Math.max(1, Math.min(getWidth(), getHeight()));
    return Math.max(1, Math.min(MOST_NARROW, NARROW * side() / shorter));
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
    if (!session.isOpen()) {
      return;
    }
    WorldShot shot = session.shot().get();
    if (framed == null || !framed.name().equals(shot.name())) {
      framed = shot;
      frame(shot);
    }
    Projector to = world();
    WorldDrawing world = new WorldDrawing(g, to);
    double step = WorldDrawing.step(eye.distance());
    int reach = (int) Math.max(4, Math.min(40, eye.distance() * 1.4 / step));
    world.ground(p, eye.target(), step, reach, false);
    world.axes(step);
    // What is only tried moves the shot as a whole: the viewer goes the other way instead.
    Similarity moved =
        session.view().tried().get() == null
            ? Similarity.IDENTITY
            : session.shownLevel().after(session.state().get().level().inverse());
    g.setStroke(p.quiet());
    g.setLineWidth(0.8);
    geometry.draw(world, shot, session.playhead().frame().get(), moved);
    g.setStroke(p.ink());
    g.setLineWidth(1.3);
    geometry.paths(world, shot, moved);
    shot.camera().ifPresent(c -> camera(g, p, world, c, moved));
    if (session.view().trackersShown().get()) {
      points(g, p, to, shot, moved);
    }
    groupNames(g, p, to, moved);
    layers.draw(Layer.Depth.UNDER, g, context());
    layers.draw(Layer.Depth.OVER, g, context());
    g.setFill(p.quiet());
    g.setFont(Font.font(Theme.WORDS, 12));
    g.fillText("ground: one square is " + WorldDrawing.metres(step), 12, h - 12);
  }

  private void groupNames(GraphicsContext g, Palette p, Projector to, Similarity moved) {
    g.setFill(p.ink());
    g.setFont(Font.font(Theme.WORDS, 12));
    for (Group k : geometry.moving()) {
      to.project(moved.apply(k.at(session.playhead().frame().get()).position()), a);
      if (a[2] > 0) {
        g.fillOval(a[0] - 3, a[1] - 3, 6, 6);
        g.fillText(k.name(), a[0] + 6, a[1] + 14);
      }
    }
  }

  private void camera(
      GraphicsContext g, Palette p, WorldDrawing world, ShotCamera c, Similarity moved) {
    FrameRange frames = c.frames();
    g.setStroke(p.quiet());
    g.setLineWidth(1.3);
    Vec3 last = null;
    int step = Math.max(1, frames.count() / MOST_OF_PATH);
    for (int f = frames.first(); f <= frames.last(); f += step) {
      Vec3 at = moved.apply(c.poses().at(f).position());
      if (last != null) {
        world.line(last, at);
      }
      last = at;
    }
    int now = frames.clamp(session.playhead().frame().get());
    Pose pose = moved.apply(c.poses().at(now));
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
      world.line(pose.position(), corner[i]);
      world.line(corner[i], corner[(i + 1) % 4]);
    }
    // A tick over the upper edge shows which way is up.
    Vec3 middle = corner[0].plus(corner[1]).times(0.5);
    Vec3 up = pose.rotation().apply(new Vec3(0, 0.12, 0));
    world.line(middle, middle.plus(up));
  }

  private void points(
      GraphicsContext g, Palette p, Projector to, WorldShot shot, Similarity moved) {
    boolean many = shot.trackerCount() > MANY;
    double limit = session.view().errorLimitPx().get();
    double[] m = moved.rotation().toRows();
    double k = moved.scale();
    Vec3 t = moved.translation();
    int[] colours = {
      PointCloud.argb(TrackerMark.colour(TrackerMark.State.WITHIN, p)),
      PointCloud.argb(TrackerMark.colour(TrackerMark.State.WATCH, p)),
      PointCloud.argb(TrackerMark.colour(TrackerMark.State.OVER, p))
    };
    if (many) {
      cloud.begin((int) getWidth(), (int) getHeight());
    }
    ShownTrackers list = session.shownTrackers(session.playhead().frame().get());
    for (int i = 0; i < list.size(); i++) {
      double x = list.x(i);
      double y = list.y(i);
      double z = list.z(i);
      to.project(
          k * (m[0] * x + m[1] * y + m[2] * z) + t.x(),
          k * (m[3] * x + m[4] * y + m[5] * z) + t.y(),
          k * (m[6] * x + m[7] * y + m[8] * z) + t.z(),
          a);
      if (!(a[2] > 0)) {
        continue;
      }
      TrackerMark.State state = TrackerMark.State.of(list.rmsPx(i), limit);
      if (many) {
        cloud.point(
            a[0],
            a[1],
            switch (state) {
              case WITHIN -> colours[0];
              case WATCH -> colours[1];
              case OVER -> colours[2];
            });
      } else {
        g.setStroke(TrackerMark.colour(state, p));
        g.setLineWidth(1.2);
        g.strokeOval(a[0] - 2.5, a[1] - 2.5, 5, 5);
        if (state == TrackerMark.State.OVER) {
          g.strokeLine(a[0] - 5, a[1], a[0] + 5, a[1]);
        }
      }
    }
    if (many) {
      cloud.draw(g);
    }
    selected(g, p, to, list, moved, limit);
  }

  private void selected(
      GraphicsContext g,
      Palette p,
      Projector to,
      ShownTrackers list,
      Similarity moved,
      double limit) {
    g.setFont(Font.font(Theme.NUMBERS, 11));
    for (String name : session.selection()) {
      int i = list.indexOf(name);
      if (i < 0) {
        continue;
      }
      Vec3 v = moved.apply(new Vec3(list.x(i), list.y(i), list.z(i)));
      to.project(v, a);
      if (a[2] > 0) {
        TrackerMark.ring(g, p, a[0], a[1], TrackerMark.State.of(list.rmsPx(i), limit), true);
        g.setFill(p.ink());
        g.fillText(
            String.format(Locale.ROOT, "%s  %.3f %.3f %.3f m", name, v.x(), v.y(), v.z()),
            a[0] + 12,
            a[1] - 8);
      }
    }
  }

  private void drag(double dx, double dy, MouseEvent e) {
    if (session.isOpen() && tools.drag(context(), dx, dy, e)) {
      return;
    }
    if (e.getButton() == MouseButton.PRIMARY && !e.isShiftDown()) {
      eye.orbit(dx, dy);
    } else {
      eye.pan(dx, dy, side());
    }
    redraw();
  }

  private void pick(MouseEvent e) {
    requestFocus();
    WorldShot shot = session.shot().get();
    double size = side();
    Pinhole view = eye.pinhole(size);
    double x = e.getX() - (getWidth() - size) / 2;
    double y = e.getY() - (getHeight() - size) / 2;
    String best = null;
    double nearest = PICK_PX;
    int frame = session.playhead().frame().get();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        Vec3 v = t.position(i, frame);
        view.project(v.x(), v.y(), v.z(), a);
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
