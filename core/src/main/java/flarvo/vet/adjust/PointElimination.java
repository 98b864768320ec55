package flarvo.vet.adjust;

import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.Arrays;

/**
 * Takes points out of the normal equations of an adjustment, and finds their steps once those of
 * the cameras are known: what one thread works with. It has a system of its own, so that several
 * work side by side; their sum is the whole.
 */
final class PointElimination {

  private static final int POINTS_A_LOOK = 256;

  /** Points that are taken out at once. */
  private static final int COLLECTED = 16;

  /** Columns of a tile. */
  private static final int TILE = 512;

  /** What is left for the cameras and what they share. */
  final EnvelopeSystem system;

  final double[] cameraDiagonal;
  final double[] downhill; // against the gradient, as it is before points are taken out

  private final Tracks tracks;
  private final AdjustOptions options;
  private final ObservationModel model;
  private final GatheredPoints gathered; // null where there is no room
  private final int cb;
  private final int pb;
  private final int sb;

  // Scratch for one point: what its rows say, one after the other.
  private final double[][] wColumns; // Wᵀ: pb lists, each cb numbers a row
  private final double[][] yColumns; // Y = W V⁻¹, alike
  private final double[] v = new double[9];
  private final double[] vInverse = new double[9];
  private final double[] gp = new double[3];
  private final double[] ws; // shared × point
  private final double[] towards = new double[3];

  // What ties collected points to cameras: W and W V⁻¹, pb lists a point, a number for each row of
  // the system.
  private final double[][] tie;
  private final double[][] weighed;
  private final double[] line; // a row at its columns, while points are taken out of it
  private final int[] first = new int[COLLECTED]; // row of a point
  private final int[] end = new int[COLLECTED];
  private int slots;

  /**
   * @param farthest for each camera, the last one that shares a point with it
   * @param longest rows of a point, at most
   * @param gathered what is kept between the two steps, shared by all threads; null for nothing
   * @throws IllegalArgumentException when the system would not fit into memory
   */
  PointElimination(
      Tracks tracks, AdjustOptions options, int[] farthest, int longest, GatheredPoints gathered) {
    this.tracks = tracks;
    this.gathered = gathered;
    this.options = options;
    model = new ObservationModel(options);
    cb = model.cameraSize;
    pb = model.pointSize;
    sb = model.sharedSize;
    system = new EnvelopeSystem(cb, farthest, sb);
    cameraDiagonal = new double[cb * tracks.cameras + sb];
    downhill = new double[cb * tracks.cameras + sb];
    wColumns = new double[pb][longest * cb];
    yColumns = new double[pb][longest * cb];
    ws = new double[sb * pb];
    tie = new double[COLLECTED * pb][cb * tracks.cameras];
    weighed = new double[COLLECTED * pb][cb * tracks.cameras];
    line = new double[cb * tracks.cameras];
  }

  /**
   * The reduced system of some points alone: cameras and what they share.
   *
   * @param points all in their order, of which those from one to another are taken
   */
  void build(Bundle b, int[] points, int from, int to, double damping, Progress progress) {
    system.clear();
    Arrays.fill(cameraDiagonal, 0);
    Arrays.fill(downhill, 0);
    for (int k = from; k < to; k++) {
      int j = points[k];
      if (k % POINTS_A_LOOK == 0 && progress.isCancelled()) {
        throw new Cancelled();
      }
      if (gather(b, j, true)) {
        if (gathered != null) {
          gathered.put(j, wColumns, v, gp, ws);
        }
        invert(damping);
        scatter(j);
        collect(j);
      }
    }
    takeOut();
  }

