package flarvo.vet.adjust;

import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.Arrays;

/**
 * Bundle adjustment by the method of Levenberg and Marquardt on the sparse normal equations: points
 * are eliminated (Schur complement) and the cameras that remain are solved in an {@link
 * EnvelopeSystem}. See Triggs, McLauchlan, Hartley and Fitzgibbon, "Bundle Adjustment, a Modern
 * Synthesis", 2000. Where the whole may move, turn and grow freely the damping holds it; the caller
 * lays the result where it wants it.
 */
public final class BundleAdjuster {

  private static final double FIRST_DAMPING = 1e-4;
  private static final double LEAST_DAMPING = 1e-12;
  private static final double MOST_DAMPING = 1e16;

  /** Added to every pivot's diagonal, as a share of it, so that a free direction has one. */
  private static final double FLOOR = 1e-12;

  private static final int POINTS_A_LOOK = 256;

  private final Tracks tracks;
  private final AdjustOptions options;
  private final Progress progress;
  private final ObservationModel model;
  private final EnvelopeSystem system;
  private final int cb;
  private final int pb;
  private final int sb;
  private final double[] cameraDiagonal;
  private final double[] step; // cameras, then shared
  private final double[] pointStep;
  private final BundleStep taken;
  private final double[] downhill; // against the gradient, as it is before points are taken out

  // Scratch for one point: what its rows say, one after the other.
  private final double[] yRows; // Y = W V⁻¹, cb × pb a row
  private final double[][] wColumns; // Wᵀ: pb lists, each cb numbers a row
  private final double[] v = new double[9];
  private final double[] vInverse = new double[9];
  private final double[] gp = new double[3];
  private final double[] ws; // shared × point
  private final double[] towards = new double[3];

  private BundleAdjuster(Tracks tracks, AdjustOptions options, Progress progress) {
    this.tracks = tracks;
    this.options = options;
    this.progress = progress;
    model = new ObservationModel(options);
    cb = model.cameraSize;
    pb = model.pointSize;
    sb = model.sharedSize;
    int[] farthest = new int[tracks.cameras];
    Arrays.setAll(farthest, i -> i);
    int longest = 0;
    for (int j = 0; j < tracks.points; j++) {
      int from = tracks.start[j];
      int to = tracks.start[j + 1];
      longest = Math.max(longest, to - from);
      if (to > from) {
        int first = tracks.camera[from];
        farthest[first] = Math.max(farthest[first], tracks.camera[to - 1]);
      }
    }
    try {
      system = new EnvelopeSystem(cb, farthest, sb);
    } catch (IllegalArgumentException e) {
      throw new InputError(
          "",
          "",
          "the shot is too long and its trackers live too long to be refined in one go",
          "Refine a range of frames, or with fewer trackers",
          e);
    }
    cameraDiagonal = new double[cb * tracks.cameras + sb];
    step = new double[cb * tracks.cameras + sb];
    pointStep = new double[pb * tracks.points];
    taken = new BundleStep(options, cb, step, pointStep);
    downhill = new double[cb * tracks.cameras + sb];
    yRows = new double[longest * cb * pb];
    wColumns = new double[pb][longest * cb];
    ws = new double[sb * pb];
  }

  /**
   * Lowers the cost from a start, which is left as it is.
   *
   * @param start cameras and points of the tracks; with a tripod, points of length one
   * @throws InputError when the system would not fit into memory
   */
  public static Adjustment adjust(
      Bundle start, Tracks tracks, AdjustOptions options, Progress progress) {
    if (start.cameras != tracks.cameras || start.points != tracks.points) {
      throw new IllegalArgumentException("tracks and bundle do not belong together");
    }
    return new BundleAdjuster(tracks, options, progress).run(start);
  }

  /** Half of the sum of losses, square pixels. */
  public static double cost(Bundle b, Tracks t, AdjustOptions options) {
    return cost(b, t, options.loss(), new ObservationModel(options));
  }

