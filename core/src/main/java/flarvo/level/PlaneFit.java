package flarvo.level;

import flarvo.scene.Vec3;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.ejml.simple.SimpleEVD;
import org.ejml.simple.SimpleMatrix;

/**
 * The plane with the least squares of distances to some points.
 *
 * @param normal unit; which of the two sides it shows is open
 * @param middle of the points, on the plane
 */
public record PlaneFit(Vec3 normal, Vec3 middle) {

  /** Points this much nearer to a line than they are long lie on a line. */
  private static final double LINE = 1e-6;

  /** Empty for fewer than three points, or points on one line. */
  public static Optional<PlaneFit> of(List<Vec3> points) {
    return of(points, Collections.nCopies(points.size(), 1.0));
  }

  /**
   * @param weights of the squares, one for each point
   */
  public static Optional<PlaneFit> of(List<Vec3> points, List<Double> weights) {
    if (points.size() < 3) {
      return Optional.empty();
    }
    Vec3 sum = Vec3.ZERO;
    double total = 0;
    for (int i = 0; i < points.size(); i++) {
      sum = sum.plus(points.get(i).times(weights.get(i)));
      total += weights.get(i);
    }
    if (!(total > 0)) {
      return Optional.empty();
    }
    Vec3 middle = sum.times(1 / total);
    SimpleMatrix m = new SimpleMatrix(3, 3);
    for (int j = 0; j < points.size(); j++) {
      Vec3 d = points.get(j).minus(middle).times(Math.sqrt(weights.get(j) / total));
      double[] v = {d.x(), d.y(), d.z()};
      for (int i = 0; i < 3; i++) {
        for (int k = 0; k < 3; k++) {
          m.set(i, k, m.get(i, k) + v[i] * v[k]);
        }
      }
    }
    SimpleEVD<SimpleMatrix> e = m.eig();
    int least = 0;
    int most = 0;
    for (int i = 1; i < 3; i++) {
      least = e.getEigenvalue(i).getReal() < e.getEigenvalue(least).getReal() ? i : least;
      most = e.getEigenvalue(i).getReal() > e.getEigenvalue(most).getReal() ? i : most;
    }
    double widest = e.getEigenvalue(most).getReal();
    double between = m.trace() - widest - e.getEigenvalue(least).getReal();
    if (!(widest > 0) || !(between > LINE * LINE * widest)) {
      return Optional.empty();
    }
    SimpleMatrix n = e.getEigenVector(least);
    return Optional.of(new PlaneFit(new Vec3(n.get(0), n.get(1), n.get(2)).normalized(), middle));
  }

  /** Signed distance of a point from the plane, in the units of the fit. */
  public double distance(Vec3 p) {
    return normal.dot(p.minus(middle));
  }
}
