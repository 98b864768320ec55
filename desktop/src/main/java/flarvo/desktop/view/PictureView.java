package flarvo.desktop.view;

import flarvo.desktop.state.Comparison;
import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.scene.FrameRange;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.beans.InvalidationListener;
import javafx.beans.Observable;
import javafx.collections.SetChangeListener;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** The shot through its camera, over the plate; the shown stop adds layers and tools. */
public final class PictureView extends CanvasPane {

  private static final double PICK_PX = 14;

  /** From this zoom on the plate's pixels are shown as squares. */
  private static final double SHARP = 4;

  private final Session session;
  private final PlateCache cache = new PlateCache(this::redraw);
  private final PlateDrawing plate;
  private final TrackerDrawing trackers;
  private final SelectionDrawing selection;
  private final PictureOverlay over = new PictureOverlay((g, o) -> drawOver(g));
  private final LayerList layers = new LayerList(this::redraw, over::redraw);
  private final ComparedDrawing compared;
  private final ToolBelt tools = new ToolBelt();
  private final double[] px = new double[3];
  private LensMapper mapper;
  private double zoom = 1;
  private double panX;
  private double panY;

  public PictureView(Session session) {
    this.session = session;
    plate = new PlateDrawing(session, cache);
    trackers = new TrackerDrawing(session);
    compared = new ComparedDrawing(session, layers, this::drawPlate, this::drawTrackers);
    selection = new SelectionDrawing(session);
    getChildren().add(over);
    setAccessibleText("Picture: the shot through its camera, over the plate");
    getStyleClass().add("picture");
    InvalidationListener again = o -> redraw();
    for (Observable o :
        List.of(
            session.shot(),
            session.errors(),
            session.playhead().frame(),
            session.view().whiskers(),
            session.view().errorLimitPx(),
            session.view().trackersShown(),
            session.view().platesShown(),
            session.view().hidden(),
            session.view().plateRole(),
            session.view().wipe(),
            session.view().difference(),
            session.view().comparison(),
            session.view().divide(),
            session.view().otherShown(),
            session.lens(),
            session.view().theme())) {
      o.addListener(again);
    }
    session.selection().addListener((SetChangeListener<String>) c -> over.redraw());
    session.view().tried().addListener((o, a, b) -> over.redraw());
    DragOrClick.install(this, this::drag, this::click, e -> tools.release());
    session.view().look().addListener((o, a, b) -> cache.setLook(b));
    setOnMouseMoved(
        e -> {
          if (tools.moved(e.getX(), e.getY())) {
            over.redraw();
          }
        });
    setOnScroll(e -> zoomAt(inOwn(e.getX()), e.getY(), Math.pow(1.0015, e.getDeltaY())));
  }

  /** What the shown stop draws and does here. */
  public void use(List<Layer> more, List<Tool> with) {
    layers.set(more);
    tools.set(with);
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    over.resizeRelocate(0, 0, getWidth(), getHeight());
  }

  Placed placed(WorldShot shot) {
    double s = scale(shot);
    return new Placed(
        room() / 2 + panX - shot.picture().width() * s / 2,
        getHeight() / 2 + panY - shot.picture().height() * s / 2,
        s);
  }

  public PlateCache cache() {
    return cache;
  }

  /** Whole picture again. */
  public void fit() {
    zoom = 1;
    panX = 0;
    panY = 0;
    redraw();
  }

