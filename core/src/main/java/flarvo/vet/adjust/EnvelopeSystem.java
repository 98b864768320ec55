package flarvo.vet.adjust;

import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * A symmetric system whose upper half is kept row by row, each row only as far as it reaches, with
 * a few dense columns at its right edge: what remains of an adjustment when the points are
 * eliminated. Neighbouring frames share trackers, far ones do not, so rows are short.
 *
 * <pre>
 *   ┌ ▓▓▓░        ┆▓ ┐
 *   │  ▓▓▓▓       ┆▓ │      ▓ kept   ░ fill-in, kept too
 *   │   ▓▓▓▓░     ┆▓ │      right of ┆: what all cameras share
 *   │    …        ┆▓ │
 *   └┄┄┄┄┄┄┄┄┄┄┄┄┄┆▓ ┘
 * </pre>
 *
 * Factored in place as {@code Uᵀ U}, block row by block row; see George and Liu, "Computer Solution
 * of Large Sparse Positive Definite Systems", 1981, on envelopes.
 */
final class EnvelopeSystem {

  /** Doubles that a system may hold: 1 GB. */
  static final long LARGEST = 1L << 27;

  /** Rows of a panel, about. */
  private static final int PANEL = 48;

  /** Columns of a tile. */
  private static final int TILE = 128;

  /** Tiles times rows of a panel from which several threads pay. */
  private static final int WORTH_SHARING = 96;

  final int block;
  private final int panel;
  final int size;
  final int shared;
  private final int[] reach; // one past the last column of a row; never falls
  private final int[] start; // where a row begins, less its own number, so that [start + column]
  private final double[] upper;
  final double[] border; // size × shared, row by row
  final double[] corner; // shared × shared
  final double[] right; // size + shared
  private final double[][] pivots;

  /** A row at its columns, while others are taken out of it; threads have columns of their own. */
  private final double[] line;

  /**
   * @param farthest for each block row, the last block that it touches
   */
  EnvelopeSystem(int block, int[] farthest, int shared) {
    this.block = block;
    this.size = block * farthest.length;
    this.shared = shared;
    reach = new int[size];
    start = new int[size];
    int far = 0;
    long next = 0;
    for (int i = 0; i < farthest.length; i++) {
      far = Math.max(far, Math.max(i, farthest[i]));
      for (int r = i * block; r < (i + 1) * block; r++) {
        reach[r] = (far + 1) * block;
        start[r] = (int) (next - r);
        next += reach[r] - r;
        if (next > LARGEST) {
          throw new IllegalArgumentException("the system is too large");
        }
      }
    }
    upper = new double[(int) next];
    border = new double[size * shared];
    corner = new double[shared * shared];
    right = new double[size + shared];
    panel = block * Math.max(1, PANEL / block);
    pivots = new double[panel][size];
    line = new double[size];
  }

  /** Adds another of the same shape. */
  void add(EnvelopeSystem o) {
    add(upper, o.upper);
    add(border, o.border);
    add(corner, o.corner);
    add(right, o.right);
  }

  private static void add(double[] to, double[] from) {
    for (int i = 0; i < to.length; i++) {
      to[i] += from[i];
    }
  }

  void clear() {
    Arrays.fill(upper, 0);
    Arrays.fill(border, 0);
    Arrays.fill(corner, 0);
    Arrays.fill(right, 0);
  }

  double[] upper() {
    return upper;
  }

  /** Index of row and column in {@link #upper}; the column is not left of the row. */
  int at(int row, int column) {
    return start[row] + column;
  }

  /** One past the last column of a row. */
  int reach(int row) {
    return reach[row];
  }

  /**
   * Solves for the right side in place. The system is destroyed.
   *
   * @return false where it is not positive definite
   */
  boolean solve() {
    if (!factor()) {
      return false;
    }
    forward();
    if (shared > 0 && !solveShared()) {
      return false;
    }
    backward();
    return true;
  }

  /**
   * A panel of block rows at a time, so that what lies below is read and written once a panel and
   * not once a row; below, in tiles of columns that stay in the cache, several at once. Each number
   * is changed in the same order whatever the machine.
   */
  private boolean factor() {
    for (int k = 0; k < size; k += panel) {
      int next = Math.min(size, k + panel);
      if (!factorPanel(k, next)) {
        return false;
      }
      int end = reach[next - 1];
      int tiles = (end - next + TILE - 1) / TILE;
      int from = k;
      if ((long) tiles * (next - k) < WORTH_SHARING) {
        for (int t = 0; t < tiles; t++) {
          eliminate(from, next, next + t * TILE, Math.min(end, next + (t + 1) * TILE));
        }
      } else {
        IntStream.range(0, tiles)
            .parallel()
            .forEach(
                t -> eliminate(from, next, next + t * TILE, Math.min(end, next + (t + 1) * TILE)));
      }
    }
    return true;
  }

