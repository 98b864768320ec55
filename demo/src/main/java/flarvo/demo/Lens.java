package flarvo.demo;

/**
 * The demo lens, from original to undistorted picture, about the picture's centre; radii in half
 * picture widths:
 *
 * <pre>
 *   undistorted = original · (1 + k1 r² + k2 r⁴)      r = |original|
 * </pre>
 *
 * Positive coefficients push the undistorted picture outwards, so the original shows barrels.
 */
record Lens(double k1, double k2) {

  boolean bends() {
    return k1 != 0 || k2 != 0;
  }

  double factor(double r2) {
    return 1 + r2 * (k1 + r2 * k2);
  }

  /** Original pixel of an undistorted one, by Newton's method on the radius. */
  double[] distort(double x, double y, int width, int height) {
    double half = width / 2.0;
    double ux = (x - half) / half;
    double uy = (y - height / 2.0) / half;
    double target = Math.sqrt(ux * ux + uy * uy);
    if (target == 0) {
      return new double[] {x, y};
    }
    double r = target;
    for (int i = 0; i < 12; i++) {
      double r2 = r * r;
      double value = r * factor(r2) - target;
      double slope = 1 + r2 * (3 * k1 + 5 * r2 * k2);
      r -= value / slope;
    }
    double k = r / target;
    return new double[] {half + ux * k * half, height / 2.0 + uy * k * half};
  }
}
