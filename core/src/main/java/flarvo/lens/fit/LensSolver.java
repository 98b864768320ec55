package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.report.InputError;
import flarvo.work.Progress;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/** Least squares over the unknowns of a lens (Levenberg–Marquardt, derivatives by differences). */
final class LensSolver {

  /** What is to become small. */
  interface Residuals {
    int count();

    /**
     * @param out one number each
     * @return false where the lens folds over what it is measured by
     */
    boolean of(Lens lens, double[] out);
  }

  private static final int MOST_ROUNDS = 200;
  private static final double STEP = 1e-6;
  private static final double MOST_DAMPING = 1e12;

  /** Relative gain below which it has settled. */
  private static final double SETTLED = 1e-12;

  private final Residuals residuals;
  private final Unknowns unknowns;
  private final int n;
  private final int m;

  LensSolver(Residuals residuals, LensFitOptions options) {
    this.residuals = residuals;
    unknowns = new Unknowns(options);
    n = residuals.count();
    m = unknowns.size();
  }

  /**
   * Solves with one term more at a time: all at once may run into a lens that folds and stay there.
   *
   * @return the solver of the last step, whose unknowns are those of the options
   */
  static LensSolver staged(Residuals residuals, LensFitOptions options, Progress progress) {
    LensFitOptions stage = options;
    for (int terms = 1; terms < options.terms().size(); terms++) {
      stage = new LensFitOptions(stage.start(), options.terms().subList(0, terms), false);
      LensSolver s = new LensSolver(residuals, stage);
      Lens better = s.unknowns.lens(s.solved(progress));
      stage = new LensFitOptions(better, options.terms(), options.centre());
    }
    return new LensSolver(residuals, stage);
  }

  Unknowns unknowns() {
    return unknowns;
  }

  double[] solved(Progress progress) {
    double[] p = unknowns.start();
    double[] e = new double[n];
    if (!residuals.of(unknowns.lens(p), e)) {
      throw InputError.words(
          "the lens to start with folds over within the lines", "Start from a weaker lens");
    }
    double cost = cost(e);
    double damping = 1e-3;
    for (int round = 0; round < MOST_ROUNDS && damping < MOST_DAMPING; round++) {
      progress.step(round, 0);
      DMatrixRMaj j = jacobian(p);
      DMatrixRMaj jt = new DMatrixRMaj(m, m);
      CommonOps_DDRM.multTransA(j, j, jt);
      DMatrixRMaj g = new DMatrixRMaj(m, 1);
      CommonOps_DDRM.multTransA(j, new DMatrixRMaj(n, 1, true, e.clone()), g);
      boolean gained = false;
      while (!gained && damping < MOST_DAMPING) {
        DMatrixRMaj a = jt.copy();
        for (int i = 0; i < m; i++) {
          a.add(i, i, damping * Math.max(jt.get(i, i), 1e-12));
        }
        DMatrixRMaj step = new DMatrixRMaj(m, 1);
        double[] next = p.clone();
        if (CommonOps_DDRM.solve(a, g, step)) {
          for (int i = 0; i < m; i++) {
            next[i] -= step.get(i);
          }
        }
        double c = costAt(next);
        if (c < cost) {
          gained = true;
          boolean still = cost - c <= SETTLED * cost;
          p = next;
          cost = c;
          damping = Math.max(damping / 5, 1e-12);
          if (still) {
            residuals.of(unknowns.lens(p), e);
            return p;
          }
        } else {
          damping *= 4;
        }
      }
      residuals.of(unknowns.lens(p), e);
    }
    return p;
  }

  private double costAt(double[] p) {
    for (double v : p) {
      if (!Double.isFinite(v)) {
        return Double.POSITIVE_INFINITY;
      }
    }
    double[] e = new double[n];
    return residuals.of(unknowns.lens(p), e) ? cost(e) : Double.POSITIVE_INFINITY;
  }

  static double cost(double[] e) {
    double s = 0;
    for (double v : e) {
      s += v * v;
    }
    return s;
  }

  DMatrixRMaj jacobian(double[] p) {
    DMatrixRMaj j = new DMatrixRMaj(n, m);
    double[] up = new double[n];
    double[] down = new double[n];
    for (int k = 0; k < m; k++) {
      double[] q = p.clone();
      q[k] = p[k] + STEP;
      boolean plus = residuals.of(unknowns.lens(q), up);
      q[k] = p[k] - STEP;
      boolean minus = residuals.of(unknowns.lens(q), down);
      for (int i = 0; plus && minus && i < n; i++) {
        j.set(i, k, (up[i] - down[i]) / (2 * STEP));
      }
    }
    return j;
  }
}
