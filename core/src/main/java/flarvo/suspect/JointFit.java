package flarvo.suspect;

import java.util.List;

/**
 * Fits several dials of a scene at once, by Gauss-Newton on the pixel residuals with Tukey's
 * weights, which leave strays out.
 */
final class JointFit {

  private static final int ROUNDS = 12;
  private static final double STEP = 1e-5;
  private static final double STILL = 1e-7;

  /** Tukey's constant, and from the median of absolute values to a standard deviation. */
  private static final double TUKEY = 4.685;

  private static final double SIGMA = 1.4826;
  private static final double LEAST_PX = 0.2;

  /**
   * @param turned by how much each dial was turned on
   */
  record Fit(TriedScene scene, double[] turned) {}

  private JointFit() {}

  /** The fit; where it leads nowhere, what it began with. */
  static Fit of(TriedScene start, List<Dial> dials, Evidence e, TriedScene.Bench b) {
    int n = dials.size();
    double[] total = new double[n];
    TriedScene scene = start;
    double[] r = residuals(scene, e, b);
    double cost = median(r);
    for (int round = 0; round < ROUNDS; round++) {
      double[][] j = new double[n][];
      for (int d = 0; d < n; d++) {
        Dial dial = dials.get(d);
        double step = dial == Dial.ACROSS || dial == Dial.DOWN ? 1 : STEP;
        double[] moved = residuals(scene.with(k -> dial.turn(k, step)), e, b);
        for (int i = 0; i < moved.length; i++) {
          moved[i] = (moved[i] - r[i]) / step;
        }
        j[d] = moved;
      }
      double[] by = solve(j, r, Math.max(LEAST_PX, SIGMA * cost));
      if (by.length == 0) {
        break;
      }
      double size = 1;
      TriedScene next = scene;
      double[] after = r;
      double least = cost;
      while (size > 1e-3) {
        double k = size;
        TriedScene tried =
            scene.with(
                x -> {
                  for (int d = 0; d < n; d++) {
                    dials.get(d).turn(x, k * by[d]);
                  }
                });
        double[] rr = residuals(tried, e, b);
        double c = median(rr);
        if (c < cost) {
          next = tried;
          after = rr;
          least = c;
          break;
        }
        size /= 2;
      }
      if (least >= cost) {
        break;
      }
      for (int d = 0; d < n; d++) {
        total[d] += size * by[d];
      }
      boolean still = least > cost * (1 - STILL);
      scene = next;
      r = after;
      cost = least;
      if (still) {
        break;
      }
    }
    return new Fit(scene, total);
  }

  /** Two a row, projected less observed; NaN where it cannot be seen. */
  private static double[] residuals(TriedScene s, Evidence e, TriedScene.Bench b) {
    double[] out = new double[2 * e.size()];
    double[] xyz = s.file.points();
    for (int f = 0; f < e.frames.length; f++) {
      boolean seen = s.look(e.frames[f], e.picture.width(), e.picture.height(), b.view);
      for (int i = e.begin[f]; i < e.begin[f + 1]; i++) {
        if (seen) {
          int p = 3 * e.point[i];
          b.view.project(xyz[p], xyz[p + 1], xyz[p + 2], b.out);
        }
        out[2 * i] = seen ? b.out[0] - e.x[i] : Double.NaN;
        out[2 * i + 1] = seen ? b.out[1] - s.observedY(e, i) : Double.NaN;
      }
    }
    return out;
  }

  /** Of absolute values. */
  private static double median(double[] r) {
    double[] a = new double[r.length];
    int n = 0;
    for (double v : r) {
      if (!Double.isNaN(v)) {
        a[n++] = Math.abs(v);
      }
    }
    return n == 0 ? Double.POSITIVE_INFINITY : Select.nth(a, n, n / 2);
  }

  /** The step of weighted least squares; nothing where the dials cannot be told apart. */
  private static double[] solve(double[][] j, double[] r, double sigma) {
    int n = j.length;
    double[][] a = new double[n][n + 1];
    double reach = TUKEY * sigma;
    for (int i = 0; i < r.length; i++) {
      double u = r[i] / reach;
      if (Double.isNaN(r[i]) || Math.abs(u) >= 1) {
        continue;
      }
      double w = (1 - u * u) * (1 - u * u);
      boolean known = true;
      for (int d = 0; d < n; d++) {
        known &= !Double.isNaN(j[d][i]);
      }
      for (int d = 0; known && d < n; d++) {
        for (int c = 0; c < n; c++) {
          a[d][c] += w * j[d][i] * j[c][i];
        }
        a[d][n] -= w * j[d][i] * r[i];
      }
    }
    return eliminate(a);
  }

  /** Gauss, with pivots from the diagonal, which is the largest in a matrix of squares. */
  private static double[] eliminate(double[][] a) {
    int n = a.length;
    double[] size = new double[n];
    for (int i = 0; i < n; i++) {
      size[i] = a[i][i];
    }
    for (int i = 0; i < n; i++) {
      if (!(a[i][i] > 1e-10 * size[i])) {
        return new double[0];
      }
      for (int k = i + 1; k < n; k++) {
        double f = a[k][i] / a[i][i];
        for (int c = i; c <= n; c++) {
          a[k][c] -= f * a[i][c];
        }
      }
    }
    double[] x = new double[n];
    for (int i = n - 1; i >= 0; i--) {
      double v = a[i][n];
      for (int c = i + 1; c < n; c++) {
        v -= a[i][c] * x[c];
      }
      x[i] = v / a[i][i];
    }
    return x;
  }
}
