package flarvo.desktop.stop.vet;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.CanvasPane;
import flarvo.desktop.view.TimeAxis;
import flarvo.scene.FrameRange;
import flarvo.vet.Measures;
import flarvo.vet.Reprojection;
import java.util.List;
import java.util.Locale;
import javafx.collections.SetChangeListener;
import javafx.scene.Cursor;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.paint.Color;
import javafx.scene.shape.Rectangle;
import javafx.scene.text.Font;

/**
 * Error a frame (RMS and largest) and live trackers on the ladder's time axis; a curve for each
 * selected tracker; the limit as a line that is dragged; striped bands where too few trackers live.
 */
public final class VetGraph extends CanvasPane {

  static final double FOOT = 26; // height of the strip of live trackers
  private static final double GRIP_PX = 6;
  private static final double MOST_PX = 1e4;
  private static final int MOST_NAMED = 8;
  private static final double NAME_WIDTH = 64;

  private final Session session;
  private final VetWork vet;
  private final CurvesLayer over;
  private final Rectangle head = new Rectangle(2, 10);
  private boolean dragging;

  public VetGraph(Session session, VetWork vet) {
    this.session = session;
    this.vet = vet;
    head.setManaged(false);
    head.setMouseTransparent(true);
    over = new CurvesLayer(session, vet, this);
    getChildren().addAll(over, head);
    setPrefHeight(124);
    setMinHeight(100);
    setAccessibleText("Error in pixels and live trackers for each frame");
    session.errors().addListener((o, a, b) -> redraw());
    vet.measures().addListener((o, a, b) -> redraw());
    vet.fewest().addListener((o, a, b) -> redraw());
    session.view().errorLimitPx().addListener((o, a, b) -> redraw());
    session.view().theme().addListener((o, a, b) -> redraw());
    session.playhead().frame().addListener((o, a, b) -> placeHead());
    vet.repaired().addListener((o, a, b) -> over.redraw());
    session.selection().addListener((SetChangeListener<String>) c -> over.redraw());
    setOnMouseMoved(e -> setCursor(onLimit(e) ? Cursor.V_RESIZE : Cursor.DEFAULT));
    setOnMousePressed(
        e -> {
          dragging = onLimit(e);
          moved(e);
        });
    setOnMouseDragged(this::moved);
    setOnMouseReleased(e -> dragging = false);
  }

  private boolean onLimit(MouseEvent e) {
    Reprojection r = session.errors().get();
    return r != null
        && Math.abs(e.getY() - yOf(session.view().errorLimitPx().get(), top(r), getHeight()))
            < GRIP_PX;
  }

  private void moved(MouseEvent e) {
    Reprojection r = session.errors().get();
    if (r == null) {
      return;
    }
    if (dragging) {
      double room = getHeight() - FOOT - 16;
      double u = (getHeight() - FOOT - e.getY()) / room;
      double px = Math.max(0.05, Math.min(20, u * u * top(r)));
      session.view().errorLimitPx().set(Math.round(px * 100) / 100.0);
    } else {
      session.playhead().goTo(TimeAxis.frameAt(e.getX(), session.playhead().range(), getWidth()));
    }
  }

  /** Largest error on the scale: strays must not flatten what is worth seeing. */
  double top(Reprojection r) {
    return Math.max(2.5 * session.view().errorLimitPx().get(), Math.min(MOST_PX, 1.15 * r.maxPx()));
  }

  /** Square root scale: tenths and tens of pixels side by side. */
  static double yOf(double px, double top, double h) {
    return h - FOOT - Math.sqrt(Math.min(1, Math.max(0, px / top))) * (h - FOOT - 16);
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    Palette p = session.view().theme().get().palette();
    g.setFill(p.panel());
    g.fillRect(0, 0, w, h);
    Reprojection r = session.errors().get();
    g.setFont(Font.font(Theme.WORDS, 12));
    if (r == null) {
      g.setFill(p.quiet());
      g.fillText("Error and live trackers appear here once there are 2D tracks.", 12, 24);
      return;
    }
    double top = top(r);
    live(g, p, r, w, h);
    scale(g, p, top, w, h);
    curve(g, p.quiet(), 1, r, w, h, top, true);
    curve(g, p.accent(), 1.8, r, w, h, top, false);
    limit(g, p, top, w, h);
    outliers(g, p, r, top, w, h);
    names(g, p);
    head.setFill(p.accent());
    placeHead();
    over.redraw(); // its scale is this one's
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    over.resizeRelocate(0, 0, getWidth(), getHeight());
  }

  /** The playhead lies over the drawing, so that playing does not draw it all again. */
  private void placeHead() {
    Reprojection r = session.errors().get();
    head.setVisible(r != null);
    if (r != null) {
      int frame = r.frames().clamp(session.playhead().frame().get());
      head.setX(Math.floor(TimeAxis.xOf(frame, r.frames(), getWidth())) - 0.5);
      head.setHeight(getHeight());
    }
  }

  private void names(GraphicsContext g, Palette p) {
    g.setFont(Font.font(Theme.WORDS, 12));
    g.setFill(p.quiet());
    g.fillText("error per frame", 12, 18);
    g.setFill(p.accent());
    g.fillText("— RMS", 12, 36);
    g.setFill(p.quiet());
    g.fillText("— largest", 12, 54);
    g.fillText("live trackers", 12, getHeight() - 10);
  }

