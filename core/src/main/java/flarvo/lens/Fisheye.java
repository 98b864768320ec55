package flarvo.lens;

/**
 * Equidistant fisheye, from the undistorted point to the original one, both in focal lengths. With
 * θ = atan √(x² + y²), the angle off the axis:
 *
 * <pre>
 *   X = x · θ (1 + k1 θ² + k2 θ⁴ + k3 θ⁶ + k4 θ⁸) / tan θ      Y likewise
 * </pre>
 *
 * <p>Source: J. Kannala and S. Brandt, "A generic camera model and calibration method", 2006.
 */
public record Fisheye(double k1, double k2, double k3, double k4) implements Distortion {

  /** Below this square of the radius the series is exact to a double's last digit. */
  private static final double SMALL = 1e-9;

  @Override
  public LensModel model() {
    return LensModel.FISHEYE;
  }

  @Override
  public double[] coefficients() {
    return new double[] {k1, k2, k3, k4};
  }

  @Override
  public void apply(double x, double y, double[] out) {
    double s = x * x + y * y;
    if (s < SMALL) {
      Distortion.radial(x, y, 1 + (k1 - 1.0 / 3) * s, k1 - 1.0 / 3, out);
      return;
    }
    double r = Math.sqrt(s);
    double t = Math.atan(r);
    double tt = t * t;
    double d = t * (1 + tt * (k1 + tt * (k2 + tt * (k3 + tt * k4))));
    double dt = 1 + tt * (3 * k1 + tt * (5 * k2 + tt * (7 * k3 + tt * 9 * k4)));
    double dr = dt / (1 + s);
    Distortion.radial(x, y, d / r, (dr * r - d) / (2 * s * r), out);
  }
}
