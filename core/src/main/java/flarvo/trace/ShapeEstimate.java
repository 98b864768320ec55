package flarvo.trace;

import java.util.Arrays;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.misc.UnrolledInverseFromMinor_DDRM;

/**
 * How well the shape of a followed pattern is known: the covariance of the four numbers of its
 * linear part, in pixels at the pattern's border, carried from frame to frame by a Kalman filter
 * with a random walk (Kalman, "A New Approach to Linear Filtering and Prediction Problems", 1960).
 */
final class ShapeEstimate {

  /** Numbers of the linear part. */
  static final int SIZE = 4;

  /**
   * What a fit leaves over is alike from pixel to pixel, which the fit does not know: its errors
   * are larger than it says by so much.
   */
  private static final double UNDERSTATED = 2;

  private final double[] covariance = new double[SIZE * SIZE];
  private final DMatrixRMaj predicted = new DMatrixRMaj(SIZE, SIZE);
  private final DMatrixRMaj information = new DMatrixRMaj(SIZE, SIZE);
  private double variance; // of a pixel, in the pattern's units

  /** A pattern that was just taken: its shape is known exactly. */
  void setExact() {
    Arrays.fill(covariance, 0);
  }

  /** States it for a square of another size: what its border moves by is so many times as much. */
  void scale(double times) {
    for (int k = 0; k < covariance.length; k++) {
      covariance[k] *= times * times;
    }
  }

  /** Copies another estimate. */
  void setTo(ShapeEstimate other) {
    System.arraycopy(other.covariance, 0, covariance, 0, covariance.length);
  }

  /**
   * Predicts the next frame.
   *
   * @param changePx standard deviation of what the shape changes by, more than 0
   * @param error of a pixel in the next fit, in the pattern's units
   * @return false where the covariance cannot be inverted
   */
  boolean predict(double changePx, double error) {
    variance = UNDERSTATED * UNDERSTATED * error * error;
    for (int i = 0; i < covariance.length; i++) {
      predicted.data[i] = covariance[i];
    }
    for (int p = 0; p < SIZE; p++) {
      predicted.add(p, p, changePx * changePx);
    }
    UnrolledInverseFromMinor_DDRM.inv(predicted, information);
    return information.get(0, 0) > 0 && information.get(0, 0) < Double.POSITIVE_INFINITY;
  }

  /** What is known before the fit, as a weight beside the fit's own normal equations. */
  double weight(int p, int q) {
    return variance * information.data[SIZE * p + q];
  }

  /**
   * Updates it after a fit.
   *
   * @param inverse the shape's block of the inverse of the fit's normal equations, weights
   *     included; row by row
   */
  void update(double[] inverse) {
    for (int k = 0; k < covariance.length; k++) {
      covariance[k] = variance * inverse[k];
    }
  }
}
