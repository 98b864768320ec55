package flarvo.lens;

/**
 * A lens with two different axes, from the original point to the undistorted one. The point is
 * turned by {@code rotation} (radians, from x towards y) into the lens's axes (u, v), then
 *
 * <pre>
 *   U = squeeze · u (1 + a20 u² + a02 v² + a40 u⁴ + a22 u² v² + a04 v⁴)
 *   V =           v (1 + b20 u² + b02 v² + b40 u⁴ + b22 u² v² + b04 v⁴)
 * </pre>
 *
 * <p>and turned back. The squeeze is what is left of it beside the pixel aspect, and near 1.
 */
public record Anamorphic(
    double squeeze,
    double rotation,
    double a20,
    double a02,
    double a40,
    double a22,
    double a04,
    double b20,
    double b02,
    double b40,
    double b22,
    double b04)
    implements Distortion {

  @Override
  public LensModel model() {
    return LensModel.ANAMORPHIC;
  }

  @Override
  public double[] coefficients() {
    return new double[] {squeeze, rotation, a20, a02, a40, a22, a04, b20, b02, b40, b22, b04};
  }

  @Override
  public boolean isRadial() {
    return false;
  }

  @Override
  public void apply(double x, double y, double[] out) {
    double c = Math.cos(rotation);
    double s = Math.sin(rotation);
    double u = c * x + s * y;
    double v = c * y - s * x;
    double uu = u * u;
    double vv = v * v;
    double f = 1 + uu * (a20 + a40 * uu + a22 * vv) + vv * (a02 + a04 * vv);
    double g = 1 + uu * (b20 + b40 * uu + b22 * vv) + vv * (b02 + b04 * vv);
    double big = squeeze * u * f;
    double small = v * g;
    // Derivatives in the lens's axes.
    double bu = squeeze * (f + 2 * uu * (a20 + 2 * a40 * uu + a22 * vv));
    double bv = squeeze * 2 * u * v * (a02 + a22 * uu + 2 * a04 * vv);
    double su = 2 * u * v * (b20 + 2 * b40 * uu + b22 * vv);
    double sv = g + 2 * vv * (b02 + b22 * uu + 2 * b04 * vv);
    out[0] = c * big - s * small;
    out[1] = s * big + c * small;
    double bx = bu * c - bv * s;
    double by = bu * s + bv * c;
    double sx = su * c - sv * s;
    double sy = su * s + sv * c;
    out[2] = c * bx - s * sx;
    out[3] = c * by - s * sy;
    out[4] = s * bx + c * sx;
    out[5] = s * by + c * sy;
  }
}
