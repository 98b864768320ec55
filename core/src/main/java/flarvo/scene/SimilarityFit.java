package flarvo.scene;

import java.util.Arrays;
import java.util.List;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.DecompositionFactory_DDRM;
import org.ejml.interfaces.decomposition.EigenDecomposition_F64;

/**
 * The similarity that lays one set of points on another by least squares: Horn, "Closed-form
 * Solution of Absolute Orientation using Unit Quaternions", 1987. A mirror is never used.
 */
public final class SimilarityFit {

  /** Spread below this share of the largest coordinate counts as one place. */
  private static final double SAME_PLACE = 1e-12;

  private static final int REWEIGHTED = 12;

  private SimilarityFit() {}

  /**
   * Scale, turn and shift that take {@code from} to {@code to} with the least sum of squares.
   *
   * @param weights one for each pair, not negative; may be null for all alike
   * @throws IllegalArgumentException when lists differ in length, or all points are in one place
   */
  public static Similarity of(List<Vec3> from, List<Vec3> to, double[] weights) {
    return fit(from, to, weights, false);
  }

  /**
   * @param even scale is the ratio of the spreads, which noise does not shrink
   */
  private static Similarity fit(List<Vec3> from, List<Vec3> to, double[] weights, boolean even) {
    if (from.size() != to.size() || from.isEmpty()) {
      throw new IllegalArgumentException(
          from.size() + " points cannot be aligned to " + to.size() + " others");
    }
    double[] w = weights;
    if (w == null) {
      w = new double[from.size()];
      Arrays.fill(w, 1);
    }
    Vec3 a = centre(from, w);
    Vec3 b = centre(to, w);
    double[] m = new double[9]; // Σ w · from · toᵀ
    double spreadFrom = 0;
    double spreadTo = 0;
    double largest = 0;
    for (int i = 0; i < w.length; i++) {
      Vec3 p = from.get(i).minus(a);
      Vec3 q = to.get(i).minus(b);
      double[] ps = {p.x(), p.y(), p.z()};
      double[] qs = {q.x(), q.y(), q.z()};
      for (int r = 0; r < 3; r++) {
        for (int c = 0; c < 3; c++) {
          m[3 * r + c] += w[i] * ps[r] * qs[c];
        }
      }
      spreadFrom += w[i] * p.dot(p);
      spreadTo += w[i] * q.dot(q);
      largest = Math.max(largest, w[i] * from.get(i).dot(from.get(i)));
    }
    if (!(spreadFrom > SAME_PLACE * SAME_PLACE * largest) || !(spreadTo > 0)) {
      throw new IllegalArgumentException("all points are in one place");
    }
    Rotation turn = turn(m);
    double along = 0;
    for (int i = 0; i < w.length; i++) {
      along += w[i] * to.get(i).minus(b).dot(turn.apply(from.get(i).minus(a)));
    }
    double scale = along / spreadFrom;
    if (even || !(scale > 0)) {
      scale =
          Math.sqrt(
              spreadTo / spreadFrom); // also for points that only a mirror would lay on each other
    }
    return new Similarity(scale, turn, b.minus(turn.apply(a).times(scale)));
  }

  /**
   * The same, but pairs that lie far off count for little: weights fall with the distance, beyond
   * twice the median of all (Cauchy), until they settle.
   */
  public static Similarity robust(List<Vec3> from, List<Vec3> to) {
    double[] w = new double[from.size()];
    Arrays.fill(w, 1);
    Similarity s = fit(from, to, w, true);
    for (int round = 0; round < REWEIGHTED; round++) {
      double[] d = new double[w.length];
      for (int i = 0; i < w.length; i++) {
        d[i] = s.apply(from.get(i)).minus(to.get(i)).length();
      }
      double[] sorted = d.clone();
      Arrays.sort(sorted);
      double scale = 2 * sorted[sorted.length / 2];
      if (!(scale > 0)) {
        return s;
      }
      for (int i = 0; i < w.length; i++) {
        w[i] = 1 / (1 + d[i] * d[i] / (scale * scale));
      }
      s = fit(from, to, w, true);
    }
    return s;
  }

  private static Vec3 centre(List<Vec3> points, double[] w) {
    Vec3 sum = Vec3.ZERO;
    double total = 0;
    for (int i = 0; i < w.length; i++) {
      sum = sum.plus(points.get(i).times(w[i]));
      total += w[i];
    }
    if (!(total > 0)) {
      throw new IllegalArgumentException("no point has a weight");
    }
    return sum.times(1 / total);
  }

  /** Horn's symmetric matrix; its eigenvector of the largest eigenvalue is the quaternion. */
  private static Rotation turn(double[] s) {
    DMatrixRMaj n =
        new DMatrixRMaj(
            4,
            4,
            true,
            s[0] + s[4] + s[8],
            s[5] - s[7],
            s[6] - s[2],
            s[1] - s[3],
            s[5] - s[7],
            s[0] - s[4] - s[8],
            s[1] + s[3],
            s[6] + s[2],
            s[6] - s[2],
            s[1] + s[3],
            -s[0] + s[4] - s[8],
            s[5] + s[7],
            s[1] - s[3],
            s[6] + s[2],
            s[5] + s[7],
            -s[0] - s[4] + s[8]);
    EigenDecomposition_F64<DMatrixRMaj> e = DecompositionFactory_DDRM.eig(4, true, true);
    if (!e.decompose(n)) {
      return Rotation.IDENTITY;
    }
    int best = 0;
    for (int i = 1; i < 4; i++) {
      if (e.getEigenvalue(i).getReal() > e.getEigenvalue(best).getReal()) {
        best = i;
      }
    }
    DMatrixRMaj q = e.getEigenVector(best);
    return Rotation.normalized(q.get(0), q.get(1), q.get(2), q.get(3));
  }

  /** The turn that best takes directions to others, by least squares. */
  public static Rotation turnOf(List<Vec3> from, List<Vec3> to) {
    double[] m = new double[9];
    for (int i = 0; i < from.size(); i++) {
      Vec3 p = from.get(i);
      Vec3 q = to.get(i);
      double[] ps = {p.x(), p.y(), p.z()};
      double[] qs = {q.x(), q.y(), q.z()};
      for (int r = 0; r < 3; r++) {
        for (int c = 0; c < 3; c++) {
          m[3 * r + c] += ps[r] * qs[c];
        }
      }
    }
    return turn(m);
  }
}
