package flarvo.plate.edge;

import flarvo.report.InputError;
import flarvo.scene.Luma;
import java.util.Arrays;
import java.util.List;

/**
 * Follows an edge of a picture, or a line thinner than a few pixels, from one end to the other, to
 * a fraction of a pixel.
 *
 * <p>The picture is sampled across the chord between the ends, every {@link #STEP} pixels along it.
 * The path with the most contrast that bends gently is found by dynamic programming; each of its
 * places is then moved to the vertex of a parabola through the contrast there. Places that a smooth
 * curve does not reach are left out: the edge is hidden or crossed there.
 */
public final class EdgeTrace {

  /** Pixels along the chord between two places. */
  private static final double STEP = 4;

  /** Rows of the picture that are averaged along the edge for one place. */
  private static final int ALONG = 5;

  /** Samples for a pixel across the chord. */
  private static final int FINE = 2;

  /** Softness of the edge that is looked for, in pixels: plates are a little soft and grainy. */
  private static final double SOFT = 1.1;

  /** Samples to each side that weigh in. */
  private static final int REACH = (int) Math.ceil(3 * SOFT * FINE);

  /** How far an edge may bow away from its chord, as a share of the chord. */
  private static final double BOW = 0.06;

  private static final double LEAST_BOW = 6;

  /** How far a click may be from the edge, in pixels. */
  private static final double SNAP = 5;

  /** Samples that a path may move across from one place to the next. */
  private static final int SLOPE = 3;

  /** What a bend costs, in units of contrast (0 to 255) for a sample squared. */
  private static final double STIFF = 1.5;

  /** The least contrast that is an edge, of 255. */
  private static final double FAINT = 4;

  /** Farther from the smooth curve than this, in pixels, is another edge. */
  private static final double STRAY = 0.6;

  private static final int FEWEST = 6;

  private final Luma luma;
  private final double ax;
  private final double ay;
  private final double ux; // along the chord
  private final double uy;
  private final double length;
  private final int steps;
  private final int half; // samples to each side
  private final double[][] edge; // contrast by place and sample, signed: brighter to the right of u
  private final double[][] line; // the same of a line brighter than what is beside it

  private EdgeTrace(Luma luma, double ax, double ay, double bx, double by) {
    this.luma = luma;
    this.ax = ax;
    this.ay = ay;
    length = Math.hypot(bx - ax, by - ay);
    ux = (bx - ax) / length;
    uy = (by - ay) / length;
    steps = (int) Math.round(length / STEP);
    half = (int) Math.ceil(Math.max(LEAST_BOW, BOW * length) * FINE);
    edge = new double[steps + 1][2 * half + 1];
    line = new double[steps + 1][2 * half + 1];
  }

  /**
   * Points on the edge between two places near it.
   *
   * @param ax pixels from the left edge, as bx
   * @param ay pixels from the top edge, as by
   * @return x and y of each point in turn, from the first place to the second
   * @throws InputError when the places are too near to each other, or there is no edge
   */
  public static double[] between(Luma luma, double ax, double ay, double bx, double by) {
    if (!(Math.hypot(bx - ax, by - ay) >= FEWEST * STEP)) {
      throw InputError.words(
          "the two ends are too near to each other", "Trace an edge of 24 pixels or more");
    }
    EdgeTrace t = new EdgeTrace(luma, ax, ay, bx, by);
    t.sample();
    // What is traced is the same kind of thing all along, brighter on the same side.
    Path best = null;
    for (double[][] contrast : List.of(t.edge, t.line)) {
      for (int sign : new int[] {1, -1}) {
        Path p = t.path(contrast, sign);
        best = best == null || p.strength > best.strength ? p : best;
      }
    }
    return t.points(best);
  }

  /**
   * The best path through one kind of contrast.
   *
   * @param at sample by place
   */
  private record Path(double[][] contrast, int[] at, double strength) {}

  private void sample() {
    double[] profile = new double[2 * (half + REACH) + 1];
    double[] toEdge = edgeWeights();
    double[] toLine = lineWeights();
    for (int i = 0; i <= steps; i++) {
      for (int j = -half - REACH; j <= half + REACH; j++) {
        double sum = 0;
        for (int k = -ALONG / 2; k <= ALONG / 2; k++) {
          sum += at(i * length / steps + k, j / (double) FINE);
        }
        profile[j + half + REACH] = sum / ALONG;
      }
      for (int j = 0; j <= 2 * half; j++) {
        for (int k = 0; k <= 2 * REACH; k++) {
          edge[i][j] += toEdge[k] * profile[j + k];
          line[i][j] += toLine[k] * profile[j + k];
        }
      }
    }
  }

  /** A Gaussian's derivative, such that a sharp edge comes to its step of brightness. */
  private static double[] edgeWeights() {
    double[] w = new double[2 * REACH + 1];
    double sum = 0;
    for (int k = -REACH; k <= REACH; k++) {
      double t = k / (SOFT * FINE);
      w[k + REACH] = t * Math.exp(-t * t / 2);
      sum += Math.abs(w[k + REACH]) / 2;
    }
    for (int k = 0; k < w.length; k++) {
      w[k] /= sum;
    }
    return w;
  }

