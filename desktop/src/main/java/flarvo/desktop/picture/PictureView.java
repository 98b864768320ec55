package flarvo.desktop.picture;

import flarvo.desktop.level.HandleDrag;
import flarvo.desktop.level.Handles;
import flarvo.desktop.level.Projector;
import flarvo.desktop.session.SendState;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.vet.Reprojection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.collections.ListChangeListener;
import javafx.collections.MapChangeListener;
import javafx.collections.SetChangeListener;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.Image;
import javafx.scene.input.MouseEvent;
import javafx.scene.text.Font;

/** The shot through its camera, over the plate. */
public final class PictureView extends CanvasPane {

  private static final double PICK_PX = 14;

  private final Session session;
  private final PlateCache cache = new PlateCache(this::redraw);
  private final double[] px = new double[3];
  private final Map<String, double[]> recipientPoints = new HashMap<>();
  private Shot recipientShot;
  private final Lasso lasso;
  private final Loupe loupe = new Loupe();
  private final ShownTrackers shown = new ShownTrackers();
  private final TrackerMarks marks = new TrackerMarks();
  private final Handles handles = new Handles();
  private final HandleDrag grip;
  private final PictureOverlay over;
  private double zoom = 1;
  private double panX;
  private double panY;

  public PictureView(Session session) {
    this.session = session;
    lasso = new Lasso(session, () -> over().redraw());
    over = new PictureOverlay(session, this, lasso, loupe, handles);
    getChildren().add(over);
    setAccessibleText("Picture: the shot through its camera, over the plate");
    getStyleClass().add("picture");
    session.shot().addListener((o, a, b) -> redraw());
    session.playhead().frame().addListener((o, a, b) -> redraw());
    session.view().whiskers().addListener((o, a, b) -> redraw());
    session.view().errorLimitPx().addListener((o, a, b) -> redraw());
    session.view().trackersShown().addListener((o, a, b) -> redraw());
    session.view().platesShown().addListener((o, a, b) -> redraw());
    session.view().hidden().addListener((SetChangeListener<String>) c -> redraw());
    session.view().plateRole().addListener((o, a, b) -> redraw());
    session.view().theme().addListener((o, a, b) -> redraw());
    session.stop().addListener((o, a, b) -> redraw());
    session.chosen().addListener((o, a, b) -> redraw());
    session.selection().addListener((SetChangeListener<String>) c -> over.redraw());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> redraw());
    session.view().trails().addListener((o, a, b) -> redraw());
    session.view().errorRings().addListener((o, a, b) -> redraw());
    session.vet().marking().addListener((o, a, b) -> over.redraw());
    grip = new HandleDrag(session, handles, true);
    session.level().tried().addListener((o, a, b) -> over.redraw());
    session.level().reading().addListener((o, a, b) -> over.redraw());
    session.build().chosen().addListener((o, a, b) -> over.redraw());
    session.build().sketch().addListener((ListChangeListener<Object>) c -> over.redraw());
    session.view().handlesShown().addListener((o, a, b) -> over.redraw());
    DragOrClick.install(
        this,
        this::drag,
        this::pick,
        e -> {
          lasso.end();
          grip.drop();
        });
    setOnMouseMoved(
        e -> {
          loupe.at(e.getX(), e.getY());
          if (session.vet().marking().get()) {
            over.redraw();
          }
        });
    setOnScroll(e -> zoomAt(e.getX(), e.getY(), Math.pow(1.0015, e.getDeltaY())));
  }

  private PictureOverlay over() {
    return over;
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    over.resizeRelocate(0, 0, getWidth(), getHeight());
  }

  /**
   * Where the picture lies in the view.
   *
   * @param scale view's pixels for one of the picture's
   */
  record Placed(double left, double top, double scale) {
    double x(double px) {
      return left + px * scale;
    }

    double y(double py) {
      return top + py * scale;
    }
  }

  Placed placed(Shot shot) {
    double s = scale(shot);
    return new Placed(
        getWidth() / 2 + panX - shot.picture().width() * s / 2,
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
    Shot shot = session.shot().get();
    if (shot == null || session.selection().isEmpty() || shot.camera().isEmpty()) {
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
          p.project(t.x(i), t.y(i), t.z(i), px);
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
    Shot shot = session.shot().get();
    if (shot == null) {
      return;
    }
    Placed at = placed(shot);
    double s = at.scale();
    double left = at.left();
    double top = at.top();
    int frame = session.playhead().frame().get();
    plate(g, p, shot, frame, left, top, s);
    g.setStroke(p.lines());
    g.setLineWidth(1);
    g.strokeRect(
        left - 0.5, top - 0.5, shot.picture().width() * s + 1, shot.picture().height() * s + 1);
    if (session.view().trackersShown().get() && shot.camera().isPresent()) {
      if (shot.camera().get().frames().contains(frame)) {
        trackers(g, p, shot, frame, left, top, s);
      }
    }
    if (session.stop().get() == Stop.PROOF) {
      recipient(g, p, frame, left, top, s);
    }
    over.redraw();
  }

  /** Null while the plate is not here. */
  Image shownPlate(Shot shot, int frame) {
    PlateRole role = session.view().plateRole().get();
    Optional<PlateSequence> plates = shot.plate(role).or(() -> shot.plates().stream().findFirst());
    return plates
        .filter(x -> x.frames().contains(frame))
        .map(x -> cache.get(x, frame))
        .orElse(null);
  }

  /** The knob that is dragged; null for none. */
  Handles.Knob held() {
    return grip.held();
  }

  /** Of the disc with the knobs: as large in the picture whatever the scene's size. */
  public static double discRadius(Projector to) {
    return Math.max(1e-6, to.eye().length() / 4);
  }

  /** The world as it is shown now, through the camera; null where there is none at that frame. */
  public Projector world(int frame) {
    Shot shot = session.shot().get();
    if (shot == null || session.state().get().shot().camera().isEmpty()) {
      return null;
    }
    ShotCamera c = session.state().get().shot().camera().get();
    if (!c.frames().contains(frame)) {
      return null;
    }
    FrameRange now = new FrameRange(frame, frame);
    Pose pose = session.level().shown().apply(c.poses().at(frame));
    ShotCamera here =
        new ShotCamera(
            c.name(),
            PoseTrack.of(now, f -> pose),
            OpticsTrack.constant(now, c.optics().at(frame)),
            Optional.empty());
    Placed at = placed(shot);
    Projector to =
        new Projector(
            new Pinhole(here, shot.picture()).at(frame),
            pose.position(),
            at.left(),
            at.top(),
            at.scale());
    handles.setRadius(discRadius(to));
    return to;
  }

  /** Alt draws round trackers; without it the picture is moved. */
  private void drag(double dx, double dy, MouseEvent e) {
    Shot shot = session.shot().get();
    if (session.stop().get() == Stop.LEVEL
        && grip.drag(world(session.playhead().frame().get()), dx, dy, e)) {
      return;
    }
    if (shot != null && session.stop().get() == Stop.VET && (e.isAltDown() || lasso.isDrawing())) {
      Placed at = placed(shot);
      lasso.to(
          (e.getX() - at.left()) / at.scale(),
          (e.getY() - at.top()) / at.scale(),
          e.isControlDown());
    } else {
      pan(dx, dy);
    }
  }

  private double scale(Shot shot) {
    double fit =
        Math.min(
            (getWidth() - 24) / shot.picture().width(),
            (getHeight() - 24) / shot.picture().height());
    return Math.max(0.02, fit) * zoom;
  }

  private void plate(
      GraphicsContext g, Palette p, Shot shot, int frame, double left, double top, double s) {
    double w = shot.picture().width() * s;
    double h = shot.picture().height() * s;
    g.setFill(p.panel());
    g.fillRect(left, top, w, h);
    if (!session.view().platesShown().get()) {
      return;
    }
    PlateRole role = session.view().plateRole().get();
    Optional<PlateSequence> plates = shot.plate(role).or(() -> shot.plates().stream().findFirst());
    String words = "";
    if (plates.isEmpty()) {
      words = "No plates: drop the folder of an image sequence here";
    } else if (!plates.get().frames().contains(frame) || plates.get().missing().contains(frame)) {
      words = "No plate for frame " + frame;
    } else {
      Image image = cache.get(plates.get(), frame);
      if (image != null) {
        g.setImageSmoothing(zoom < 4);
        g.drawImage(image, left, top, w, h);
      } else if (cache.hasFailed(plates.get(), frame)) {
        words = "The plate of frame " + frame + " cannot be read: ask for it again";
      }
    }
    if (!words.isEmpty()) {
      g.setFill(p.quiet());
      g.setFont(Font.font(Theme.WORDS, 13));
      g.fillText(words, left + 16, top + 28);
    }
  }

  private void trackers(
      GraphicsContext g, Palette p, Shot shot, int frame, double left, double top, double s) {
    Pinhole pinhole = new Pinhole(shot.camera().orElseThrow(), shot.picture()).at(frame);
    Observations seen = shot.observations();
    Reprojection errors = session.errors().get();
    ShownTrackers list =
        shown.of(shot, errors, session.vet().vetting().groups(), session.view().hidden());
    double stretch = session.view().whiskers().get();
    double limit = session.view().errorLimitPx().get();
    boolean vetting = session.stop().get() == Stop.VET;
    int trails = vetting ? session.view().trails().get() : 0;
    boolean rings = vetting && session.view().errorRings().get();
    Set<String> uncounted = session.vet().uncounted();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    marks.begin(p, list.live(frame));
    for (int i = 0; i < list.size(); i++) {
      int row = list.row(i, frame);
      if (row < 0 && !seen.isEmpty()) {
        continue; // not seen at this frame
      }
      pinhole.project(list.x(i), list.y(i), list.z(i), px);
      if (!(px[2] > 0)) {
        continue;
      }
      double x = left + px[0] * s;
      double y = top + px[1] * s;
      TrackerMark.State state = TrackerMark.State.of(list.rmsPx(i), limit);
      if (row >= 0) {
        marks.observed(
            left + seen.x(row) * s, top + seen.y(row) * s, x, y, stretch, state, list.look(i));
      }
      if (trails > 0 && row >= 0) {
        trail(g, p, seen, list.name(i), frame, trails, left, top, s);
      }
      marks.ring(x, y, state);
      if (!uncounted.isEmpty() && uncounted.contains(list.name(i))) {
        TrackerMark.weightless(g, p, x, y);
      }
      if (rings && row >= 0 && errors != null && !Double.isNaN(errors.rowPx(row))) {
        TrackerMark.errorRing(g, p, x, y, errors.rowPx(row) * stretch * s, state);
      }
    }
    marks.draw(g);
  }

  /** Where a tracker was seen some frames before (thin) and after (dotted). */
  private static void trail(
      GraphicsContext g,
      Palette p,
      Observations seen,
      String name,
      int frame,
      int around,
      double left,
      double top,
      double s) {
    g.setStroke(p.quiet());
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
      double nx = left + seen.x(row) * s;
      double ny = top + seen.y(row) * s;
      if (!Double.isNaN(x) && (f <= frame || f % 2 == 0)) {
        g.strokeLine(x, y, nx, ny);
      }
      x = nx;
      y = ny;
    }
  }

  /** The delivered camera and points, as their recipient sees them. */
  @SuppressWarnings("ReferenceEquality")
  private void recipient(
      GraphicsContext g, Palette p, int frame, double left, double top, double s) {
    SendState state =
        session.chosen().get() == null
            ? null
            : session.sending().states().get(session.chosen().get());
    Shot there = state == null ? null : state.seen().orElse(null);
    if (there == null
        || there.camera().isEmpty()
        || !there.camera().get().frames().contains(frame)) {
      return;
    }
    if (there != recipientShot) {
      recipientShot = there;
      recipientPoints.clear();
      for (TrackerSet t : there.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          recipientPoints.put(t.names().get(i), new double[] {t.x(i), t.y(i), t.z(i)});
        }
      }
    }
    Pinhole pinhole = new Pinhole(there.camera().get(), there.picture()).at(frame);
    for (Map.Entry<String, double[]> e : recipientPoints.entrySet()) {
      boolean live =
          there.observations().isEmpty() || there.observations().row(e.getKey(), frame) >= 0;
      double[] v = e.getValue();
      pinhole.project(v[0], v[1], v[2], px);
      if (live && px[2] > 0) {
        TrackerMark.recipient(g, p, left + px[0] * s, top + px[1] * s);
      }
    }
  }

  private void pan(double dx, double dy) {
    panX += dx;
    panY += dy;
    redraw();
  }

  private void zoomAt(double x, double y, double factor) {
    double next = Math.max(0.2, Math.min(40, zoom * factor));
    double k = next / zoom;
    panX = (panX - (x - getWidth() / 2)) * k + (x - getWidth() / 2);
    panY = (panY - (y - getHeight() / 2)) * k + (y - getHeight() / 2);
    zoom = next;
    redraw();
  }

  private void pick(MouseEvent e) {
    requestFocus();
    Shot shot = session.shot().get();
    int frame = session.playhead().frame().get();
    if (shot == null || shot.camera().isEmpty() || !shot.camera().get().frames().contains(frame)) {
      return;
    }
    Placed at = placed(shot);
    double s = at.scale();
    double left = at.left();
    double top = at.top();
    if (session.stop().get() == Stop.VET && session.vet().marking().get()) {
      session.vet().mark((e.getX() - left) / s, (e.getY() - top) / s);
      return;
    }
    Projector to = session.stop().get() == Stop.LEVEL ? world(frame) : null;
    if (to != null && session.build().sketching().get() != null) {
      session.build().sketchAt(to.eye(), to.ray(e.getX(), e.getY()));
      return;
    }
    Pinhole pinhole = new Pinhole(shot.camera().get(), shot.picture()).at(frame);
    String best = null;
    double nearest = PICK_PX;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        String name = t.names().get(i);
        if (!shot.observations().isEmpty() && shot.observations().row(name, frame) < 0) {
          continue;
        }
        pinhole.project(t.x(i), t.y(i), t.z(i), px);
        double d = Math.hypot(left + px[0] * s - e.getX(), top + px[1] * s - e.getY());
        if (d < nearest) {
          nearest = d;
          best = name;
        }
      }
    }
    if (to != null && session.build().dropping().get() != null) {
      drop(best, to, e);
      return;
    }
    session.choose(best, e.isShiftDown());
  }

  /** A gauge on the tracker under the pointer, or on the ground there. */
  private void drop(String tracker, Projector to, MouseEvent e) {
    if (tracker != null) {
      session.build().drop(Optional.of(tracker), session.level().scene().places().get(tracker));
      return;
    }
    session
        .build()
        .under(to.eye(), to.ray(e.getX(), e.getY()), true)
        .ifPresentOrElse(
            v -> session.build().drop(Optional.empty(), v),
            () -> session.message().set("There is no ground under the pointer"));
  }
}
