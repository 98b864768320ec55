package flarvo.level;

import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.List;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.DecompositionFactory_DDRM;
import org.ejml.interfaces.decomposition.EigenDecomposition_F64;

/**
 * Least squares of the equations over turn, shift and size by Gauss and Newton. The unknowns are a
 * small turn ω about the middle of the trackers, the shift τ of that middle and {@code u = 1/s}:
 *
 * <pre>
 *   ∂r/∂ω = (R v) × e      ∂r/∂τ = Σk · e      ∂r/∂u = −known
 * </pre>
 *
 * with v = Σ kᵢ (pᵢ − middle). What no equation speaks of is not moved: each step is the shortest
 * one, and the size is left alone unless the equations determine it.
 */
final class LevelFit {

  static final int UNKNOWNS = 7;

  /** Eigenvalues of JᵀJ below this share of the largest are nothing; columns are of like size. */
  private static final double NOTHING = 1e-14;

  /** A step below this is none. */
  private static final double STILL = 1e-14;

  /** Below this a step is taken even where rounding hides that the cost falls. */
  private static final double SMALL = 1e-5;

  private static final int STEPS = 100;
  private static final int HALVINGS = 12;

  private final List<Equation> equations;
  private final Vec3[] at;
  private final Vec3 middle;
  private final double reach;
  private final double metres;

  Rotation turn;
  Vec3 shift;
  double u;
  double cost;

  /**
   * @param at places of the trackers in solve space, by number
   * @param start level to begin from, and to stay with where nothing else is said
   */
  LevelFit(List<Equation> equations, Vec3[] at, Similarity start) {
    this.equations = equations;
    this.at = at;
    Vec3 sum = Vec3.ZERO;
    for (Vec3 v : at) {
      sum = sum.plus(v);
    }
    middle = sum.times(1.0 / at.length);
    double far = 0;
    for (Vec3 v : at) {
      far = Math.max(far, v.minus(middle).length());
    }
    reach = far > 0 ? far : 1;
    double known = 0;
    for (Equation e : equations) {
      known = Math.max(known, Math.abs(e.known()));
    }
    metres = known > 0 ? known : 1;
    turn = start.rotation();
    u = 1 / start.scale();
    shift = turn.apply(middle).plus(start.translation().times(u));
    cost = cost(turn, shift, u);
  }

  /** The same equations from another turn about the middle. */
  LevelFit turned(Rotation to) {
    LevelFit f = new LevelFit(equations, at, level());
    f.turn = to;
    f.cost = f.cost(f.turn, f.shift, f.u);
    return f;
  }

  Similarity level() {
    double s = 1 / u;
    return new Similarity(s, turn, shift.minus(turn.apply(middle)).times(s));
  }

  double residual(Equation e) {
    return residual(e, turn, shift, u);
  }

  private double residual(Equation e, Rotation r, Vec3 tau, double size) {
    Vec3 v = e.combined(at);
    if (e.isDistance()) {
      return v.length() - size * e.known();
    }
    double k = e.places();
    return e.direction().dot(r.apply(v.minus(middle.times(k))))
        + k * e.direction().dot(tau)
        - size * e.known();
  }

  /** Unit direction that an equation measures along, in solve space. */
  Vec3 inSolve(Equation e) {
    return e.isDistance() ? e.combined(at).normalized() : turn.inverse().apply(e.direction());
  }

  private double cost(Rotation r, Vec3 tau, double size) {
    double sum = 0;
    for (Equation e : equations) {
      double d = residual(e, r, tau, size);
      sum += e.weight() * e.weight() * d * d;
    }
    return sum;
  }

  /** Derivatives of one weighted equation on columns of like size: turns, shifts, size. */
  void derive(Equation e, double[] row) {
    java.util.Arrays.fill(row, 0);
    double w = e.weight();
    if (!e.isDistance()) {
      double k = e.places();
      Vec3 v = turn.apply(e.combined(at).minus(middle.times(k)));
      Vec3 c = v.cross(e.direction());
      row[0] = w * c.x() / reach;
      row[1] = w * c.y() / reach;
      row[2] = w * c.z() / reach;
      row[3] = w * k * e.direction().x();
      row[4] = w * k * e.direction().y();
      row[5] = w * k * e.direction().z();
    }
    row[6] = -w * e.known() / metres;
  }

  /** A step along the columns of {@link #derive}. */
  private void go(double[] z, double share) {
    Vec3 omega = new Vec3(z[0], z[1], z[2]).times(share / reach);
    double angle = omega.length();
    if (angle > 0) {
      turn = Rotation.about(omega.times(1 / angle), angle).after(turn);
    }
    shift = shift.plus(new Vec3(z[3], z[4], z[5]).times(share));
    u += share * z[6] / metres;
  }

