package flarvo.note;

import flarvo.proof.DriftReport;
import flarvo.scene.FrameRange;
import java.util.Locale;

/** Drift a frame as a figure of a page, on a scale of powers of ten. */
final class DriftFigure {

  private static final int WIDTH = 900;
  private static final int HEIGHT = 200;
  private static final int LEFT = 70;
  private static final int BOTTOM = 24;
  private static final double LEAST = 1e-8;

  private final DriftReport drift;
  private final double limit;
  private final int low;
  private final int high;

  DriftFigure(DriftReport drift, double limit) {
    this.drift = drift;
    this.limit = limit;
    double least = limit;
    double most = limit;
    for (int f = drift.frames().first(); f <= drift.frames().last(); f++) {
      double v = drift.maxPx(f);
      if (Double.isFinite(v)) {
        least = Math.min(least, Math.max(LEAST, v));
        most = Math.max(most, v);
      }
    }
    low = (int) Math.floor(Math.log10(least));
    high = (int) Math.ceil(Math.log10(most * 1.0001));
  }

  void addTo(StringBuilder out) {
    out.append("<svg class=\"drift\" viewBox=\"0 0 ").append(WIDTH).append(' ').append(HEIGHT);
    out.append("\" width=\"100%\" role=\"img\" aria-label=\"Largest drift of every frame\">");
    for (int e = low; e <= high; e++) {
      double y = y(Math.pow(10, e));
      line(out, y, "#d8d6ce", "");
      out.append(
          String.format(
              Locale.ROOT,
              "<text x=\"0\" y=\"%.1f\" font-size=\"11\" fill=\"#6b6a65\">%s px</text>",
              y + 4,
              e < -4 ? "1e" + e : plain(Math.pow(10, e))));
    }
    line(out, y(limit), "#a3200d", " stroke-dasharray=\"6 4\"");
    curve(out);
    FrameRange r = drift.frames();
    text(out, LEFT, "start", r.first());
    text(out, WIDTH, "end", r.last());
    out.append("</svg>\n");
  }

  private static String plain(double v) {
    return String.format(Locale.ROOT, "%.4f", v).replaceAll("0+$", "").replaceAll("\\.$", "");
  }

  private static void line(StringBuilder out, double y, String colour, String more) {
    out.append(
        String.format(
            Locale.ROOT,
            "<path d=\"M%d %.1fH%d\" stroke=\"%s\"%s/>",
            LEFT,
            y,
            WIDTH,
            colour,
            more));
  }

  private static void text(StringBuilder out, int x, String anchor, int frame) {
    out.append(
        String.format(
            Locale.ROOT,
            "<text x=\"%d\" y=\"%d\" font-size=\"11\" fill=\"#6b6a65\" text-anchor=\"%s\">%d</text>",
            x,
            HEIGHT - 4,
            anchor,
            frame));
  }

  private void curve(StringBuilder out) {
    out.append("<path fill=\"none\" stroke=\"#1d1d1b\" stroke-width=\"1.5\" d=\"");
    boolean pen = false;
    FrameRange r = drift.frames();
    for (int f = r.first(); f <= r.last(); f++) {
      double v = drift.maxPx(f);
      if (Double.isNaN(v)) {
        pen = false;
        continue;
      }
      double x = LEFT + (WIDTH - LEFT) * (f - r.first()) / Math.max(1.0, r.count() - 1.0);
      out.append(
          String.format(
              Locale.ROOT,
              "%s%.1f %.1f",
              pen ? "L" : "M",
              x,
              y(Double.isInfinite(v) ? Math.pow(10, high) : v)));
      pen = true;
    }
    out.append("\"/>");
  }

  private double y(double px) {
    double u = (Math.log10(Math.max(px, Math.pow(10, low))) - low) / Math.max(1, high - low);
    return HEIGHT - BOTTOM - u * (HEIGHT - BOTTOM - 10);
  }
}
