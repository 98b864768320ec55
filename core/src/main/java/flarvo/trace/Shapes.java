package flarvo.trace;

/**
 * The linear part of a warp, {@link Pattern#WARP} numbers of which the last four are a matrix row
 * by row: how a square of one frame lies in another.
 */
final class Shapes {

  private Shapes() {}

  /** The inverse matrix, its place 0. */
  static double[] inverse(double[] w) {
    double det = w[2] * w[5] - w[3] * w[4];
    return new double[] {0, 0, w[5] / det, -w[3] / det, -w[4] / det, w[2] / det};
  }

  /**
   * Multiplies two matrices; the place of the result stays.
   *
   * @param to may be one of the two
   */
  static void multiply(double[] a, double[] b, double[] to) {
    double m0 = a[2] * b[2] + a[3] * b[4];
    double m1 = a[2] * b[3] + a[3] * b[5];
    double m2 = a[4] * b[2] + a[5] * b[4];
    double m3 = a[4] * b[3] + a[5] * b[5];
    to[2] = m0;
    to[3] = m1;
    to[4] = m2;
    to[5] = m3;
  }

  /** How much farther a square of one shape reaches in the other, whichever is more; at least 1. */
  static double reach(double[] a, double[] b) {
    double[] change = new double[Pattern.WARP];
    multiply(b, inverse(a), change);
    return Math.max(reach(change), reach(inverse(change)));
  }

  private static double reach(double[] w) {
    return Math.max(Math.abs(w[2]) + Math.abs(w[3]), Math.abs(w[4]) + Math.abs(w[5]));
  }
}
