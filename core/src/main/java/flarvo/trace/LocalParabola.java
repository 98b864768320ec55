package flarvo.trace;

import java.util.Arrays;

/**
 * The value at time 0 of a parabola through weighted values at times beside it, by least squares:
 * each value counts with a share. The shares are the first row of the inverse of the normal
 * equations.
 */
final class LocalParabola {

  /** Of the determinant, for weights that add up to one: fewer than three times have less. */
  private static final double LEAST = 1e-6;

  private final double[] sums = new double[5]; // of the weights times powers of the time
  private double a;
  private double b;
  private double c;
  private double det;

  void clear() {
    Arrays.fill(sums, 0);
  }

  void add(double time, double weight) {
    double power = weight;
    for (int p = 0; p < sums.length && power != 0; p++) {
      sums[p] += power;
      power *= time;
    }
  }

  /**
   * Solves for the shares.
   *
   * @return false where there are fewer than three times
   */
  boolean solve() {
    a = sums[2] * sums[4] - sums[3] * sums[3];
    b = sums[2] * sums[3] - sums[1] * sums[4];
    c = sums[1] * sums[3] - sums[2] * sums[2];
    det = sums[0] * a + sums[1] * b + sums[2] * c;
    return det > LEAST * sums[0] * sums[0] * sums[0];
  }

  /** By how much the value at a time counts. */
  double share(double time, double weight) {
    return weight * (a + time * (b + time * c)) / det;
  }
}
