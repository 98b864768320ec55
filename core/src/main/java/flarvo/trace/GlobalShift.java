package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * How far a whole picture moved between two frames: normalised correlation of the smallest ones.
 */
final class GlobalShift {

  /** Share of a side by which a picture may move in a frame. */
  private static final double FARTHEST = 0.55;

  /**
   * What moved the picture.
   *
   * @param dx pixels of the whole picture
   * @param correlation of what both frames show then, −1 to 1
   */
  record Shift(double dx, double dy, double correlation) {}

  private GlobalShift() {}

  static Shift between(Levels from, Levels to) {
    int top = from.count() - 1;
    GrayF32 a = from.at().get(top);
    GrayF32 b = to.at().get(top);
    int mx = (int) (FARTHEST * a.width);
    int my = (int) (FARTHEST * a.height);
    Shift best = new Shift(0, 0, -1);
    for (int sy = -my; sy <= my; sy++) {
      for (int sx = -mx; sx <= mx; sx++) {
        double c = correlation(a, b, sx, sy);
        if (c > best.correlation()) {
          best = new Shift(sx, sy, c);
        }
      }
    }
    double k = 1 << top;
    return new Shift(best.dx() * k, best.dy() * k, best.correlation());
  }

  private static double correlation(GrayF32 a, GrayF32 b, int sx, int sy) {
    int x0 = Math.max(0, -sx);
    int x1 = Math.min(a.width, a.width - sx);
    int y0 = Math.max(0, -sy);
    int y1 = Math.min(a.height, a.height - sy);
    double sa = 0;
    double sb = 0;
    double aa = 0;
    double bb = 0;
    double ab = 0;
    int n = (x1 - x0) * (y1 - y0);
    for (int y = y0; y < y1; y++) {
      int i = a.startIndex + y * a.stride;
      int j = b.startIndex + (y + sy) * b.stride + sx;
      for (int x = x0; x < x1; x++) {
        double p = a.data[i + x];
        double q = b.data[j + x];
        sa += p;
        sb += q;
        aa += p * p;
        bb += q * q;
        ab += p * q;
      }
    }
    double spread = (aa - sa * sa / n) * (bb - sb * sb / n);
    return spread > 0 ? (ab - sa * sb / n) / Math.sqrt(spread) : -1;
  }

  /**
   * Whether two pictures of one size differ by less on average.
   *
   * @param least mean difference of brightness, of 255
   */
  static boolean isRepeated(Levels a, Levels b, double least) {
    GrayF32 p = a.whole();
    GrayF32 q = b.whole();
    double enough = least * p.width * p.height;
    double sum = 0;
    for (int y = 0; y < p.height && sum < enough; y++) {
      int i = p.startIndex + y * p.stride;
      int j = q.startIndex + y * q.stride;
      for (int x = 0; x < p.width; x++) {
        sum += Math.abs(p.data[i + x] - q.data[j + x]);
      }
    }
    return sum < enough;
  }
}
