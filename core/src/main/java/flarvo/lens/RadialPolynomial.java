package flarvo.lens;

/**
 * Even radial polynomial, from the original point to the undistorted one. With s = x² + y²:
 *
 * <pre>
 *   X = x (1 + k1 s + k2 s² + k3 s³ + k4 s⁴)      Y likewise
 * </pre>
 */
public record RadialPolynomial(double k1, double k2, double k3, double k4) implements Distortion {

  @Override
  public LensModel model() {
    return LensModel.RADIAL;
  }

  @Override
  public double[] coefficients() {
    return new double[] {k1, k2, k3, k4};
  }

  @Override
  public void apply(double x, double y, double[] out) {
    double s = x * x + y * y;
    double f = 1 + s * (k1 + s * (k2 + s * (k3 + s * k4)));
    double df = k1 + s * (2 * k2 + s * (3 * k3 + s * 4 * k4));
    Distortion.radial(x, y, f, df, out);
  }
}