  /** Frames the selected trackers; the whole picture without a selection. */
  public void frameSelection() {
    WorldShot shot = session.shot().get();
    if (session.selection().isEmpty() || shot.camera().isEmpty()) {
      fit();
      return;
    }
    int frame = shot.camera().get().frames().clamp(session.playhead().frame().get());
    Pinhole p = new Pinhole(shot.camera().get(), shot.picture()).at(frame);
    double x = 0;
    double y = 0;
    int n = 0;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        if (session.selection().contains(t.names().get(i))) {
          p.project(t, i, px);
          if (px[2] > 0) {
            x += px[0];
            y += px[1];
            n++;
          }
        }
      }
    }
    if (n > 0) {
      zoom = Math.max(zoom, 3);
      double s = scale(shot);
      panX = -(x / n - shot.picture().width() / 2.0) * s;
      panY = -(y / n - shot.picture().height() / 2.0) * s;
      redraw();
    }
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    Palette p = session.view().theme().get().palette();
    g.setFill(p.surround());
    g.fillRect(0, 0, w, h);
    if (!session.isOpen()) {
      over.redraw();
      return;
    }
    DrawContext c = context();
    compared.draw(g, c, comparison(), w, h);
    layers.draw(Layer.Depth.UNDER, g, c);
    over.redraw();
  }

  private void drawPlate(GraphicsContext g, DrawContext c) {
    plate.draw(g, c, zoom >= SHARP);
    g.setStroke(c.palette().lines());
    g.setLineWidth(1);
    double s = c.at().scale();
    g.strokeRect(
        c.at().left() - 0.5,
        c.at().top() - 0.5,
        c.shot().picture().width() * s + 1,
        c.shot().picture().height() * s + 1);
  }

  private void drawTrackers(GraphicsContext g, DrawContext c) {
    if (session.view().trackersShown().get() && hasCamera(c)) {
      trackers.draw(g, c);
    }
  }

  /** Overlaid where there is nothing to compare with. */
  private Comparison comparison() {
    return layers.compares() ? session.view().comparison().get() : Comparison.OVERLAID;
  }

  /** Of the part of the view that one picture has to itself. */
  private double room() {
    return comparison() == Comparison.BESIDE ? getWidth() / 2 : getWidth();
  }

  private void drawOver(GraphicsContext g) {
    if (!session.isOpen()) {
      return;
    }
    DrawContext c = context();
    if (session.view().trackersShown().get() && hasCamera(c)) {
      selection.draw(g, c);
    }
    layers.draw(Layer.Depth.OVER, g, c);
  }

  private static boolean hasCamera(DrawContext c) {
    return c.shot().camera().isPresent() && c.shot().camera().get().frames().contains(c.frame());
  }

  /** Everything that layers and tools work with, as it stands now. */
  public DrawContext context() {
    WorldShot shot = session.shot().get();
    int frame = session.playhead().frame().get();
    Placed at = placed(shot);
    Projector world = world(shot, frame, at);
    return new DrawContext(
        session.view().theme().get().palette(),
        shot,
        frame,
        getWidth(),
        getHeight(),
        at,
        world,
        world == null ? 1 : Math.max(1e-6, world.eye().length() / 4),
        bend(shot, frame),
        plate.image(shot, frame));
  }

  /** Where the original plate is shown, marks go through the lens. */
  private Bend bend(WorldShot shot, int frame) {
    Optional<LensTrack> track = session.lens().get().track();
    double until = plate.originalUntil(shot);
    if (track.isEmpty()) {
      return Bend.NONE;
    }
    Lens lens = track.get().at(frame);
    if (mapper == null || !mapper.lens().equals(lens) || !mapper.picture().equals(shot.picture())) {
      mapper = lens.on(shot.picture());
    }
    return new Bend(mapper, until);
  }

  /** The world as it is shown now, through the camera; null where there is none at that frame. */
  private Projector world(WorldShot shot, int frame, Placed at) {
    Shot solved = session.solved();
    if (solved.camera().isEmpty() || !solved.camera().get().frames().contains(frame)) {
      return null;
    }
    ShotCamera c = solved.camera().get();
    FrameRange now = new FrameRange(frame, frame);
    Pose pose = session.shownLevel().apply(c.poses().at(frame));
    ShotCamera here =
        new ShotCamera(
            c.name(),
            PoseTrack.of(now, f -> pose),
            OpticsTrack.constant(now, c.optics().at(frame)),
            Optional.empty());
    return new Projector(
        new Pinhole(here, shot.picture()).at(frame),
        pose.position(),
        at.left(),
        at.top(),
        at.scale());
  }

  private double scale(WorldShot shot) {
    double fit =
        Math.min(
            (room() - 24) / shot.picture().width(), (getHeight() - 24) / shot.picture().height());
    return Math.max(0.02, fit) * zoom;
  }

  private void drag(double dx, double dy, MouseEvent e) {
    if (!session.isOpen() || !tools.drag(context(), dx, dy, e)) {
      panX += dx;
      panY += dy;
      redraw();
    }
  }

  private void zoomAt(double x, double y, double factor) {
    double next = Math.max(0.2, Math.min(40, zoom * factor));
    double k = next / zoom;
    panX = (panX - (x - room() / 2)) * k + (x - room() / 2);
    panY = (panY - (y - getHeight() / 2)) * k + (y - getHeight() / 2);
    zoom = next;
    redraw();
  }

  /** A place in the second picture is the same place in the first. */
  private double inOwn(double x) {
    return x > room() ? x - room() : x;
  }

  private void click(MouseEvent e) {
    requestFocus();
    if (!session.isOpen()) {
      return;
    }
    DrawContext c = context();
    boolean camera = hasCamera(c);
    Supplier<Optional<String>> tracker =
        () -> camera ? trackerAt(c, inOwn(e.getX()), e.getY()) : Optional.empty();
    if (!tools.click(c, e, tracker) && camera) {
      session.choose(tracker.get().orElse(null), e.isShiftDown());
    }
  }

  /** The nearest tracker that is seen at this frame. */
  private Optional<String> trackerAt(DrawContext c, double x, double y) {
    WorldShot shot = c.shot();
    Pinhole pinhole = new Pinhole(shot.camera().orElseThrow(), shot.picture()).at(c.frame());
    String best = null;
    double nearest = PICK_PX;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        String name = t.names().get(i);
        boolean tracked = shot.observations().firstRow(name) >= 0 || !t.moves();
        if (tracked
            && !shot.observations().isEmpty()
            && shot.observations().row(name, c.frame()) < 0) {
          continue;
        }
        pinhole.project(t, i, px);
        c.bend().to(px);
        double d = Math.hypot(c.at().x(px[0]) - x, c.at().y(px[1]) - y);
        if (d < nearest) {
          nearest = d;
          best = name;
        }
      }
    }
    return Optional.ofNullable(best);
  }
}
