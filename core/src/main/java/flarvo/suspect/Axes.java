package flarvo.suspect;

import java.util.ArrayList;
import java.util.List;
import java.util.StringJoiner;

/** The 48 ways to name and turn round three axes, as matrices row by row. */
final class Axes {

  private static final int[][] ORDERS = {
    {0, 1, 2}, {0, 2, 1}, {1, 0, 2}, {1, 2, 0}, {2, 0, 1}, {2, 1, 0}
  };

  /** Those that turn; the identity comes first. */
  static final List<double[]> TURNS = all(1);

  /** Those that mirror. */
  static final List<double[]> MIRRORS = all(-1);

  private Axes() {}

  private static List<double[]> all(int wanted) {
    List<double[]> out = new ArrayList<>();
    for (int[] order : ORDERS) {
      for (int s = 0; s < 8; s++) {
        double[] m = new double[9];
        for (int row = 0; row < 3; row++) {
          m[3 * row + order[row]] = (s >> row & 1) == 0 ? 1 : -1;
        }
        if (Math.signum(determinant(m)) == wanted) {
          out.add(m);
        }
      }
    }
    return List.copyOf(out);
  }

  static double determinant(double[] m) {
    return m[0] * (m[4] * m[8] - m[5] * m[7])
        - m[1] * (m[3] * m[8] - m[5] * m[6])
        + m[2] * (m[3] * m[7] - m[4] * m[6]);
  }

  static double[] times(double[] a, double[] b) {
    double[] out = new double[9];
    for (int i = 0; i < 3; i++) {
      for (int j = 0; j < 3; j++) {
        out[3 * i + j] = a[3 * i] * b[j] + a[3 * i + 1] * b[3 + j] + a[3 * i + 2] * b[6 + j];
      }
    }
    return out;
  }

  static double[] times(double k, double[] m) {
    double[] out = new double[9];
    for (int i = 0; i < 9; i++) {
      out[i] = k * m[i];
    }
    return out;
  }

  static double[] apply(double[] m, double[] v) {
    return new double[] {
      m[0] * v[0] + m[1] * v[1] + m[2] * v[2],
      m[3] * v[0] + m[4] * v[1] + m[5] * v[2],
      m[6] * v[0] + m[7] * v[1] + m[8] * v[2]
    };
  }

  /** What stands where x, y and z should: {@code +X -Z +Y}. */
  static String words(double[] m) {
    StringJoiner out = new StringJoiner(" ");
    for (int row = 0; row < 3; row++) {
      for (int c = 0; c < 3; c++) {
        if (m[3 * row + c] != 0) {
          out.add((m[3 * row + c] > 0 ? "+" : "-") + "XYZ".charAt(c));
        }
      }
    }
    return out.toString();
  }
}
