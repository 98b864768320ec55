package flarvo.plate.edge;

import java.util.Arrays;
import org.ejml.simple.SimpleMatrix;

/** A cubic through measured places; a lens bends no straight line more sharply. */
final class SmoothCurve {

  private static final int DEGREE = 3;
  private static final int ROUNDS = 12;

  private SmoothCurve() {}

  /**
   * Leaves out what is too far from the curve through the rest.
   *
   * @param y measured, at places one apart
   * @param good which count; changed in place
   * @param limit farthest from the curve
   */
  static void keepNear(double[] y, boolean[] good, double limit) {
    for (int round = 0; round < ROUNDS; round++) {
      double[] off = distances(y, good);
      if (off == null) {
        return;
      }
      // The first curves are pulled by the strays: only the worst go, down to the limit.
      double[] left = new double[y.length];
      int n = 0;
      for (int i = 0; i < y.length; i++) {
        if (good[i]) {
          left[n++] = Math.abs(off[i]);
        }
      }
      Arrays.sort(left, 0, n);
      double far = Math.max(limit, 3 * 1.4826 * left[n / 2]);
      boolean changed = false;
      for (int i = 0; i < y.length; i++) {
        if (good[i] && Math.abs(off[i]) > far) {
          good[i] = false;
          changed = true;
        }
      }
      if (!changed) {
        return;
      }
    }
  }

  /** Measured less curve, by place; null where too few places count. */
  private static double[] distances(double[] y, boolean[] good) {
    int n = 0;
    for (boolean g : good) {
      n += g ? 1 : 0;
    }
    if (n <= DEGREE + 1) {
      return null;
    }
    SimpleMatrix a = new SimpleMatrix(n, DEGREE + 1);
    SimpleMatrix b = new SimpleMatrix(n, 1);
    int row = 0;
    for (int i = 0; i < y.length; i++) {
      if (good[i]) {
        double t = 2.0 * i / (y.length - 1) - 1;
        for (int k = 0; k <= DEGREE; k++) {
          a.set(row, k, Math.pow(t, k));
        }
        b.set(row++, 0, y[i]);
      }
    }
    SimpleMatrix c = a.solve(b);
    double[] out = new double[y.length];
    for (int i = 0; i < y.length; i++) {
      double t = 2.0 * i / (y.length - 1) - 1;
      double v = 0;
      for (int k = DEGREE; k >= 0; k--) {
        v = v * t + c.get(k, 0);
      }
      out[i] = y[i] - v;
    }
    return out;
  }
}
