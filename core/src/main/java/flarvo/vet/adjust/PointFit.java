package flarvo.vet.adjust;

import java.util.Arrays;

/** The place of one point from cameras that stand: where their rays come nearest to each other. */
public final class PointFit {

  private final ObservationModel model = new ObservationModel(AdjustOptions.USUAL);
  private final double[] n = new double[9];
  private final double[] g = new double[3];
  private final double[] d = new double[3];
  private final double[] inverse = new double[9];
  private final double[] ray = new double[3];
  private double rmsPx;
  private double angle;

  /**
   * Places a point.
   *
   * @param use which cameras count
   * @return false where fewer than two see it or it would stand behind one of them
   */
  public boolean place(Bundle b, Tracks t, int j, boolean[] use, int rounds) {
    return nearest(b, t, j, use) && refine(b, t, j, use, rounds);
  }

  /** RMS in pixels of the point that was placed last, over the cameras that counted. */
  public double rmsPx() {
    return rmsPx;
  }

  /** Widest angle, in radians, that one of its rays makes with the first. */
  public double angle() {
    return angle;
  }

  private boolean nearest(Bundle b, Tracks t, int j, boolean[] use) {
    Arrays.fill(n, 0);
    Arrays.fill(g, 0);
    int seen = 0;
    for (int row = t.start[j]; row < t.start[j + 1]; row++) {
      int i = t.camera[row];
      if (!use[i]) {
        continue;
      }
      ray(b, i, t.x[row], t.y[row]);
      for (int r = 0; r < 3; r++) {
        for (int c = 0; c < 3; c++) {
          double m = (r == c ? 1 : 0) - ray[r] * ray[c];
          n[3 * r + c] += m;
          g[r] += m * b.centre[3 * i + c];
        }
      }
      seen++;
    }
    if (seen < 2 || !solve(0)) {
      return false;
    }
    System.arraycopy(d, 0, b.point, 3 * j, 3);
    return true;
  }

  private void ray(Bundle b, int i, double x, double y) {
    double lx = (x - b.cx[i]) / b.focal[i];
    double ly = -(y - b.cy[i]) / (b.focal[i] * b.ratio[i]);
    double l = Math.sqrt(lx * lx + ly * ly + 1);
    double[] m = b.rotation;
    int k = 9 * i;
    for (int r = 0; r < 3; r++) {
      ray[r] = (m[k + 3 * r] * lx + m[k + 3 * r + 1] * ly - m[k + 3 * r + 2]) / l;
    }
  }

  private boolean refine(Bundle b, Tracks t, int j, boolean[] use, int rounds) {
    double cost = cost(b, t, j, use);
    double damping = 1e-6;
    for (int round = 0; round < rounds; round++) {
      Arrays.fill(n, 0);
      Arrays.fill(g, 0);
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        if (use[t.camera[row]]) {
          model.derive(b, t.camera[row], j, t.x[row], t.y[row]);
          for (int r = 0; r < 3; r++) {
            g[r] -= model.jp[r] * model.r[0] + model.jp[3 + r] * model.r[1];
            for (int c = 0; c < 3; c++) {
              n[3 * r + c] += model.jp[r] * model.jp[c] + model.jp[3 + r] * model.jp[3 + c];
            }
          }
        }
      }
      if (!solve(damping)) {
        break;
      }
      for (int a = 0; a < 3; a++) {
        b.point[3 * j + a] += d[a];
      }
      double trial = cost(b, t, j, use);
      if (trial < cost) {
        boolean settled = cost - trial < 1e-9 * cost;
        cost = trial;
        damping = Math.max(1e-12, damping / 10);
        if (settled) {
          break;
        }
      } else {
        for (int a = 0; a < 3; a++) {
          b.point[3 * j + a] -= d[a];
        }
        damping *= 10;
        if (damping > 1e4) {
          break;
        }
      }
    }
    return measure(b, t, j, use);
  }

  private double cost(Bundle b, Tracks t, int j, boolean[] use) {
    double sum = 0;
    for (int row = t.start[j]; row < t.start[j + 1]; row++) {
      if (use[t.camera[row]]) {
        sum += model.residual(b, t.camera[row], j, t.x[row], t.y[row]);
      }
    }
    return sum;
  }

  private boolean measure(Bundle b, Tracks t, int j, boolean[] use) {
    double sum = 0;
    int seen = 0;
    angle = 0;
    double[] first = null;
    boolean front = true;
    for (int row = t.start[j]; row < t.start[j + 1]; row++) {
      int i = t.camera[row];
      if (!use[i]) {
        continue;
      }
      double e = model.residual(b, i, j, t.x[row], t.y[row]);
      front &= e < ObservationModel.BEHIND_PX * ObservationModel.BEHIND_PX;
      sum += e;
      seen++;
      double[] way = new double[3];
      double l = 0;
      for (int a = 0; a < 3; a++) {
        way[a] = b.point[3 * j + a] - b.centre[3 * i + a];
        l += way[a] * way[a];
      }
      l = Math.sqrt(l);
      for (int a = 0; a < 3; a++) {
        way[a] /= l;
      }
      if (first == null) {
        first = way;
      }
      double dot = first[0] * way[0] + first[1] * way[1] + first[2] * way[2];
      angle = Math.max(angle, Math.acos(Math.max(-1, Math.min(1, dot))));
    }
    rmsPx = Math.sqrt(sum / seen);
    return front && seen >= 2 && !Double.isNaN(rmsPx);
  }

  /** Solves {@code n d = g}. */
  private boolean solve(double damping) {
    if (!Symmetric3.invert(n, damping, inverse)) {
      return false;
    }
    for (int r = 0; r < 3; r++) {
      d[r] = inverse[3 * r] * g[0] + inverse[3 * r + 1] * g[1] + inverse[3 * r + 2] * g[2];
    }
    return Double.isFinite(d[0] + d[1] + d[2]);
  }
}