  /** Distance in pixels of every row, in the order of the rows. */
  public static double[] distances(Bundle b, Tracks t, AdjustOptions options) {
    ObservationModel model = new ObservationModel(options);
    double[] out = new double[t.rows()];
    for (int j = 0; j < t.points; j++) {
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        out[row] = Math.sqrt(model.residual(b, t.camera[row], j, t.x[row], t.y[row]));
      }
    }
    return out;
  }

  private static double cost(Bundle b, Tracks t, RobustLoss loss, ObservationModel model) {
    double sum = 0;
    for (int j = 0; j < t.points; j++) {
      for (int row = t.start[j]; row < t.start[j + 1]; row++) {
        sum += loss.rho(model.residual(b, t.camera[row], j, t.x[row], t.y[row]));
      }
    }
    return sum / 2;
  }

  private Adjustment run(Bundle start) {
    Bundle now = start.copy();
    Bundle next = start.copy();
    double before = cost(now, tracks, options.loss(), model);
    double cost = before;
    double damping = FIRST_DAMPING;
    double grow = 2;
    int round = 0;
    boolean settled = tracks.rows() == 0 || cost == 0;
    while (!settled && round < options.rounds()) {
      progress.step(round, options.rounds());
      round++;
      build(now, damping);
      double gained = -1;
      double promised = 0;
      double trial = Double.POSITIVE_INFINITY;
      if (system.solve()) {
        System.arraycopy(system.right, 0, step, 0, step.length);
        promised = substitute(now, damping);
        next.take(now);
        taken.move(next);
        trial = cost(next, tracks, options.loss(), model);
        gained = cost - trial;
      }
      if (gained > 0) {
        Bundle swap = now;
        now = next;
        next = swap;
        settled = gained <= options.tolerance() * cost;
        cost = trial;
        double quality = promised > 0 ? gained / promised : 1;
        double q = 2 * quality - 1;
        damping = Math.max(LEAST_DAMPING, damping * Math.max(1 / 3.0, 1 - q * q * q));
        grow = 2;
      } else {
        // A step that changes nothing any more is the end, not a failure.
        settled =
            damping > MOST_DAMPING
                || Double.isFinite(trial) && -gained <= 1e-14 * cost && damping > 1;
        damping *= grow;
        grow *= 2;
      }
    }
    return new Adjustment(now, before, cost, round, settled);
  }

  /** The reduced system: cameras and what they share, every point eliminated. */
  private void build(Bundle b, double damping) {
    system.clear();
    Arrays.fill(cameraDiagonal, 0);
    Arrays.fill(downhill, 0);
    for (int j = 0; j < tracks.points; j++) {
      if (j % POINTS_A_LOOK == 0 && progress.isCancelled()) {
        throw new flarvo.work.Cancelled();
      }
      if (gather(b, j, true)) {
        invert(damping);
        scatter(j);
      }
    }
    damp(damping);
  }

  /**
   * Rows of a point: its own block and gradient, and what ties it to cameras and shared numbers.
   *
   * @param whole also adds what does not depend on the damping to the system
   * @return false for a point that nothing sees
   */
  private boolean gather(Bundle b, int j, boolean whole) {
    int from = tracks.start[j];
    int n = tracks.start[j + 1] - from;
    if (n == 0) {
      return false;
    }
    Arrays.fill(v, 0);
    Arrays.fill(gp, 0);
    Arrays.fill(ws, 0);
    double[] jc = model.jc;
    double[] jp = model.jp;
    double[] js = model.js;
    double[] r = model.r;
    for (int k = 0; k < n; k++) {
      int row = from + k;
      int camera = tracks.camera[row];
      double squared = model.derive(b, camera, j, tracks.x[row], tracks.y[row]);
      double w = options.loss().weight(squared);
      for (int p = 0; p < pb; p++) {
        double a0 = w * jp[p];
        double a1 = w * jp[pb + p];
        gp[p] += a0 * r[0] + a1 * r[1];
        for (int q = p; q < pb; q++) {
          v[3 * p + q] += a0 * jp[q] + a1 * jp[pb + q];
        }
        double[] column = wColumns[p];
        int o = k * cb;
        for (int c = 0; c < cb; c++) {
          column[o + c] = a0 * jc[c] + a1 * jc[cb + c];
        }
        for (int s = 0; s < sb; s++) {
          ws[s * pb + p] += a0 * js[s] + a1 * js[sb + s];
        }
      }
      if (whole) {
        addCamera(camera, w);
      }
    }
    for (int p = 0; p < pb; p++) {
      for (int q = 0; q < p; q++) {
        v[3 * p + q] = v[3 * q + p];
      }
    }
    return true;
  }

  private void addCamera(int camera, double w) {
    double[] jc = model.jc;
    double[] js = model.js;
    double[] r = model.r;
    double[] upper = system.upper();
    for (int c = 0; c < cb; c++) {
      double a0 = w * jc[c];
      double a1 = w * jc[cb + c];
      int row = camera * cb + c;
      double g = a0 * r[0] + a1 * r[1];
      system.right[row] -= g;
      downhill[row] -= g;
      cameraDiagonal[row] += a0 * jc[c] + a1 * jc[cb + c];
      int o = system.at(row, camera * cb);
      for (int d = c; d < cb; d++) {
        upper[o + d] += a0 * jc[d] + a1 * jc[cb + d];
      }
      for (int s = 0; s < sb; s++) {
        system.border[row * sb + s] += a0 * js[s] + a1 * js[sb + s];
      }
    }
    for (int s = 0; s < sb; s++) {
      double a0 = w * js[s];
      double a1 = w * js[sb + s];
      double g = a0 * r[0] + a1 * r[1];
      system.right[system.size + s] -= g;
      downhill[system.size + s] -= g;
      cameraDiagonal[system.size + s] += a0 * js[s] + a1 * js[sb + s];
      for (int t = 0; t < sb; t++) {
        system.corner[s * sb + t] += a0 * js[t] + a1 * js[sb + t];
      }
    }
  }

  /** The point's block with its diagonal raised, inverted. */
  private void invert(double damping) {
    double raise = 1 + damping + FLOOR;
    double tiny = 1e-30;
    if (pb == 2) {
      double a = v[0] * raise + tiny;
      double d = v[4] * raise + tiny;
      double det = a * d - v[1] * v[1];
      vInverse[0] = d / det;
      vInverse[1] = -v[1] / det;
      vInverse[3] = vInverse[1];
      vInverse[4] = a / det;
      return;
    }
    double a = v[0] * raise + tiny;
    double b = v[1];
    double c = v[2];
    double d = v[4] * raise + tiny;
    double e = v[5];
    double f = v[8] * raise + tiny;
    double ca = d * f - e * e;
    double cb1 = c * e - b * f;
    double cc = b * e - c * d;
    double det = a * ca + b * cb1 + c * cc;
    vInverse[0] = ca / det;
    vInverse[1] = cb1 / det;
    vInverse[2] = cc / det;
    vInverse[3] = vInverse[1];
    vInverse[4] = (a * f - c * c) / det;
    vInverse[5] = (b * c - a * e) / det;
    vInverse[6] = vInverse[2];
    vInverse[7] = vInverse[5];
    vInverse[8] = (a * d - b * b) / det;
  }

  /** Takes {@code W V⁻¹ Wᵀ} of one point out of the system. */
  private void scatter(int j) {
    int from = tracks.start[j];
    int n = tracks.start[j + 1] - from;
    double[] upper = system.upper();
    for (int k = 0; k < n; k++) {
      for (int c = 0; c < cb; c++) {
        for (int p = 0; p < pb; p++) {
          double y = 0;
          for (int q = 0; q < pb; q++) {
            y += wColumns[q][k * cb + c] * vInverse[3 * q + p];
          }
          yRows[(k * cb + c) * pb + p] = y;
        }
      }
    }
    for (int k = 0; k < n; k++) {
      int camera = tracks.camera[from + k];
      for (int c = 0; c < cb; c++) {
        int row = camera * cb + c;
        int y = (k * cb + c) * pb;
        double sum = 0;
        for (int p = 0; p < pb; p++) {
          sum += yRows[y + p] * gp[p];
        }
        system.right[row] += sum;
        for (int s = 0; s < sb; s++) {
          double tie = 0;
          for (int p = 0; p < pb; p++) {
            tie += yRows[y + p] * ws[s * pb + p];
          }
          system.border[row * sb + s] -= tie;
        }
        // Frames in a row lie side by side both in the system and in the scratch.
        int m = k;
        while (m < n) {
          int run = m;
          int at = tracks.camera[from + m];
          while (run + 1 < n && tracks.camera[from + run + 1] == at + (run + 1 - m)) {
            run++;
          }
          int skip = m == k ? c : 0; // the upper half alone
          int to = system.at(row, at * cb + skip);
          int source = m * cb + skip;
          int length = (run + 1) * cb - source;
          if (pb == 3) {
            subtract3(upper, to, source, length, y);
          } else {
            subtract2(upper, to, source, length, y);
          }
          m = run + 1;
        }
      }
    }
    for (int s = 0; s < sb; s++) {
      for (int p = 0; p < pb; p++) {
        double y = 0;
        for (int q = 0; q < pb; q++) {
          y += ws[s * pb + q] * vInverse[3 * q + p];
        }
        system.right[system.size + s] += y * gp[p];
        for (int t = 0; t < sb; t++) {
          system.corner[s * sb + t] -= y * ws[t * pb + p];
        }
      }
    }
  }

  private void subtract3(double[] to, int at, int source, int n, int y) {
    double x0 = yRows[y];
    double x1 = yRows[y + 1];
    double x2 = yRows[y + 2];
    double[] w0 = wColumns[0];
    double[] w1 = wColumns[1];
    double[] w2 = wColumns[2];
    for (int i = 0; i < n; i++) {
      to[at + i] -= x0 * w0[source + i] + x1 * w1[source + i] + x2 * w2[source + i];
    }
  }

  private void subtract2(double[] to, int at, int source, int n, int y) {
    double x0 = yRows[y];
    double x1 = yRows[y + 1];
    double[] w0 = wColumns[0];
    double[] w1 = wColumns[1];
    for (int i = 0; i < n; i++) {
      to[at + i] -= x0 * w0[source + i] + x1 * w1[source + i];
    }
  }

  /** Raises the diagonal by a share of what it was before points were taken out of it. */
  private void damp(double damping) {
    double[] upper = system.upper();
    for (int r = 0; r < system.size; r++) {
      double d = cameraDiagonal[r];
      upper[system.at(r, r)] += damping * d + FLOOR * d + 1e-30;
    }
    for (int s = 0; s < sb; s++) {
      double d = cameraDiagonal[system.size + s];
      system.corner[s * sb + s] += damping * d + FLOOR * d + 1e-30;
    }
  }

  /**
   * Point steps from camera steps.
   *
   * @return how much the cost should fall, were it as curved as it seems here
   */
  private double substitute(Bundle b, double damping) {
    double promised = 0;
    for (int i = 0; i < step.length; i++) {
      promised += step[i] * (damping * cameraDiagonal[i] * step[i] + downhill[i]);
    }
    for (int j = 0; j < tracks.points; j++) {
      if (!gather(b, j, false)) {
        Arrays.fill(pointStep, pb * j, pb * (j + 1), 0);
        continue;
      }
      invert(damping);
      int from = tracks.start[j];
      int n = tracks.start[j + 1] - from;
      for (int p = 0; p < pb; p++) {
        double sum = gp[p];
        double[] column = wColumns[p];
        for (int k = 0; k < n; k++) {
          int at = tracks.camera[from + k] * cb;
          for (int c = 0; c < cb; c++) {
            sum += column[k * cb + c] * step[at + c];
          }
        }
        for (int s = 0; s < sb; s++) {
          sum += ws[s * pb + p] * step[system.size + s];
        }
        towards[p] = -sum;
      }
      for (int p = 0; p < pb; p++) {
        double d = 0;
        for (int q = 0; q < pb; q++) {
          d += vInverse[3 * p + q] * towards[q];
        }
        pointStep[pb * j + p] = d;
        promised += d * (damping * v[4 * p] * d - gp[p]);
      }
    }
    return promised / 2;
  }

  /** One number of a camera, a point or the shared ones moved, as a step moves it: for checks. */
  static void moved(Bundle b, AdjustOptions o, int camera, int point, int column, double by) {
    BundleAdjuster a = new BundleAdjuster(noTracks(b.cameras, b.points), o, Progress.NONE);
    if (column < a.cb) {
      a.step[camera * a.cb + column] = by;
    } else if (column < a.cb + a.pb) {
      a.pointStep[point * a.pb + column - a.cb] = by;
    } else {
      a.step[a.system.size + column - a.cb - a.pb] = by;
    }
    a.taken.move(b);
  }

  private static Tracks noTracks(int cameras, int points) {
    Tracks.Builder t = new Tracks.Builder(cameras);
    for (int j = 0; j < points; j++) {
      t.endPoint();
    }
    return t.build();
  }
}
