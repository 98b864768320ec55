package flarvo.vet.adjust;

import java.util.Arrays;

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

  final int block;
  final int size;
  final int shared;
  private final int[] reach; // one past the last column of a row; never falls
  private final int[] start; // where a row begins, less its own number, so that [start + column]
  private final double[] upper;
  final double[] border; // size × shared, row by row
  final double[] corner; // shared × shared
  final double[] right; // size + shared
  private final double[][] pivots;

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
    pivots = new double[block][size];
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

  private boolean factor() {
    for (int k = 0; k < size; k += block) {
      int end = reach[k];
      for (int r = k; r < k + block; r++) {
        for (int q = k; q < r; q++) {
          subtract(upper, at(r, r), upper, at(q, r), upper[at(q, r)], end - r);
        }
        double pivot = upper[at(r, r)];
        if (!(pivot > 0) || !Double.isFinite(pivot)) {
          return false;
        }
        double scale = 1 / Math.sqrt(pivot);
        int o = at(r, 0);
        for (int c = r; c < end; c++) {
          upper[o + c] *= scale;
        }
        System.arraycopy(upper, o + r, pivots[r - k], r, end - r);
      }
      for (int i = k + block; i < end; i++) {
        eliminate(i, end);
      }
    }
    return true;
  }

  /** Takes the block row that was factored last out of row {@code i}. */
  private void eliminate(int i, int end) {
    int q = 0;
    for (; q + 2 < block; q += 3) {
      subtract3(upper, at(i, 0), pivots[q], pivots[q + 1], pivots[q + 2], i, end);
    }
    for (; q < block; q++) {
      subtract(upper, at(i, i), pivots[q], i, pivots[q][i], end - i);
    }
  }

  private static void subtract(double[] a, int to, double[] b, int from, double times, int n) {
    for (int c = 0; c < n; c++) {
      a[to + c] -= times * b[from + c];
    }
  }

  /** Three rows at once: most of the time of an adjustment is spent here. */
  private static void subtract3(
      double[] a, int offset, double[] p, double[] q, double[] r, int from, int end) {
    double x = p[from];
    double y = q[from];
    double z = r[from];
    for (int c = from; c < end; c++) {
      a[offset + c] -= x * p[c] + y * q[c] + z * r[c];
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
