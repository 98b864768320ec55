package flarvo.trace;

import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * Corrects the corners of a plane of which a part is hidden. What is seen of it determines where it
 * is, and less well how large, sheared and tilted, which a hidden corner hangs on. But that changes
 * little by little: it is predicted from the frames beside, and counts as much as the fit leaves it
 * open (the update of a Kalman filter; Kalman, "A New Approach to Linear Filtering and Prediction
 * Problems", 1960). Moves and turns, as of a camera in the hand, stay those that were measured.
 */
final class PlaneShapes {

  /** Frames to each side from which a shape is predicted. */
  private static final int BESIDE = 5;

  /** Standard deviation of what a shape differs by from its prediction, in pixels at a corner. */
  private static final double CHANGE_PX = 0.08;

  private static final int SIZE = 2 * Quad.CORNERS;

  /** Move and turn. */
  private static final int RIGID = 3;

  private static final int SHAPE = SIZE - RIGID;

  /**
   * A plane on a frame.
   *
   * @param covariance of its corners, x and y of each in order, square pixels, row by row; null
   *     where it is not known
   */
  record Seen(int frame, Quad quad, double[] covariance) {}

  private PlaneShapes() {}

  /**
   * Corrects some of the frames of a plane.
   *
   * @param all frames in which it was found by one pattern, one after the other
   * @param which of them are corrected
   * @param to is told their corners
   */
  static void correct(List<Seen> all, BitSet which, Map<Integer, Quad> to) {
    if (which.isEmpty()) {
      return;
    }
    double[] variances = all.stream().mapToDouble(PlaneShapes::variance).toArray();
    for (int i = 0; i < all.size(); i++) {
      Seen s = all.get(i);
      Predicted p = which.get(i) && s.covariance != null ? predicted(all, variances, i) : null;
      Quad q = p == null ? null : corrected(s, p);
      if (q != null && q.isConvex()) {
        to.put(s.frame, q);
      }
    }
  }

  /** Mean variance of a shape as it was fitted; 0 where the plane was drawn. */
  private static double variance(Seen s) {
    if (s.covariance == null) {
      return 0;
    }
    DMatrixRMaj b = shapes(s.quad.at());
    DMatrixRMaj cb = new DMatrixRMaj(SIZE, SHAPE);
    CommonOps_DDRM.multTransB(DMatrixRMaj.wrap(SIZE, SIZE, s.covariance), b, cb);
    DMatrixRMaj own = new DMatrixRMaj(SHAPE, SHAPE);
    CommonOps_DDRM.mult(b, cb, own);
    return CommonOps_DDRM.trace(own) / SHAPE;
  }

  /**
   * A shape from those beside it.
   *
   * @param variance of it, square pixels
   */
  private record Predicted(double[] corners, double variance) {}

  /** By a parabola through the frames beside, without the frame itself; null where they are few. */
  private static Predicted predicted(List<Seen> all, double[] variances, int i) {
    Seen own = all.get(i);
    int from = i;
    int to = i + 1;
    while (from > 0 && Math.abs(all.get(from - 1).frame - own.frame) <= BESIDE) {
      from--;
    }
    while (to < all.size() && Math.abs(all.get(to).frame - own.frame) <= BESIDE) {
      to++;
    }
    LocalParabola parabola = new LocalParabola();
    for (int j = from; j < to; j++) {
      double t = all.get(j).frame - own.frame;
      parabola.add(t, weight(t, variances[j]));
    }
    if (!parabola.solve()) {
      return null;
    }
    double[] corners = new double[SIZE];
    double variance = 0;
    for (int j = from; j < to; j++) {
      double t = all.get(j).frame - own.frame;
      double share = parabola.share(t, weight(t, variances[j]));
      if (share != 0) {
        double[] q = laid(all.get(j).quad.at(), own.quad.at());
        for (int k = 0; k < SIZE; k++) {
          corners[k] += share * q[k];
        }
        variance += share * share * variances[j];
      }
    }
    return new Predicted(corners, variance);
  }

  /** The nearer and the surer, the more; none of the frame itself. */
  private static double weight(double frames, double variance) {
    double near = Math.max(0, 1 - Math.abs(frames) / (BESIDE + 1));
    return frames == 0 ? 0 : near * CHANGE_PX * CHANGE_PX / (CHANGE_PX * CHANGE_PX + variance);
  }

  /** A quad moved and turned so that it lies on another as well as it can. */
  private static double[] laid(double[] q, double[] on) {
    double[] a = middle(q);
    double[] b = middle(on);
    double same = 0;
    double cross = 0;
    for (int k = 0; k < SIZE; k += 2) {
      double x = q[k] - a[0];
      double y = q[k + 1] - a[1];
      double u = on[k] - b[0];
      double v = on[k + 1] - b[1];
      same += x * u + y * v;
      cross += x * v - y * u;
    }
    double length = Math.hypot(same, cross);
    double c = same / length;
    double s = cross / length;
    double[] out = new double[SIZE];
    for (int k = 0; k < SIZE; k += 2) {
      double x = q[k] - a[0];
      double y = q[k + 1] - a[1];
      out[k] = b[0] + c * x - s * y;
      out[k + 1] = b[1] + s * x + c * y;
    }
    return out;
  }

  private static double[] middle(double[] q) {
    double[] m = new double[2];
    for (int k = 0; k < SIZE; k++) {
      m[k % 2] += q[k] / Quad.CORNERS;
    }
    return m;
  }

  /** The fit, and its shape as it was predicted: each by how well it is known. */
  private static Quad corrected(Seen s, Predicted p) {
    DMatrixRMaj c = DMatrixRMaj.wrap(SIZE, SIZE, s.covariance);
    DMatrixRMaj b = shapes(s.quad.at());
    DMatrixRMaj off = new DMatrixRMaj(SIZE, 1);
    for (int k = 0; k < SIZE; k++) {
      off.set(k, s.quad.at()[k] - p.corners[k]);
    }
    DMatrixRMaj cb = new DMatrixRMaj(SIZE, SHAPE);
    CommonOps_DDRM.multTransB(c, b, cb);
    DMatrixRMaj sum = new DMatrixRMaj(SHAPE, SHAPE);
    CommonOps_DDRM.mult(b, cb, sum);
    for (int k = 0; k < SHAPE; k++) {
      sum.add(k, k, CHANGE_PX * CHANGE_PX + p.variance);
    }
    DMatrixRMaj shape = new DMatrixRMaj(SHAPE, 1);
    CommonOps_DDRM.mult(b, off, shape);
    DMatrixRMaj solved = new DMatrixRMaj(SHAPE, 1);
    if (!CommonOps_DDRM.solve(sum, shape, solved)) {
      return null;
    }
    DMatrixRMaj move = new DMatrixRMaj(SIZE, 1);
    CommonOps_DDRM.mult(cb, solved, move);
    double[] out = s.quad.at().clone();
    for (int k = 0; k < SIZE; k++) {
      out[k] -= move.get(k);
    }
    return new Quad(out);
  }

  /**
   * What is left of moves of the corners when the whole's move and turn are taken out: an
   * orthonormal base of it, row by row.
   */
  private static DMatrixRMaj shapes(double[] q) {
    double[] m = middle(q);
    double[][] base = new double[SIZE][SIZE];
    for (int k = 0; k < SIZE; k += 2) {
      double x = q[k] - m[0];
      double y = q[k + 1] - m[1];
      base[0][k] = 1;
      base[1][k + 1] = 1;
      base[2][k] = -y;
      base[2][k + 1] = x;
    }
    for (int r = 0; r < RIGID; r++) {
      double length = Math.sqrt(dot(base[r], base[r])); // these are orthogonal as they are
      for (int k = 0; k < SIZE; k++) {
        base[r][k] /= length;
      }
    }
    DMatrixRMaj out = new DMatrixRMaj(SHAPE, SIZE);
    for (int r = RIGID; r < SIZE; r++) {
      double most = 0;
      for (int k = 0; k < SIZE; k++) {
        double[] unit = new double[SIZE];
        unit[k] = 1;
        for (int o = 0; o < r; o++) {
          double d = dot(unit, base[o]);
          for (int n = 0; n < SIZE; n++) {
            unit[n] -= d * base[o][n];
          }
        }
        double length = Math.sqrt(dot(unit, unit));
        if (length > most) {
          most = length;
          base[r] = Arrays.stream(unit).map(v -> v / length).toArray();
        }
      }
      System.arraycopy(base[r], 0, out.data, SIZE * (r - RIGID), SIZE);
    }
    return out;
  }

  private static double dot(double[] a, double[] b) {
    double sum = 0;
    for (int k = 0; k < SIZE; k++) {
      sum += a[k] * b[k];
    }
    return sum;
  }
}