  private boolean factorPanel(int from, int to) {
    for (double[] p : pivots) {
      Arrays.fill(p, from, reach[to - 1], 0);
    }
    for (int k = from; k < to; k += block) {
      int end = reach[k];
      for (int r = k; r < k + block; r++) {
        System.arraycopy(upper, at(r, r), line, r, end - r);
        for (int q = from; q < k; q += block) {
          eliminateRow(q - from, r, r, reach[q]);
        }
        for (int q = k; q < r; q++) {
          double[] pivot = pivots[q - from];
          RowKernels.subtract(line, pivot, pivot[r], r, end);
        }
        if (!(line[r] > 0) || !Double.isFinite(line[r])) {
          return false;
        }
        double scale = 1 / Math.sqrt(line[r]);
        double[] own = pivots[r - from];
        for (int c = r; c < end; c++) {
          own[c] = line[c] * scale;
        }
        System.arraycopy(own, r, upper, at(r, r), end - r);
      }
    }
    return true;
  }

  /** Takes a panel out of the columns of a tile. */
  private void eliminate(int from, int to, int left, int right) {
    for (int i = to; i < right; i++) {
      int first = Math.max(i, left);
      int n = right - first; // a row reaches as far as those before it
      System.arraycopy(upper, at(i, first), line, first, n);
      for (int q = from; q < to; q += block) {
        if (reach[q] > i) {
          eliminateRow(q - from, i, first, Math.min(right, reach[q]));
        }
      }
      System.arraycopy(line, first, upper, at(i, first), n);
    }
  }

  /** Takes a block row of the panel out of a part of row {@code i}, which is in the line. */
  private void eliminateRow(int pivot, int i, int left, int right) {
    int q = pivot;
    int last = pivot + block;
    for (; q + 5 < last; q += 6) {
      RowKernels.subtract6(line, pivots, pivots, q, i, left, right);
    }
    for (; q + 2 < last; q += 3) {
      RowKernels.subtract3(line, pivots, pivots, q, i, left, right);
    }
    for (; q < last; q++) {
      RowKernels.subtract(line, pivots[q], pivots[q][i], left, right);
    }
  }

  /** {@code U⁻ᵀ} applied to the right side and to the border. */
  private void forward() {
    for (int r = 0; r < size; r++) {
      double scale = 1 / upper[at(r, r)];
      right[r] *= scale;
      for (int s = 0; s < shared; s++) {
        border[r * shared + s] *= scale;
      }
      int o = at(r, 0);
      for (int c = r + 1; c < reach[r]; c++) {
        double u = upper[o + c];
        right[c] -= u * right[r];
        for (int s = 0; s < shared; s++) {
          border[c * shared + s] -= u * border[r * shared + s];
        }
      }
    }
  }

  /** The few shared unknowns, from what the cameras leave of the corner. */
  private boolean solveShared() {
    double[] m = corner;
    int n = shared;
    for (int r = 0; r < size; r++) {
      for (int i = 0; i < n; i++) {
        double b = border[r * n + i];
        right[size + i] -= b * right[r];
        for (int j = 0; j < n; j++) {
          m[i * n + j] -= b * border[r * n + j];
        }
      }
    }
    for (int i = 0; i < n; i++) {
      for (int q = 0; q < i; q++) {
        for (int j = i; j < n; j++) {
          m[i * n + j] -= m[q * n + i] * m[q * n + j];
        }
        right[size + i] -= m[q * n + i] * right[size + q];
      }
      if (!(m[i * n + i] > 0) || !Double.isFinite(m[i * n + i])) {
        return false;
      }
      double scale = 1 / Math.sqrt(m[i * n + i]);
      for (int j = i; j < n; j++) {
        m[i * n + j] *= scale;
      }
      right[size + i] *= scale;
    }
    for (int i = n - 1; i >= 0; i--) {
      double v = right[size + i];
      for (int j = i + 1; j < n; j++) {
        v -= m[i * n + j] * right[size + j];
      }
      right[size + i] = v / m[i * n + i];
    }
    for (int r = 0; r < size; r++) {
      for (int i = 0; i < n; i++) {
        right[r] -= border[r * n + i] * right[size + i];
      }
    }
    return true;
  }

  private void backward() {
    for (int r = size - 1; r >= 0; r--) {
      double v = right[r];
      int o = at(r, 0);
      for (int c = r + 1; c < reach[r]; c++) {
        v -= upper[o + c] * right[c];
      }
      right[r] = v / upper[at(r, r)];
    }
  }
}
