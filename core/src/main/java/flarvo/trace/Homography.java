package flarvo.trace;

import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * A map of the plane that keeps straight lines straight: {@code (x, y, 1)} times a matrix, row by
 * row, divided by the third number.
 */
record Homography(double[] m) {

  private static final int SIDE = 3;

  /** From one quad to another, corner by corner; null where a quad is folded. */
  static Homography between(Quad from, Quad to) {
    DMatrixRMaj a = new DMatrixRMaj(8, 8);
    DMatrixRMaj b = new DMatrixRMaj(8, 1);
    for (int i = 0; i < Quad.CORNERS; i++) {
      double x = from.x(i);
      double y = from.y(i);
      double u = to.x(i);
      double v = to.y(i);
      double[] ru = {x, y, 1, 0, 0, 0, -x * u, -y * u};
      double[] rv = {0, 0, 0, x, y, 1, -x * v, -y * v};
      for (int k = 0; k < 8; k++) {
        a.set(2 * i, k, ru[k]);
        a.set(2 * i + 1, k, rv[k]);
      }
      b.set(2 * i, 0, u);
      b.set(2 * i + 1, 0, v);
    }
    DMatrixRMaj x = new DMatrixRMaj(8, 1);
    if (!CommonOps_DDRM.solve(a, b, x)) {
      return null;
    }
    double[] m = new double[9];
    System.arraycopy(x.data, 0, m, 0, 8);
    m[8] = 1;
    return new Homography(m);
  }

  /** This after another: first the other, then this. */
  Homography after(Homography o) {
    double[] out = new double[9];
    for (int r = 0; r < SIDE; r++) {
      for (int c = 0; c < SIDE; c++) {
        for (int k = 0; k < SIDE; k++) {
          out[SIDE * r + c] += m[SIDE * r + k] * o.m[SIDE * k + c];
        }
      }
    }
    return new Homography(out);
  }

  /** The way back, up to a factor that does not count: the adjugate. */
  Homography inverse() {
    return new Homography(
        new double[] {
          m[4] * m[8] - m[5] * m[7], m[2] * m[7] - m[1] * m[8], m[1] * m[5] - m[2] * m[4],
          m[5] * m[6] - m[3] * m[8], m[0] * m[8] - m[2] * m[6], m[2] * m[3] - m[0] * m[5],
          m[3] * m[7] - m[4] * m[6], m[1] * m[6] - m[0] * m[7], m[0] * m[4] - m[1] * m[3]
        });
  }

  double x(double x, double y) {
    return (m[0] * x + m[1] * y + m[2]) / (m[6] * x + m[7] * y + m[8]);
  }

  double y(double x, double y) {
    return (m[3] * x + m[4] * y + m[5]) / (m[6] * x + m[7] * y + m[8]);
  }

  /** Derivatives of a place: of x by x and y, then of y. */
  double[] slopes(double x, double y) {
    double w = m[6] * x + m[7] * y + m[8];
    double u = x(x, y);
    double v = y(x, y);
    return new double[] {
      (m[0] - u * m[6]) / w, (m[1] - u * m[7]) / w, (m[3] - v * m[6]) / w, (m[4] - v * m[7]) / w
    };
  }

  Quad of(Quad q) {
    double[] out = new double[2 * Quad.CORNERS];
    for (int i = 0; i < Quad.CORNERS; i++) {
      out[2 * i] = x(q.x(i), q.y(i));
      out[2 * i + 1] = y(q.x(i), q.y(i));
    }
    return new Quad(out);
  }
}
