package flarvo.desktop.stop.proof;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.CanvasPane;
import flarvo.desktop.view.TimeAxis;
import flarvo.proof.DriftReport;
import flarvo.scene.FrameRange;
import java.util.Locale;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.text.Font;

/** Drift a frame, maximum and RMS, on a scale of powers of ten, on the ladder's time axis. */
public final class DriftGraph extends CanvasPane {

  private static final double LOWEST = 1e-8;

  private final Session session;
  private final ProofWork work;

  DriftGraph(Session session, ProofWork work) {
    this.session = session;
    this.work = work;
    setPrefHeight(124);
    setMinHeight(90);
    setAccessibleText("Drift in pixels for each frame");
    work.now().addListener((o, a, b) -> redraw());
    session.chosen().addListener((o, a, b) -> redraw());
    session.view().proofLimitPx().addListener((o, a, b) -> redraw());
    session.playhead().frame().addListener((o, a, b) -> redraw());
    session.view().theme().addListener((o, a, b) -> redraw());
    setOnMousePressed(this::scrub);
    setOnMouseDragged(this::scrub);
  }

  private void scrub(MouseEvent e) {
    if (session.isOpen()) {
      session.playhead().goTo(TimeAxis.frameAt(e.getX(), session.playhead().range(), getWidth()));
    }
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    Palette p = session.view().theme().get().palette();
    g.setFill(p.panel());
    g.fillRect(0, 0, w, h);
    DriftReport d = work.now().get() == null ? null : work.now().get().drift().orElse(null);
    g.setFont(Font.font(Theme.WORDS, 12));
    if (d == null || d.compared() == 0) {
      g.setFill(p.quiet());
      g.fillText(words(), 12, 24);
      return;
    }
    double limit = session.view().proofLimitPx().get();
    double top = Math.max(limit * 10, finite(d.maxPx()) * 2);
    double low = Math.max(LOWEST, smallest(d) / 10);
    scale(g, p, low, top, limit, w, h);
    FrameRange r = d.frames();
    g.setLineWidth(1.4);
    curve(g, d, false, low, top, w, h, p);
    curve(g, d, true, low, top, w, h, p);
    g.setFill(p.quiet());
    g.setFont(Font.font(Theme.WORDS, 12));
    g.fillText("drift", 12, 18);
    g.setFill(p.ink());
    g.fillText("max", 12, 38);
    g.setFill(p.accent());
    g.fillText("rms", 12, 56);
    double x = Math.floor(TimeAxis.xOf(session.playhead().frame().get(), r, w)) + 0.5;
    g.setFill(p.accent());
    g.fillRect(x - 1, 0, 2, h);
  }

  private String words() {
    if (work.now().get() != null) {
      return "It has no camera or no tracker in common with the shot, so there is no drift.";
    }
    return switch (work.against().get()) {
      case CHECKED -> "No file was checked yet. Drop one on the desk.";
      case MENDED -> "No cause was found in a checked file yet.";
      case PLAIN_IMPORT, DELIVERY ->
          session.chosen().get() == null
              ? "Choose a delivery to see its drift."
              : "Not sent yet. Send it in Dispatch, and its drift is measured from the file.";
    };
  }

  private static double finite(double v) {
    return Double.isFinite(v) ? v : 1e4;
  }

  private static double smallest(DriftReport d) {
    double s = Double.MAX_VALUE;
    for (int f = d.frames().first(); f <= d.frames().last(); f++) {
      double v = d.rmsPx(f);
      if (v > 0) {
        s = Math.min(s, v);
      }
    }
    return s == Double.MAX_VALUE ? LOWEST : s;
  }

  private static double yOf(double v, double low, double top, double h) {
    double u =
        (Math.log10(Math.max(v, low)) - Math.log10(low)) / (Math.log10(top) - Math.log10(low));
    return h - 8 - Math.min(1, u) * (h - 20);
  }

  private void scale(
      GraphicsContext g, Palette p, double low, double top, double limit, double w, double h) {
    g.setFont(Font.font(Theme.NUMBERS, 10));
    g.setLineWidth(1);
    for (int e = (int) Math.ceil(Math.log10(low)); e <= Math.log10(top); e++) {
      double y = Math.floor(yOf(Math.pow(10, e), low, top, h)) + 0.5;
      g.setFill(p.lines());
      g.fillRect(TimeAxis.LEFT, Math.floor(y), w - TimeAxis.RIGHT - TimeAxis.LEFT, 1);
      g.setFill(p.quiet());
      String label =
          e < -3 ? "1e" + e + " px" : String.format(Locale.ROOT, "%.3f px", Math.pow(10, e));
      g.fillText(label, TimeAxis.LEFT - 64, y + 3);
    }
    double y = Math.floor(yOf(limit, low, top, h)) + 0.5;
    g.setStroke(p.conflict());
    g.setLineDashes(5, 4);
    g.strokeLine(TimeAxis.LEFT, y, w - TimeAxis.RIGHT, y);
    g.setLineDashes();
    g.setFill(p.conflict());
    g.fillText(String.format(Locale.ROOT, "limit %.3f px", limit), TimeAxis.LEFT + 8, y - 4);
  }

  private static void curve(
      GraphicsContext g,
      DriftReport d,
      boolean max,
      double low,
      double top,
      double w,
      double h,
      Palette p) {
    g.setStroke(max ? p.ink() : p.accent());
    g.beginPath();
    boolean pen = false;
    for (int f = d.frames().first(); f <= d.frames().last(); f++) {
      double v = max ? d.maxPx(f) : d.rmsPx(f);
      if (Double.isNaN(v)) {
        pen = false;
        continue;
      }
      double x = TimeAxis.xOf(f, d.frames(), w);
      double y = yOf(finite(v), low, top, h);
      if (pen) {
        g.lineTo(x, y);
      } else {
        g.moveTo(x, y);
        pen = true;
      }
    }
    g.stroke();
  }
}
