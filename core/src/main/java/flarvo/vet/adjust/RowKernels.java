package flarvo.vet.adjust;

import com.sun.management.HotSpotDiagnosticMXBean;
import java.lang.management.ManagementFactory;

/**
 * Rows of a matrix taken out of another, by factors: most of the time of an adjustment is spent
 * here. Written so that the compiler makes vector instructions of the loops: it does so only where
 * all rows are read and written at the same index, which is a third of the time.
 */
final class RowKernels {

  /**
   * Whether the processor multiplies and adds at once. Where it does not, software would: slowly.
   */
  private static final boolean FUSED = fused();

  private RowKernels() {}

  private static boolean fused() {
    HotSpotDiagnosticMXBean machine =
        ManagementFactory.getPlatformMXBean(HotSpotDiagnosticMXBean.class);
    try {
      return machine != null && Boolean.parseBoolean(machine.getVMOption("UseFMA").getValue());
    } catch (IllegalArgumentException e) {
      return false; // a machine that does not know the word
    }
  }

  /** One row: {@code a[c] -= times · b[c]}, for c from one column up to another. */
  static void subtract(double[] a, double[] b, double times, int from, int end) {
    for (int c = from; c < end; c++) {
      a[c] -= times * b[c];
    }
  }

  /**
   * Three of the {@code rows} from {@code at} on, by what {@code times} has in column {@code row}.
   */
  static void subtract3(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    if (FUSED) {
      fused3(a, rows, times, at, row, from, end);
    } else {
      plain3(a, rows, times, at, row, from, end);
    }
  }

  static void fused3(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    double[] p = rows[at];
    double[] q = rows[at + 1];
    double[] r = rows[at + 2];
    double xp = -times[at][row];
    double xq = -times[at + 1][row];
    double xr = -times[at + 2][row];
    for (int c = from; c < end; c++) {
      double v = Math.fma(xp, p[c], a[c]);
      double w = Math.fma(xq, q[c], v);
      a[c] = Math.fma(xr, r[c], w);
    }
  }

  static void plain3(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    double[] p = rows[at];
    double[] q = rows[at + 1];
    double[] r = rows[at + 2];
    double xp = -times[at][row];
    double xq = -times[at + 1][row];
    double xr = -times[at + 2][row];
    for (int c = from; c < end; c++) {
      a[c] += xp * p[c] + xq * q[c] + xr * r[c];
    }
  }

  /** Six of them. */
  static void subtract6(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    if (FUSED) {
      fused6(a, rows, times, at, row, from, end);
    } else {
      plain6(a, rows, times, at, row, from, end);
    }
  }

  static void fused6(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    double[] p = rows[at];
    double[] q = rows[at + 1];
    double[] r = rows[at + 2];
    double[] s = rows[at + 3];
    double[] t = rows[at + 4];
    double[] u = rows[at + 5];
    double xp = -times[at][row];
    double xq = -times[at + 1][row];
    double xr = -times[at + 2][row];
    double xs = -times[at + 3][row];
    double xt = -times[at + 4][row];
    double xu = -times[at + 5][row];
    for (int c = from; c < end; c++) {
      double v = Math.fma(xp, p[c], a[c]);
      double w = Math.fma(xq, q[c], v);
      v = Math.fma(xr, r[c], w);
      w = Math.fma(xs, s[c], v);
      v = Math.fma(xt, t[c], w);
      a[c] = Math.fma(xu, u[c], v);
    }
  }

  static void plain6(
      double[] a, double[][] rows, double[][] times, int at, int row, int from, int end) {
    double[] p = rows[at];
    double[] q = rows[at + 1];
    double[] r = rows[at + 2];
    double[] s = rows[at + 3];
    double[] t = rows[at + 4];
    double[] u = rows[at + 5];
    double xp = -times[at][row];
    double xq = -times[at + 1][row];
    double xr = -times[at + 2][row];
    double xs = -times[at + 3][row];
    double xt = -times[at + 4][row];
    double xu = -times[at + 5][row];
    for (int c = from; c < end; c++) {
      double v = a[c] + (xp * p[c] + xq * q[c] + xr * r[c]);
      a[c] = v + (xs * s[c] + xt * t[c] + xu * u[c]);
    }
  }
}
