package flarvo.lens;

/**
 * Division model, from the original point to the undistorted one. With s = x² + y²:
 *
 * <pre>
 *   X = x / (1 + k1 s + k2 s²)      Y likewise
 * </pre>
 *
 * <p>Source: A. W. Fitzgibbon, "Simultaneous linear estimation of multiple view geometry and lens
 * distortion", 2001.
 */
public record Division(double k1, double k2) implements Distortion {

  @Override
  public LensModel model() {
    return LensModel.DIVISION;
  }

  @Override
  public double[] coefficients() {
    return new double[] {k1, k2};
  }

  @Override
  public void apply(double x, double y, double[] out) {
    double s = x * x + y * y;
    double d = 1 + s * (k1 + s * k2);
    double f = d > 0 ? 1 / d : Double.NaN;
    Distortion.radial(x, y, f, -(k1 + 2 * k2 * s) * f * f, out);
  }
}