  /** With what another one built of other points. */
  void add(PointElimination o) {
    system.add(o.system);
    for (int i = 0; i < downhill.length; i++) {
      cameraDiagonal[i] += o.cameraDiagonal[i];
      downhill[i] += o.downhill[i];
    }
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
    double weight = tracks.weight(j);
    for (int k = 0; k < n; k++) {
      int row = from + k;
      int camera = tracks.camera[row];
      double squared = model.derive(b, camera, j, tracks.x[row], tracks.y[row]);
      double w = weight * options.loss().weight(squared);
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
    double raise = 1 + damping + BundleAdjuster.FLOOR;
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

  /** What a point takes out of the right side and of what all cameras share. */
  private void scatter(int j) {
    int from = tracks.start[j];
    int n = tracks.start[j + 1] - from;
    for (int p = 0; p < pb; p++) {
      weigh(yColumns[p], p, n * cb);
    }
    for (int k = 0; k < n; k++) {
      int camera = tracks.camera[from + k];
      for (int c = 0; c < cb; c++) {
        int row = camera * cb + c;
        double sum = 0;
        for (int p = 0; p < pb; p++) {
          sum += yColumns[p][k * cb + c] * gp[p];
        }
        system.right[row] += sum;
        for (int s = 0; s < sb; s++) {
          double tie = 0;
          for (int p = 0; p < pb; p++) {
            tie += yColumns[p][k * cb + c] * ws[s * pb + p];
          }
          system.border[row * sb + s] -= tie;
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

  /** Column {@code p} of {@code Y = W V⁻¹}. */
  private void weigh(double[] y, int p, int rows) {
    double[] w0 = wColumns[0];
    double[] w1 = wColumns[1];
    double v0 = vInverse[p];
    double v1 = vInverse[3 + p];
    if (pb == 2) {
      for (int i = 0; i < rows; i++) {
        y[i] = w0[i] * v0 + w1[i] * v1;
      }
      return;
    }
    double[] w2 = wColumns[2];
    double v2 = vInverse[6 + p];
    for (int i = 0; i < rows; i++) {
      y[i] = w0[i] * v0 + w1[i] * v1 + w2[i] * v2;
    }
  }

  /** Keeps what ties a point to its cameras until enough of them can be taken out at once. */
  private void collect(int j) {
    int from = tracks.start[j];
    int n = tracks.start[j + 1] - from;
    first[slots] = tracks.camera[from] * cb;
    end[slots] = (tracks.camera[from + n - 1] + 1) * cb;
    boolean gapless = end[slots] - first[slots] == n * cb;
    for (int p = 0; p < pb; p++) {
      double[] w = tie[slots * pb + p];
      double[] y = weighed[slots * pb + p];
      if (gapless) {
        System.arraycopy(wColumns[p], 0, w, first[slots], n * cb);
        System.arraycopy(yColumns[p], 0, y, first[slots], n * cb);
        continue;
      }
      Arrays.fill(w, first[slots], end[slots], 0); // frames on which it is not seen
      Arrays.fill(y, first[slots], end[slots], 0);
      for (int k = 0; k < n; k++) {
        int at = tracks.camera[from + k] * cb;
        for (int c = 0; c < cb; c++) {
          w[at + c] = wColumns[p][k * cb + c];
          y[at + c] = yColumns[p][k * cb + c];
        }
      }
    }
    if (++slots == first.length) {
      takeOut();
    }
  }

  /**
   * Takes {@code W V⁻¹ Wᵀ} of the points that were collected out of the system: in tiles of columns
   * that stay in the cache, each number in the order of the points.
   */
  private void takeOut() {
    int left = Integer.MAX_VALUE;
    int right = 0;
    for (int s = 0; s < slots; s++) {
      left = Math.min(left, first[s]);
      right = Math.max(right, end[s]);
    }
    for (int tile = left; tile < right; tile += TILE) {
      int edge = Math.min(right, tile + TILE);
      for (int row = left; row < edge; row++) {
        takeOut(row, Math.max(row, tile), edge);
      }
    }
    slots = 0;
  }

  private void takeOut(int row, int from, int tileEnd) {
    int edge = Math.min(tileEnd, system.reach(row));
    if (edge <= from) {
      return;
    }
    System.arraycopy(system.upper(), system.at(row, from), line, from, edge - from);
    int s = 0;
    while (s < slots) {
      if (first[s] > row || end[s] <= row) {
        s++;
        continue;
      }
      int to = Math.min(edge, end[s]);
      int at = s * pb;
      boolean pair = pb == 3 && s + 1 < slots && first[s + 1] <= row && end[s + 1] > row;
      if (pair) {
        int other = Math.min(edge, end[s + 1]);
        int both = Math.min(to, other);
        RowKernels.subtract6(line, tie, weighed, at, row, from, both);
        if (to > both) {
          RowKernels.subtract3(line, tie, weighed, at, row, Math.max(from, both), to);
        } else {
          RowKernels.subtract3(line, tie, weighed, at + pb, row, Math.max(from, both), other);
        }
        s += 2;
      } else {
        if (pb == 3) {
          RowKernels.subtract3(line, tie, weighed, at, row, from, to);
        } else {
          subtract2(at, row, from, to);
        }
        s++;
      }
    }
    System.arraycopy(line, from, system.upper(), system.at(row, from), edge - from);
  }

  private void subtract2(int at, int row, int from, int to) {
    double[] a = line;
    double[] p = tie[at];
    double[] q = tie[at + 1];
    double x = weighed[at][row];
    double y = weighed[at + 1][row];
    for (int c = from; c < to; c++) {
      a[c] -= x * p[c] + y * q[c];
    }
  }

  /**
   * Steps of some points from those of the cameras.
   *
   * @param step of cameras, then of what they share
   * @param pointStep written to
   * @return how much twice the cost should fall by them, were it as curved as it seems here
   */
  double substitute(
      Bundle b,
      int[] points,
      int begin,
      int stop,
      double damping,
      double[] step,
      double[] pointStep) {
    double promised = 0;
    for (int i = begin; i < stop; i++) {
      int j = points[i];
      if (tracks.seen(j) == 0) {
        Arrays.fill(pointStep, pb * j, pb * (j + 1), 0);
        continue;
      }
      double[][] ties = wColumns;
      int tied = 0;
      if (gathered == null) {
        gather(b, j, false);
      } else {
        gathered.get(j, v, gp, ws);
        ties = gathered.ties();
        tied = gathered.first(j);
      }
      invert(damping);
      int from = tracks.start[j];
      int n = tracks.start[j + 1] - from;
      for (int p = 0; p < pb; p++) {
        double sum = gp[p];
        double[] column = ties[p];
        for (int k = 0; k < n; k++) {
          int at = tracks.camera[from + k] * cb;
          for (int c = 0; c < cb; c++) {
            sum += column[tied + k * cb + c] * step[at + c];
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
    return promised;
  }
}
