package flarvo.vet.adjust;

/** Symmetric systems of three, as least squares over one point gives them. */
public final class Symmetric3 {

  /** A determinant below this share of the diagonal's product says nothing of some direction. */
  private static final double FLAT = 1e-14;

  private Symmetric3() {}

  /**
   * Inverts a matrix whose diagonal is raised first.
   *
   * @param n row by row; only its upper half is looked at
   * @param damping share by which the diagonal is raised
   * @param out row by row; may not be {@code n}
   * @return false where some direction is not determined; {@code out} is then untouched
   */
  public static boolean invert(double[] n, double damping, double[] out) {
    double a = n[0] * (1 + damping);
    double b = n[1];
    double c = n[2];
    double d = n[4] * (1 + damping);
    double e = n[5];
    double f = n[8] * (1 + damping);
    double ca = d * f - e * e;
    double cb = c * e - b * f;
    double cc = b * e - c * d;
    double det = a * ca + b * cb + c * cc;
    if (!(det > FLAT * a * d * f)) {
      return false;
    }
    out[0] = ca / det;
    out[1] = cb / det;
    out[2] = cc / det;
    out[3] = out[1];
    out[4] = (a * f - c * c) / det;
    out[5] = (b * c - a * e) / det;
    out[6] = out[2];
    out[7] = out[5];
    out[8] = (a * d - b * b) / det;
    return true;
  }
}
