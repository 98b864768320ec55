package flarvo.trace;

import flarvo.lens.LensMapper;
import flarvo.scene.Luma;

/**
 * Brightness of an original plate as a pinhole would have seen it, in a picture of the same size.
 */
final class StraightLuma {

  private StraightLuma() {}

  /** What lies beside the plate is as its nearest pixel. */
  static Luma of(Luma l, LensMapper lens) {
    float[] out = new float[l.width() * l.height()];
    double[] p = new double[2];
    for (int y = 0, i = 0; y < l.height(); y++) {
      for (int x = 0; x < l.width(); x++, i++) {
        out[i] = lens.toOriginal(x + 0.5, y + 0.5, p) ? at(l, p[0] - 0.5, p[1] - 0.5) : 0;
      }
    }
    return new Luma(l.width(), l.height(), out);
  }

  private static float at(Luma l, double x, double y) {
    double px = Math.max(0, Math.min(l.width() - 1.001, x));
    double py = Math.max(0, Math.min(l.height() - 1.001, y));
    int xi = (int) px;
    int yi = (int) py;
    float fx = (float) (px - xi);
    float fy = (float) (py - yi);
    int i = yi * l.width() + xi;
    float[] d = l.luma();
    float top = d[i] + fx * (d[i + 1] - d[i]);
    float low = d[i + l.width()] + fx * (d[i + l.width() + 1] - d[i + l.width()]);
    return top + fy * (low - top);
  }
}
