package flarvo.desktop.picture;

import flarvo.desktop.session.SendState;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.vet.LatePoint;
import flarvo.vet.Reprojection;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
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
  private double zoom = 1;
  private double panX;
  private double panY;

  public PictureView(Session session) {
    this.session = session;
    lasso = new Lasso(session, this::redraw);
    setAccessibleText("Picture: the shot through its camera, over the plate");
    getStyleClass().add("picture");
    session.shot().addListener((o, a, b) -> redraw());
    session.playhead().frame().addListener((o, a, b) -> redraw());
    session.view().whiskers().addListener((o, a, b) -> redraw());
    session.view().errorLimitPx().addListener((o, a, b) -> redraw());
    session.view().trackersShown().addListener((o, a, b) -> redraw());
    session.view().platesShown().addListener((o, a, b) -> redraw());
    session.view().plateRole().addListener((o, a, b) -> redraw());
    session.view().theme().addListener((o, a, b) -> redraw());
    session.stop().addListener((o, a, b) -> redraw());
    session.chosen().addListener((o, a, b) -> redraw());
    session.selection().addListener((SetChangeListener<String>) c -> redraw());
    session.sending().states().addListener((MapChangeListener<Object, Object>) c -> redraw());
    session.view().trails().addListener((o, a, b) -> redraw());
    session.view().errorRings().addListener((o, a, b) -> redraw());
    session.vet().marking().addListener((o, a, b) -> redraw());
    DragOrClick.install(this, this::drag, this::pick, e -> lasso.end());
    setOnMouseMoved(
        e -> {
          loupe.at(e.getX(), e.getY());
          if (session.vet().marking().get()) {
            redraw();
          }
        });
    setOnScroll(e -> zoomAt(e.getX(), e.getY(), Math.pow(1.0015, e.getDeltaY())));
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
    double s = scale(shot);
    double left = w / 2 + panX - shot.picture().width() * s / 2;
    double top = h / 2 + panY - shot.picture().height() * s / 2;
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
    if (session.stop().get() == Stop.VET) {
      lasso.draw(g, p, left, top, s);
      late(g, p, frame, left, top, s);
      if (session.vet().marking().get()) {
        loupe.draw(g, p, shownPlate(shot, frame), left, top, s, w);
      }
    }
  }

  /** Marks of late points at this frame: those that a hand set and, smaller, those found. */
  private void late(GraphicsContext g, Palette p, int frame, double left, double top, double s) {
    for (LatePoint point : session.vet().vetting().late()) {
      for (LatePoint.Mark m : point.marks()) {
        if (m.frame() == frame) {
          TrackerMark.late(g, p, left + m.x() * s, top + m.y() * s, m.found());
          label(g, p, point.name(), left + m.x() * s + 12, top + m.y() * s + 16);
        }
      }
    }
  }

  /** Null while the plate is not here. */
  private Image shownPlate(Shot shot, int frame) {
    PlateRole role = session.view().plateRole().get();
    Optional<PlateSequence> plates = shot.plate(role).or(() -> shot.plates().stream().findFirst());
    return plates
        .filter(x -> x.frames().contains(frame))
        .map(x -> cache.get(x, frame))
        .orElse(null);
  }

  /** Alt draws round trackers; without it the picture is moved. */
  private void drag(double dx, double dy, MouseEvent e) {
    Shot shot = session.shot().get();
    if (shot != null && session.stop().get() == Stop.VET && (e.isAltDown() || lasso.isDrawing())) {
      double s = scale(shot);
      lasso.to(
          (e.getX() - (getWidth() / 2 + panX - shot.picture().width() * s / 2)) / s,
          (e.getY() - (getHeight() / 2 + panY - shot.picture().height() * s / 2)) / s,
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
    ShownTrackers list = shown.of(shot, errors);
    double stretch = session.view().whiskers().get();
    double limit = session.view().errorLimitPx().get();
    boolean vetting = session.stop().get() == Stop.VET;
    int trails = vetting ? session.view().trails().get() : 0;
    boolean rings = vetting && session.view().errorRings().get();
    Set<String> uncounted = session.vet().uncounted();
    Set<String> selection = session.selection();
    g.setFont(Font.font(Theme.NUMBERS, 11));
    marks.begin(p, list.live(frame));
    for (int i = 0; i < list.size(); i++) {
      int row = list.row(i, frame);
      boolean selected = !selection.isEmpty() && selection.contains(list.name(i));
      if (row < 0 && !seen.isEmpty() && !selected) {
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
        marks.observed(left + seen.x(row) * s, top + seen.y(row) * s, x, y, stretch, state);
      }
      if (trails > 0 && row >= 0) {
        trail(g, p, seen, list.name(i), frame, trails, left, top, s);
      }
      marks.ring(x, y, state);
      if (selected) {
        TrackerMark.selected(g, x, y);
        label(g, p, list.name(i), x + 12, y - 8);
      }
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

  private static void label(GraphicsContext g, Palette p, String text, double x, double y) {
    g.setFill(p.panel().deriveColor(0, 1, 1, 0.8));
    g.fillRect(x - 3, y - 11, text.length() * 7 + 6, 14);
    g.setFill(p.ink());
    g.fillText(text, x, y);
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
    double s = scale(shot);
    double left = getWidth() / 2 + panX - shot.picture().width() * s / 2;
    double top = getHeight() / 2 + panY - shot.picture().height() * s / 2;
    if (session.stop().get() == Stop.VET && session.vet().marking().get()) {
      session.vet().mark((e.getX() - left) / s, (e.getY() - top) / s);
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
    session.choose(best, e.isShiftDown());
  }
}
