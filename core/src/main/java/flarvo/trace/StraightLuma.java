package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.lens.LensMapper;
import flarvo.scene.Luma;

/**
 * Brightness of an original plate as a pinhole would have seen it, in a picture of the same size.
 */
final class StraightLuma {

  private StraightLuma() {}

  /** What lies beside the plate is as its nearest pixel. */
  static Luma of(Luma l, LensMapper lens) {
    GrayF32 from = Levels.image(l);
    float[] out = new float[l.width() * l.height()];
    double[] p = new double[2];
    for (int y = 0, i = 0; y < l.height(); y++) {
      for (int x = 0; x < l.width(); x++, i++) {
        out[i] = lens.toOriginal(x + 0.5, y + 0.5, p) ? at(from, p[0] - 0.5, p[1] - 0.5) : 0;
      }
    }
    return new Luma(l.width(), l.height(), out);
  }

  private static float at(GrayF32 g, double x, double y) {
    return (float)
        Bilinear.at(
            g,
            Math.max(0, Math.min(g.width - 1.001, x)),
            Math.max(0, Math.min(g.height - 1.001, y)));
  }
}
