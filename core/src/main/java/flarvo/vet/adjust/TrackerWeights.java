package flarvo.vet.adjust;

import java.util.Arrays;

/**
 * What each tracker should count for in a fit: the less, the larger its own error. Errors of a
 * tracker go together, since its pattern slips or marks an edge, and differ from one tracker to the
 * next; squares alone let the worst pull most. With weights by the inverse variance, estimated from
 * what a fit leaves over, a second fit is nearer to the truth (iteratively reweighted least
 * squares; Holland and Welsch, "Robust regression using iteratively reweighted least-squares",
 * 1977, with one weight a tracker).
 */
public final class TrackerWeights {

  /** Share of the median error that is added to each: none is believed to be much better. */
  private static final double FLOOR = 0.5;

  /** A point has three coordinates and a row two: so many rows fit whatever they say. */
  private static final double OWN_ROWS = 1.5;

  private TrackerWeights() {}

  /**
   * Weights of the points, such that one with the median error has {@code 1 / (1 + FLOOR²)}.
   *
   * @param fitted cameras and points that were adjusted to the tracks
   */
  public static double[] of(Bundle fitted, Tracks t, AdjustOptions options) {
    double[] distance = BundleAdjuster.distances(fitted, t, options);
    double[] squared = new double[t.points];
    for (int j = 0; j < t.points; j++) {
      double sum = 0;
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        sum += distance[row] * distance[row];
      }
      squared[j] = sum / Math.max(1, t.seen(j) - OWN_ROWS);
    }
    double[] sorted = squared.clone();
    Arrays.sort(sorted);
    double median = sorted.length == 0 ? 0 : sorted[sorted.length / 2];
    double[] out = new double[t.points];
    for (int j = 0; j < t.points; j++) {
      double ratio = median > 0 ? squared[j] / median : 1;
      out[j] = 1 / (FLOOR * FLOOR + Math.min(1e6, ratio));
    }
    return out;
  }
}