  /** A skyline at the foot; a striped band where fewer live than should. */
  private void live(GraphicsContext g, Palette p, Reprojection r, double w, double h) {
    FrameRange f = r.frames();
    int most = 1;
    for (int i = f.first(); i <= f.last(); i++) {
      most = Math.max(most, r.live(i));
    }
    int fewest = vet.fewest().get();
    double step = (TimeAxis.span(w)) / f.count();
    double[] x = new double[2 * f.count() + 2];
    double[] y = new double[x.length];
    x[0] = TimeAxis.xOf(f.first(), f, w) - step / 2;
    y[0] = h - 2;
    int k = 1;
    for (int i = f.first(); i <= f.last(); i++) {
      double left = TimeAxis.xOf(i, f, w) - step / 2;
      double top = h - 2 - (FOOT - 6) * r.live(i) / most;
      x[k] = left;
      y[k++] = top;
      x[k] = left + step;
      y[k++] = top;
      if (r.live(i) < fewest) {
        thin(g, p, i, left, step, h);
      }
    }
    x[k] = x[k - 1];
    y[k] = h - 2;
    g.setFill(p.lines().interpolate(p.quiet(), 0.35));
    g.fillPolygon(x, y, x.length);
    g.setFill(p.quiet());
    g.setFont(Font.font(Theme.NUMBERS, 10));
    g.fillText(Integer.toString(most), TimeAxis.LEFT - 22, h - 6);
  }

  private static void thin(
      GraphicsContext g, Palette p, int frame, double x, double step, double h) {
    g.setFill(p.attention().deriveColor(0, 1, 1, 0.16));
    g.fillRect(x, 0, step, h - FOOT);
    g.setFill(p.attention().deriveColor(0, 1, 1, 0.45));
    for (double y = 4 + 3 * (frame % 3); y < h - FOOT; y += 9) {
      g.fillRect(x, y, step, 1);
    }
  }

  private void scale(GraphicsContext g, Palette p, double top, double w, double h) {
    g.setFont(Font.font(Theme.NUMBERS, 10));
    double last = Double.POSITIVE_INFINITY;
    for (double px : new double[] {0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 1000}) {
      double y = Math.floor(yOf(px, top, h));
      if (px > top || last - y < 15) {
        continue;
      }
      last = y;
      g.setFill(p.lines());
      g.fillRect(TimeAxis.LEFT, y, TimeAxis.span(w), 1);
      g.setFill(p.quiet());
      g.fillText(
          String.format(Locale.ROOT, px < 1 ? "%.2f px" : "%.0f px", px),
          TimeAxis.LEFT - 50,
          y + 3);
    }
  }

  private static void curve(
      GraphicsContext g,
      Color colour,
      double width,
      Reprojection r,
      double w,
      double h,
      double top,
      boolean largest) {
    g.setStroke(colour);
    g.setLineWidth(width);
    g.beginPath();
    boolean pen = false;
    for (int f = r.frames().first(); f <= r.frames().last(); f++) {
      double v = largest ? r.frameMaxPx(f) : r.frameRmsPx(f);
      if (Double.isNaN(v)) {
        pen = false;
        continue;
      }
      double x = TimeAxis.xOf(f, r.frames(), w);
      if (pen) {
        g.lineTo(x, yOf(v, top, h));
      } else {
        g.moveTo(x, yOf(v, top, h));
        pen = true;
      }
    }
    g.stroke();
  }

  private void limit(GraphicsContext g, Palette p, double top, double w, double h) {
    double px = session.view().errorLimitPx().get();
    double y = Math.floor(yOf(px, top, h)) + 0.5;
    g.setStroke(p.conflict());
    g.setLineWidth(1);
    g.setLineDashes(5, 4);
    g.strokeLine(TimeAxis.LEFT, y, w - TimeAxis.RIGHT, y);
    g.setLineDashes();
    g.setFill(p.conflict());
    g.setFont(Font.font(Theme.NUMBERS, 10));
    g.fillText(String.format(Locale.ROOT, "limit %.2f px", px), TimeAxis.LEFT + 8, y - 4);
  }

  /** Frames that stand out are named: by their error, and those that the path jumps at. */
  private void outliers(
      GraphicsContext g, Palette p, Reprojection r, double top, double w, double h) {
    g.setFont(Font.font(Theme.NUMBERS, 10));
    named(g, p.conflict(), r.outliers(), "", r, top, w, h);
    Measures m = vet.measures().get();
    if (m != null) {
      named(g, p.attention(), m.jumps().outliers(), "jump ", r, top, w, h);
    }
  }

  private static void named(
      GraphicsContext g,
      Color colour,
      List<Integer> frames,
      String word,
      Reprojection r,
      double top,
      double w,
      double h) {
    g.setFill(colour);
    int n = 0;
    double last = Double.NEGATIVE_INFINITY;
    for (int f : frames) {
      double x = TimeAxis.xOf(f, r.frames(), w);
      if (n == MOST_NAMED || x - last < NAME_WIDTH) {
        continue; // names must not lie on each other
      }
      n++;
      last = x;
      double y = yOf(Double.isNaN(r.frameRmsPx(f)) ? 0 : r.frameRmsPx(f), top, h);
      g.fillPolygon(new double[] {x - 4, x + 4, x}, new double[] {y - 12, y - 12, y - 5}, 3);
      g.fillText(word + f, x + 6, Math.max(12, y - 6));
    }
  }
}
