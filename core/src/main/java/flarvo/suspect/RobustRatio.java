package flarvo.suspect;

import java.util.Arrays;

/** A factor that most pairs of numbers agree on: the weighted median of their ratios. */
final class RobustRatio {

  private double[] ratios = new double[256];
  private double[] weights = new double[256];
  private int n;

  /** Adds {@code to ≈ factor · from}; the larger {@code from}, the more it counts. */
  void add(double from, double to) {
    if (!(Math.abs(from) > 1e-9) || !Double.isFinite(to / from)) {
      return;
    }
    if (n == ratios.length) {
      ratios = Arrays.copyOf(ratios, 2 * n);
      weights = Arrays.copyOf(weights, 2 * n);
    }
    ratios[n] = to / from;
    weights[n++] = Math.abs(from);
  }

  /** The factor; NaN of nothing. */
  double value() {
    Integer[] order = new Integer[n];
    double half = 0;
    for (int i = 0; i < n; i++) {
      order[i] = i;
      half += weights[i] / 2;
    }
    Arrays.sort(order, (a, b) -> Double.compare(ratios[a], ratios[b]));
    double sum = 0;
    for (int i : order) {
      sum += weights[i];
      if (sum >= half) {
        return ratios[i];
      }
    }
    return Double.NaN;
  }
}
