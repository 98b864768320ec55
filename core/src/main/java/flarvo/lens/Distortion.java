package flarvo.lens;

/** A distortion with its coefficients, in lens coordinates. */
public sealed interface Distortion
    permits BrownConrady, RadialPolynomial, Division, Fisheye, Anamorphic {

  /** The model that the coefficients belong to. */
  LensModel model();

  /** Values in the order of {@link LensModel#coefficients()}; a new array. */
  double[] coefficients();

  /**
   * The closed form with its derivatives, in the direction of {@link LensModel#closedForm()}.
   *
   * @param out six numbers: X, Y, ∂X/∂x, ∂X/∂y, ∂Y/∂x, ∂Y/∂y
   */
  void apply(double x, double y, double[] out);

  /** Whether it does the same in all directions from the centre. */
  default boolean isRadial() {
    return true;
  }

  /** A radial form {@code X = f x}: {@code f} and its derivative by r². */
  static void radial(double x, double y, double f, double df, double[] out) {
    out[0] = f * x;
    out[1] = f * y;
    out[2] = f + 2 * df * x * x;
    out[3] = 2 * df * x * y;
    out[4] = out[3];
    out[5] = f + 2 * df * y * y;
  }
}