  double[] normal() {
    double[] n = new double[UNKNOWNS * UNKNOWNS];
    double[] row = new double[UNKNOWNS];
    for (Equation e : equations) {
      derive(e, row);
      for (int i = 0; i < UNKNOWNS; i++) {
        for (int k = 0; k < UNKNOWNS; k++) {
          n[UNKNOWNS * i + k] += row[i] * row[k];
        }
      }
    }
    return n;
  }

  /** Whether the equations, as they lie now, say how large the scene is. */
  boolean sizeKnown() {
    // Known where no empty direction of the unknowns has a part in the size.
    for (double[] v : empty(normal(), UNKNOWNS)) {
      if (Math.abs(v[6]) > 1e-6) {
        return false;
      }
    }
    return true;
  }

  /** Goes to the nearest lowest place. */
  LevelFit settle() {
    for (int step = 0; step < STEPS; step++) {
      boolean sized = sizeKnown();
      double[] n = normal();
      double[] g = new double[UNKNOWNS];
      double[] row = new double[UNKNOWNS];
      for (Equation e : equations) {
        derive(e, row);
        double r = e.weight() * residual(e);
        for (int i = 0; i < UNKNOWNS; i++) {
          g[i] -= row[i] * r;
        }
      }
      double[] z = minimumNorm(n, g, sized ? UNKNOWNS : UNKNOWNS - 1);
      double length = 0;
      for (double v : z) {
        length += v * v;
      }
      length = Math.sqrt(length);
      if (length < STILL || !step(z, length < SMALL)) {
        break;
      }
    }
    return this;
  }

  private boolean step(double[] z, boolean small) {
    Rotation turnBefore = turn;
    Vec3 shiftBefore = shift;
    double before = u;
    double was = cost;
    double share = 1;
    for (int i = 0; i < HALVINGS; i++) {
      go(z, share);
      double now = cost(turn, shift, u);
      boolean better = now < was || small && now <= was * (1 + 1e-9) + Double.MIN_NORMAL;
      if (better && u > 0) {
        cost = now;
        return true;
      }
      turn = turnBefore;
      shift = shiftBefore;
      u = before;
      share /= 2;
    }
    return false;
  }

  /** The shortest z that solves the first {@code m} unknowns of {@code n z = g} best. */
  private static double[] minimumNorm(double[] n, double[] g, int m) {
    double[] inverse = pseudoInverse(n, m);
    double[] z = new double[UNKNOWNS];
    for (int i = 0; i < m; i++) {
      for (int k = 0; k < m; k++) {
        z[i] += inverse[m * i + k] * g[k];
      }
    }
    return z;
  }

  /** Of the first {@code m} unknowns; what is empty stays so. */
  static double[] pseudoInverse(double[] n, int m) {
    EigenDecomposition_F64<DMatrixRMaj> e = eigen(n, m);
    double most = most(e, m);
    double[] out = new double[m * m];
    for (int q = 0; q < m; q++) {
      double value = e.getEigenvalue(q).getReal();
      if (value > NOTHING * most) {
        DMatrixRMaj v = e.getEigenVector(q);
        for (int i = 0; i < m; i++) {
          for (int k = 0; k < m; k++) {
            out[m * i + k] += v.get(i) * v.get(k) / value;
          }
        }
      }
    }
    return out;
  }

  /** Directions of the first {@code m} unknowns that no equation speaks of. */
  static List<double[]> empty(double[] n, int m) {
    EigenDecomposition_F64<DMatrixRMaj> e = eigen(n, m);
    double most = most(e, m);
    List<double[]> out = new java.util.ArrayList<>();
    for (int k = 0; k < m; k++) {
      if (!(e.getEigenvalue(k).getReal() > NOTHING * most)) {
        out.add(e.getEigenVector(k).getData().clone());
      }
    }
    return out;
  }

  private static double most(EigenDecomposition_F64<DMatrixRMaj> e, int m) {
    double most = 0;
    for (int k = 0; k < m; k++) {
      most = Math.max(most, e.getEigenvalue(k).getReal());
    }
    return most;
  }

  private static EigenDecomposition_F64<DMatrixRMaj> eigen(double[] n, int m) {
    DMatrixRMaj a = new DMatrixRMaj(m, m);
    for (int i = 0; i < m; i++) {
      for (int k = 0; k < m; k++) {
        a.set(i, k, n[UNKNOWNS * i + k]);
      }
    }
    EigenDecomposition_F64<DMatrixRMaj> e = DecompositionFactory_DDRM.eig(m, true, true);
    e.decompose(a);
    return e;
  }

  double reach() {
    return reach;
  }

  double metres() {
    return metres;
  }

  Vec3 middle() {
    return middle;
  }
}
