package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.desktop.theme.Palette;
import flarvo.desktop.theme.Theme;
import flarvo.desktop.view.CanvasPane;
import flarvo.desktop.view.TimeAxis;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.DeliveryFrames;
import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.IntFunction;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;

/** Frame rulers under one playhead, one rung for each numbering. */
public final class LadderView extends CanvasPane {

  private static final double RUNG = 19;
  private static final int MOST_DELIVERIES = 6;

  private record Rung(String name, IntFunction<String> number, boolean strong) {}

  private final Session session;

  public LadderView(Session session) {
    this.session = session;
    setAccessibleText("Ladder: frame numbers of plate, source, clock and deliveries");
    session.state().addListener((o, a, b) -> fitHeight());
    session.playhead().frame().addListener((o, a, b) -> redraw());
    session.playhead().inOut().addListener((o, a, b) -> redraw());
    session.view().theme().addListener((o, a, b) -> redraw());
    session.chosen().addListener((o, a, b) -> redraw());
    setOnMousePressed(this::scrub);
    setOnMouseDragged(this::scrub);
    fitHeight();
  }

  private void fitHeight() {
    int rungs = Math.max(3, rungs().size());
    setPrefHeight(rungs * RUNG + 8);
    setMinHeight(rungs * RUNG + 8);
    redraw();
  }

  private void scrub(MouseEvent e) {
    if (!session.isOpen()) {
      return;
    }
    session.playhead().goTo(TimeAxis.frameAt(e.getX(), session.playhead().range(), getWidth()));
  }

  private List<Rung> rungs() {
    List<Rung> list = new ArrayList<>();
    if (!session.isOpen()) {
      return list;
    }
    Shot shot = session.state().get().shot();
    list.add(new Rung("plate", Integer::toString, true));
    int offset = shot.sourceFirstFrame() - shot.frames().first();
    list.add(new Rung("source", f -> Integer.toString(f + offset), false));
    list.add(new Rung("clock", f -> clock(f - shot.frames().first(), shot.rate()), false));
    List<Delivery> deliveries = session.state().get().deliveries();
    for (Delivery d : deliveries.subList(0, Math.min(MOST_DELIVERIES, deliveries.size()))) {
      IntFunction<Optional<Fraction>> map = DeliveryFrames.of(d, shot.frames(), shot.rate());
      list.add(
          new Rung("→ " + d.name(), f -> map.apply(f).map(LadderView::number).orElse(""), false));
    }
    if (deliveries.size() > MOST_DELIVERIES) {
      int more = deliveries.size() - MOST_DELIVERIES;
      list.add(new Rung("+ " + more + " in Dispatch", f -> "", false));
    }
    return list;
  }

  private static String number(Fraction f) {
    return f.isWhole() ? Long.toString(f.num()) : String.format(Locale.ROOT, "%.2f", f.toDouble());
  }

  private static String clock(int frames, Rate rate) {
    return String.format(Locale.ROOT, "%.3f s", rate.seconds(frames).toDouble());
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    Palette p = session.view().theme().get().palette();
    g.setFill(p.panel());
    g.fillRect(0, 0, w, h);
    List<Rung> rungs = rungs();
    if (rungs.isEmpty()) {
      g.setFill(p.quiet());
      g.setFont(Font.font(Theme.WORDS, 12));
      g.fillText("The ladder shows every frame numbering of the open shot", 12, 22);
      return;
    }
    FrameRange r = session.playhead().range();
    double span = TimeAxis.span(w);
    FrameRange loop = session.playhead().inOut().get();
    double perFrame = span / r.count();
    if (loop != null && !loop.equals(r)) {
      g.setFill(p.raised());
      g.fillRect(
          TimeAxis.xOf(loop.first(), r, w) - perFrame / 2, 2, loop.count() * perFrame, h - 4);
    }
    int step = step(perFrame);
    for (int k = 0; k < rungs.size(); k++) {
      rung(g, p, rungs.get(k), k, r, w, perFrame, step);
    }
    playhead(g, p, rungs, r, w, h);
  }

  private void rung(
      GraphicsContext g,
      Palette p,
      Rung rung,
      int k,
      FrameRange r,
      double w,
      double perFrame,
      int step) {
    double y = 4 + k * RUNG;
    double base = y + RUNG - 3.5;
    // Upright lines as filled boxes: stroking hundreds of them costs more than a plate.
    g.setFill(p.lines());
    g.fillRect(TimeAxis.LEFT, Math.floor(base), w - TimeAxis.RIGHT - TimeAxis.LEFT, 1);
    if (perFrame >= 3) {
      for (int f = r.first(); f <= r.last(); f++) {
        g.fillRect(Math.floor(TimeAxis.xOf(f, r, w)), base - 2.5, 1, 3);
      }
    }
    g.setFill(rung.strong ? p.ink() : p.quiet());
    g.setFont(Font.font(Theme.WORDS, 12));
    g.fillText(shorten(rung.name), 12, base - 3, TimeAxis.LEFT - 24);
    g.setFont(Font.font(Theme.NUMBERS, 10.5));
    g.setFill(rung.strong ? p.ink() : p.quiet());
    int now = session.playhead().frame().get();
    // Labels stand on the same plate frames on every rung, so an offset reads as an offset.
    for (int f = r.first(); f <= r.last(); f += step) {
      double x = Math.floor(TimeAxis.xOf(f, r, w)) + 0.5;
      g.fillRect(Math.floor(x), base - 6, 1, 6);
      if (Math.abs(x - TimeAxis.xOf(now, r, w)) > 64) {
        g.fillText(rung.number.apply(f), x + 3, base - 3); // not under the playhead's own number
      }
    }
  }

  private static String shorten(String s) {
    return s.length() > 20 ? s.substring(0, 19) + "…" : s;
  }

  private void playhead(
      GraphicsContext g, Palette p, List<Rung> rungs, FrameRange r, double w, double h) {
    int now = session.playhead().frame().get();
    double x = Math.floor(TimeAxis.xOf(now, r, w)) + 0.5;
    g.setFill(p.accent());
    g.fillRect(x - 1, 0, 2, h);
    g.setFont(Font.font(Theme.NUMBERS, FontWeight.BOLD, 11));
    for (int k = 0; k < rungs.size(); k++) {
      String text = rungs.get(k).number.apply(now);
      if (text.isEmpty()) {
        continue;
      }
      double wide = text.length() * 7.2 + 8;
      double left = x + wide > w - TimeAxis.RIGHT ? x - wide : x;
      g.setFill(p.raised());
      g.fillRect(left, 5 + k * RUNG, wide, RUNG - 5);
      g.setFill(p.accent());
      g.fillText(text, left + 4, 4 + k * RUNG + RUNG - 6.5);
    }
  }

  /** A round number of frames that leaves room for a label. */
  private static int step(double perFrame) {
    for (int s : new int[] {1, 2, 5, 10, 20, 24, 50, 100, 200, 500, 1000, 2000, 5000}) {
      if (s * perFrame >= 74) {
        return s;
      }
    }
    return 10_000;
  }
}
