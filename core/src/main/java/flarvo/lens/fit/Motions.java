package flarvo.lens.fit;

import flarvo.lens.LensMapper;
import flarvo.scene.PictureSize;
import org.ejml.data.DMatrixRMaj;

/**
 * How each unknown moves the picture: where points of the undistorted picture, spread over the
 * original, come to lie in the original.
 */
final class Motions {

  private static final int ACROSS = 17;
  private static final int DOWN = 11;
  private static final double STEP = 1e-6;

  private final int unknowns;

  /** Two numbers an unknown a point, pixels a unit; NaN where a lens folds. */
  private final double[] moves;

  Motions(Unknowns u, double[] p, PictureSize picture) {
    unknowns = p.length;
    moves = new double[2 * unknowns * ACROSS * DOWN];
    double[] a = new double[2];
    double[] b = new double[2];
    double[] straight = new double[2];
    LensMapper base = u.lens(p).on(picture);
    for (int k = 0; k < unknowns; k++) {
      double[] q = p.clone();
      q[k] = p[k] + STEP;
      LensMapper up = u.lens(q).on(picture);
      q[k] = p[k] - STEP;
      LensMapper down = u.lens(q).on(picture);
      for (int i = 0; i < ACROSS * DOWN; i++) {
        double x = picture.width() * (i % ACROSS) / (ACROSS - 1.0);
        double y = picture.height() * (i / ACROSS) / (DOWN - 1.0);
        base.toUndistorted(x, y, straight);
        up.toOriginal(straight[0], straight[1], a);
        down.toOriginal(straight[0], straight[1], b);
        moves[2 * (i * unknowns + k)] = (a[0] - b[0]) / (2 * STEP);
        moves[2 * (i * unknowns + k) + 1] = (a[1] - b[1]) / (2 * STEP);
      }
    }
  }

  /** RMS of an unknown's motion over the picture, leaving out where it folds. */
  double rms(int k) {
    double s = 0;
    int n = 0;
    for (int i = 0; i < ACROSS * DOWN; i++) {
      double mx = moves[2 * (i * unknowns + k)];
      double my = moves[2 * (i * unknowns + k) + 1];
      if (Double.isFinite(mx) && Double.isFinite(my)) {
        s += mx * mx + my * my;
        n++;
      }
    }
    return Math.sqrt(s / Math.max(1, n));
  }

  /**
   * The largest variance of a point's place, in px²; infinite where the lens folds in the picture,
   * for then nothing is known there.
   */
  double most(DMatrixRMaj cov) {
    double most = 0;
    for (int i = 0; i < ACROSS * DOWN; i++) {
      double xx = 0;
      double xy = 0;
      double yy = 0;
      for (int k = 0; k < unknowns; k++) {
        for (int l = 0; l < unknowns; l++) {
          double c = cov.get(k, l);
          double kx = moves[2 * (i * unknowns + k)];
          double ly = moves[2 * (i * unknowns + l) + 1];
          xx += c * kx * moves[2 * (i * unknowns + l)];
          xy += c * kx * ly;
          yy += c * moves[2 * (i * unknowns + k) + 1] * ly;
        }
      }
      double v = (xx + yy) / 2 + Math.hypot((xx - yy) / 2, xy);
      if (!Double.isFinite(v)) {
        return Double.POSITIVE_INFINITY;
      }
      most = Math.max(most, v);
    }
    return most;
  }
}
