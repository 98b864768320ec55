package flarvo.trace;

import java.util.Arrays;
import java.util.List;

/** How the picture moved between two frames, by the features that were followed. */
final class Motion {

  private static final int NEIGHBOURS = 8;

  /** As many features are asked, spread over all. */
  private static final int MOST = 512;

  private final double[] rows; // x, y, dx, dy
  private final int size;

  private Motion(double[] rows, int size) {
    this.rows = rows;
    this.size = size;
  }

  /**
   * @param features after the step
   * @param from x, y of each before it
   * @param found which of them were followed
   */
  static Motion of(List<Feature> features, List<double[]> from, boolean[] found) {
    int step = Math.max(1, features.size() / MOST);
    double[] rows = new double[4 * features.size()];
    int n = 0;
    for (int i = 0; i < features.size(); i += step) {
      if (found[i]) {
        rows[4 * n] = from.get(i)[0];
        rows[4 * n + 1] = from.get(i)[1];
        rows[4 * n + 2] = features.get(i).vx;
        rows[4 * n + 3] = features.get(i).vy;
        n++;
      }
    }
    return new Motion(rows, n);
  }

  /**
   * How a place moved: the median of its neighbours.
   *
   * @param vx what is said where nothing was followed
   */
  double[] at(double x, double y, double vx, double vy) {
    if (size == 0) {
      return new double[] {vx, vy};
    }
    int k = Math.min(NEIGHBOURS, size);
    int[] nearest = new int[k];
    double[] far = new double[k];
    Arrays.fill(far, Double.POSITIVE_INFINITY);
    for (int i = 0; i < size; i++) {
      double dx = rows[4 * i] - x;
      double dy = rows[4 * i + 1] - y;
      double d = dx * dx + dy * dy;
      int at = k;
      while (at > 0 && d < far[at - 1]) {
        at--;
      }
      if (at < k) {
        System.arraycopy(far, at, far, at + 1, k - 1 - at);
        System.arraycopy(nearest, at, nearest, at + 1, k - 1 - at);
        far[at] = d;
        nearest[at] = i;
      }
    }
    return new double[] {median(nearest, 2, far), median(nearest, 3, far)};
  }

  /**
   * @param v as many numbers to work with
   */
  private double median(int[] of, int column, double[] v) {
    for (int i = 0; i < of.length; i++) {
      v[i] = rows[4 * of[i] + column];
    }
    Arrays.sort(v);
    return (v[(v.length - 1) / 2] + v[v.length / 2]) / 2;
  }
}
