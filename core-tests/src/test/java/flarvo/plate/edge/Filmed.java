package flarvo.plate.edge;

import flarvo.lens.LensMapper;
import flarvo.scene.Luma;
import java.util.Random;
import java.util.function.DoubleBinaryOperator;

/** A picture of a flat world, seen through a lens and averaged over each pixel, with noise. */
final class Filmed {

  private Filmed() {}

  /**
   * @param world brightness at a place of the undistorted picture
   * @param fine samples of a pixel, across and down
   */
  static Luma of(LensMapper lens, DoubleBinaryOperator world, int fine, long seed, double noise) {
    int w = lens.picture().width();
    int h = lens.picture().height();
    Random r = new Random(seed);
    float[] luma = new float[w * h];
    double[] p = new double[2];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        double sum = 0;
        for (int i = 0; i < fine * fine; i++) {
          lens.toUndistorted(
              x + (i % fine + 0.5) / fine, y + (Math.floorDiv(i, fine) + 0.5) / fine, p);
          sum += world.applyAsDouble(p[0], p[1]);
        }
        luma[y * w + x] = (float) (sum / (fine * fine) + noise * r.nextGaussian());
      }
    }
    return new Luma(w, h, luma);
  }
}
