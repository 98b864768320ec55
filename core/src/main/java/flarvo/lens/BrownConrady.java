package flarvo.lens;

/**
 * Radial and tangential terms with an optional rational part, from the undistorted point (x, y) to
 * the original one. With s = x² + y²:
 *
 * <pre>
 *   R = (1 + k1 s + k2 s² + k3 s³) / (1 + k4 s + k5 s² + k6 s³)
 *   X = x R + 2 p1 x y + p2 (s + 2 x²)
 *   Y = y R + p1 (s + 2 y²) + 2 p2 x y
 * </pre>
 *
 * <p>Source: D. C. Brown, "Decentering distortion of lenses", 1966; the rational part and the sign
 * of p1 and p2 as open computer vision libraries have them.
 */
public record BrownConrady(
    double k1, double k2, double p1, double p2, double k3, double k4, double k5, double k6)
    implements Distortion {

  @Override
  public LensModel model() {
    return LensModel.BROWN_CONRADY;
  }

  @Override
  public double[] coefficients() {
    return new double[] {k1, k2, p1, p2, k3, k4, k5, k6};
  }

  @Override
  public boolean isRadial() {
    return p1 == 0 && p2 == 0;
  }

  @Override
  public void apply(double x, double y, double[] out) {
    double s = x * x + y * y;
    double n = 1 + s * (k1 + s * (k2 + s * k3));
    double d = 1 + s * (k4 + s * (k5 + s * k6));
    double dn = k1 + s * (2 * k2 + s * 3 * k3);
    double dd = k4 + s * (2 * k5 + s * 3 * k6);
    // A denominator that has changed its sign is beyond the pole; infinite is what it is there.
    double r = d > 0 ? n / d : Double.NaN;
    double dr = (dn - r * dd) / d;
    Distortion.radial(x, y, r, dr, out);
    out[0] += 2 * p1 * x * y + p2 * (s + 2 * x * x);
    out[1] += p1 * (s + 2 * y * y) + 2 * p2 * x * y;
    out[2] += 2 * p1 * y + 6 * p2 * x;
    out[3] += 2 * p1 * x + 2 * p2 * y;
    out[4] += 2 * p1 * x + 2 * p2 * y;
    out[5] += 6 * p1 * y + 2 * p2 * x;
  }
}
