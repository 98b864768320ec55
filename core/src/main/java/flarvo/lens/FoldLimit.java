package flarvo.lens;

import java.util.Arrays;

/**
 * How far from the centre a closed form means anything: up to the radius at which it turns back. By
 * directions, from the centre outwards.
 */
final class FoldLimit {

  private static final int RAYS = 180;
  private static final int STEPS = 96;
  private static final int BISECTIONS = 48;

  /**
   * A picture squeezed to less than this share of its area is folded for every purpose. At the fold
   * itself the inverse is not determined; here it still is, to 1e-9 px.
   */
  private static final double LEAST_AREA = 1e-3;

  private final double[] limits = new double[RAYS];
  private final double least;

  /**
   * @param far radius up to which it is looked for; a fold beyond is none
   */
  FoldLimit(Distortion d, double far) {
    double[] out = new double[6];
    if (d.isRadial()) {
      least = along(d, 1, 0, far, out);
      Arrays.fill(limits, least);
      return;
    }
    double smallest = Double.POSITIVE_INFINITY;
    for (int i = 0; i < RAYS; i++) {
      double a = 2 * Math.PI * i / RAYS;
      limits[i] = along(d, Math.cos(a), Math.sin(a), far, out);
      smallest = Math.min(smallest, limits[i]);
    }
    least = smallest;
  }

  private static double along(Distortion d, double cos, double sin, double far, double[] out) {
    double good = 0;
    for (int i = 1; i <= STEPS; i++) {
      double r = far * i / STEPS;
      if (!unfolded(d, r * cos, r * sin, out)) {
        double bad = r;
        for (int k = 0; k < BISECTIONS; k++) {
          double mid = (good + bad) / 2;
          if (unfolded(d, mid * cos, mid * sin, out)) {
            good = mid;
          } else {
            bad = mid;
          }
        }
        return good;
      }
      good = r;
    }
    return Double.POSITIVE_INFINITY;
  }

  private static boolean unfolded(Distortion d, double x, double y, double[] out) {
    d.apply(x, y, out);
    return out[2] * out[5] - out[3] * out[4] > LEAST_AREA && out[2] + out[5] > 0;
  }

  /** Whether a point of the closed form's side lies before the fold. */
  boolean holds(double x, double y) {
    double s = x * x + y * y;
    if (s < least * least) {
      return true;
    }
    double turn = Math.atan2(y, x) / (2 * Math.PI) * RAYS;
    int i = Math.floorMod((int) Math.floor(turn), RAYS);
    double f = turn - Math.floor(turn);
    double a = limits[i];
    double b = limits[(i + 1) % RAYS];
    double limit = a == b || f == 0 ? a : (1 - f) * a + f * b;
    return s < limit * limit;
  }

  /** The limit in the direction of a ray; infinite where there is no fold. */
  double at(int ray) {
    return limits[ray];
  }

  static int rays() {
    return RAYS;
  }

  boolean isNone() {
    return Double.isInfinite(least);
  }
}