  /** A Gaussian's second derivative, such that a line as soft as it comes to its depth. */
  private static double[] lineWeights() {
    double[] w = new double[2 * REACH + 1];
    double mean = 0;
    for (int k = -REACH; k <= REACH; k++) {
      double t = k / (SOFT * FINE);
      w[k + REACH] = (1 - t * t) * Math.exp(-t * t / 2);
      mean += w[k + REACH] / w.length;
    }
    double sum = 0;
    for (int k = -REACH; k <= REACH; k++) {
      double t = k / (SOFT * FINE);
      w[k + REACH] -= mean;
      sum += w[k + REACH] * Math.exp(-t * t / 2);
    }
    for (int k = 0; k < w.length; k++) {
      w[k] /= sum;
    }
    return w;
  }

  /** Brightness at a place along and across the chord; bilinear, NaN outside the picture. */
  private double at(double along, double across) {
    double x = ax + along * ux - across * uy - 0.5;
    double y = ay + along * uy + across * ux - 0.5;
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    if (x0 < 0 || y0 < 0 || x0 + 1 >= luma.width() || y0 + 1 >= luma.height()) {
      return Double.NaN;
    }
    double fx = x - x0;
    double fy = y - y0;
    double top = luma.at(x0, y0) * (1 - fx) + luma.at(x0 + 1, y0) * fx;
    double low = luma.at(x0, y0 + 1) * (1 - fx) + luma.at(x0 + 1, y0 + 1) * fx;
    return top * (1 - fy) + low * fy;
  }

  private static double gain(double[][] contrast, int i, int j, int sign) {
    double c = contrast[i][j] * sign;
    return Double.isNaN(c) ? 0 : Math.max(0, c);
  }

  /** The path with the most contrast of a sign. */
  private Path path(double[][] contrast, int sign) {
    int n = 2 * half + 1;
    int snap = (int) (SNAP * FINE);
    double[] score = new double[n];
    int[][] from = new int[steps + 1][n];
    for (int j = 0; j < n; j++) {
      score[j] = Math.abs(j - half) <= snap ? gain(contrast, 0, j, sign) : Double.NEGATIVE_INFINITY;
    }
    for (int i = 1; i <= steps; i++) {
      double[] next = new double[n];
      for (int j = 0; j < n; j++) {
        double best = Double.NEGATIVE_INFINITY;
        for (int d = -SLOPE; d <= SLOPE; d++) {
          int k = j + d;
          if (k >= 0 && k < n && score[k] - STIFF * d * d > best) {
            best = score[k] - STIFF * d * d;
            from[i][j] = k;
          }
        }
        next[j] = best + gain(contrast, i, j, sign);
      }
      score = next;
    }
    int end = half;
    for (int j = Math.max(0, half - snap); j <= Math.min(n - 1, half + snap); j++) {
      end = score[j] > score[end] ? j : end;
    }
    int[] at = new int[steps + 1];
    double strength = 0;
    for (int i = steps; i >= 0; i--) {
      at[i] = end;
      strength += gain(contrast, i, end, sign);
      end = from[i][end];
    }
    return new Path(contrast, at, strength);
  }

  private double[] points(Path path) {
    double[] across = new double[steps + 1];
    double[] size = new double[steps + 1];
    for (int i = 0; i <= steps; i++) {
      across[i] = vertex(path.contrast[i], path.at[i]);
      size[i] = Math.abs(path.contrast[i][path.at[i]]);
    }
    double[] sorted = Arrays.stream(size).filter(s -> !Double.isNaN(s)).sorted().toArray();
    double usual = sorted.length == 0 ? 0 : sorted[sorted.length / 2];
    boolean[] good = new boolean[steps + 1];
    for (int i = 0; i <= steps; i++) {
      good[i] = !Double.isNaN(across[i]) && size[i] > Math.max(FAINT, usual / 4);
    }
    SmoothCurve.keepNear(across, good, STRAY);
    int n = 0;
    double[] out = new double[2 * (steps + 1)];
    for (int i = 0; i <= steps; i++) {
      if (good[i]) {
        double along = i * length / steps;
        out[n++] = ax + along * ux - across[i] * uy;
        out[n++] = ay + along * uy + across[i] * ux;
      }
    }
    if (n / 2 < FEWEST || n / 2 < (steps + 1) / 3) {
      throw InputError.words(
          "no edge was found between the two places", "Click on the edge itself, nearer together");
    }
    return Arrays.copyOf(out, n);
  }

  /** Pixels across at the top of a parabola through three samples; NaN where there is no top. */
  private double vertex(double[] contrast, int j) {
    if (j < 1 || j >= 2 * half) {
      return Double.NaN;
    }
    // The path may lie beside the top: up to it first.
    int k = j;
    while (k > 1 && Math.abs(contrast[k - 1]) > Math.abs(contrast[k])) {
      k--;
    }
    while (k < 2 * half - 1 && Math.abs(contrast[k + 1]) > Math.abs(contrast[k])) {
      k++;
    }
    double a = Math.abs(contrast[k - 1]);
    double b = Math.abs(contrast[k]);
    double c = Math.abs(contrast[k + 1]);
    double bend = a - 2 * b + c;
    if (!(bend < 0)) {
      return Double.NaN;
    }
    return (k + 0.5 * (a - c) / bend - half) / FINE;
  }
}
