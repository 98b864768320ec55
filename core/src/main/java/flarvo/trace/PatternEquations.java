package flarvo.trace;

import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.misc.UnrolledInverseFromMinor_DDRM;

/**
 * The normal equations of a pattern's fit: two rows for its place and four for its shape, with a
 * prior on the shape. The place is eliminated when the pattern is taken, so each fit inverts four
 * rows only.
 */
final class PatternEquations {

  private static final int PLACE = 2;
  private static final int SHAPE = ShapeEstimate.SIZE;

  /** Of the shape's diagonal where nothing is known of it, so that edges do not shear for ever. */
  private static final double STIFFNESS = 1e-3;

  // Inverse of the place's own block.
  private double own00;
  private double own01;
  private double own11;

  /** Moves of the place that the shape's numbers bring about, row by row. */
  private final double[] follows = new double[PLACE * SHAPE];

  /** Of the shape, with the place eliminated: the Schur complement. */
  private final double[] reduced = new double[SHAPE * SHAPE];

  private final double[] loose = new double[SHAPE * SHAPE]; // inverse where nothing is known
  private final double[] inverse = new double[SHAPE * SHAPE]; // of the fit at hand
  private final DMatrixRMaj left = new DMatrixRMaj(SHAPE, SHAPE);
  private final DMatrixRMaj right = new DMatrixRMaj(SHAPE, SHAPE);
  private double spread;

  /**
   * Takes those of a pattern.
   *
   * @return false where they do not determine the place
   */
  boolean take(PatternImages p) {
    double h00 = p.product(0, 0);
    double h01 = p.product(0, 1);
    double h11 = p.product(1, 1);
    double det = h00 * h11 - h01 * h01;
    own00 = h11 / det;
    own01 = -h01 / det;
    own11 = h00 / det;
    double largest = Math.max(h00, h11);
    for (int s = 0; s < SHAPE; s++) {
      double x = p.product(0, PLACE + s);
      double y = p.product(1, PLACE + s);
      follows[s] = own00 * x + own01 * y;
      follows[SHAPE + s] = own01 * x + own11 * y;
      for (int r = 0; r <= s; r++) {
        double h = p.product(PLACE + r, PLACE + s);
        largest = Math.max(largest, h);
        h -= follows[r] * x + follows[SHAPE + r] * y;
        reduced[SHAPE * r + s] = h;
        reduced[SHAPE * s + r] = h;
      }
    }
    System.arraycopy(reduced, 0, left.data, 0, reduced.length);
    for (int s = 0; s < SHAPE; s++) {
      left.add(s, s, STIFFNESS * largest);
    }
    if (!(det > 0) || !invert(loose)) {
      return false;
    }
    spread = spread();
    return true;
  }

  /**
   * Standard error of the place in its least certain direction, its shape being free, for an error
   * of one in each pixel.
   */
  double placeSpread() {
    return spread;
  }

  /** Prepares a fit of which nothing is known before. */
  void prepare() {
    System.arraycopy(loose, 0, inverse, 0, loose.length);
  }

  /**
   * Prepares a fit.
   *
   * @return false where the equations cannot be solved
   */
  boolean prepare(ShapeEstimate shape) {
    for (int r = 0; r < SHAPE; r++) {
      for (int s = 0; s < SHAPE; s++) {
        left.data[SHAPE * r + s] = reduced[SHAPE * r + s] + shape.weight(r, s);
      }
    }
    return invert(inverse);
  }

  /** After a fit that was prepared with a shape. */
  void update(ShapeEstimate shape) {
    shape.update(inverse);
  }

  /**
   * Solves them for a step.
   *
   * @param right sides, the place's first
   */
  void solve(double[] right, double[] step) {
    for (int s = 0; s < SHAPE; s++) {
      step[PLACE + s] = right[PLACE + s] - follows[s] * right[0] - follows[SHAPE + s] * right[1];
    }
    double a = step[PLACE];
    double b = step[PLACE + 1];
    double c = step[PLACE + 2];
    double d = step[PLACE + 3];
    double x = own00 * right[0] + own01 * right[1];
    double y = own01 * right[0] + own11 * right[1];
    for (int s = 0, k = 0; s < SHAPE; s++, k += SHAPE) {
      double v = inverse[k] * a + inverse[k + 1] * b + inverse[k + 2] * c + inverse[k + 3] * d;
      step[PLACE + s] = v;
      x -= follows[s] * v;
      y -= follows[SHAPE + s] * v;
    }
    step[0] = x;
    step[1] = y;
  }

  private boolean invert(double[] to) {
    UnrolledInverseFromMinor_DDRM.inv(left, right);
    System.arraycopy(right.data, 0, to, 0, to.length);
    boolean positive = true;
    for (int s = 0; s < SHAPE; s++) {
      positive &= to[(SHAPE + 1) * s] > 0 && to[(SHAPE + 1) * s] < Double.POSITIVE_INFINITY;
    }
    return positive;
  }

  /** Root of the larger eigenvalue of the place's block of the whole inverse. */
  private double spread() {
    double a = own00;
    double b = own01;
    double c = own11;
    for (int r = 0; r < SHAPE; r++) {
      for (int s = 0; s < SHAPE; s++) {
        double v = loose[SHAPE * r + s];
        a += v * follows[r] * follows[s];
        b += v * follows[r] * follows[SHAPE + s];
        c += v * follows[SHAPE + r] * follows[SHAPE + s];
      }
    }
    return Math.sqrt((a + c) / 2 + Math.hypot((a - c) / 2, b));
  }
}
