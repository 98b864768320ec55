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

  /** The factor, NaN without ratios. Partitions them like {@link Select} instead of sorting. */
  double value() {
    double half = 0;
    for (int i = 0; i < n; i++) {
      half += weights[i] / 2;
    }
    int lo = 0;
    int hi = n - 1;
    double before = 0; // weight of all below lo
    while (lo < hi) {
      double pivot = Select.middle(ratios[lo], ratios[(lo + hi) >>> 1], ratios[hi]);
      int low = lo;
      int high = hi;
      double less = 0;
      double same = 0;
      for (int i = lo; i <= high; ) {
        if (ratios[i] < pivot) {
          less += weights[i];
          swap(low++, i++);
        } else if (ratios[i] > pivot) {
          swap(i, high--);
        } else {
          same += weights[i++];
        }
      }
      if (before + less >= half) {
        hi = low - 1;
      } else if (before + less + same >= half) {
        return pivot;
      } else {
        before += less + same;
        lo = high + 1;
      }
    }
    return n == 0 ? Double.NaN : ratios[Math.min(lo, n - 1)];
  }

  private void swap(int a, int b) {
    double r = ratios[a];
    ratios[a] = ratios[b];
    ratios[b] = r;
    double w = weights[a];
    weights[a] = weights[b];
    weights[b] = w;
  }
}
