package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;

/**
 * Finds the lens that makes lines straight: least squares of the points' distances across their
 * lines (Levenberg–Marquardt; the lines themselves are solved for in closed form in each step).
 */
public final class LensFit {

  private static final int MOST_ROUNDS = 200;
  private static final double STEP = 1e-6;
  private static final double MOST_DAMPING = 1e12;

  /** No edge is traced better than this, px; lines that fit too well prove nothing. */
  private static final double LEAST_SIGMA = 0.01;

  /** Relative gain below which the fit has settled. */
  private static final double SETTLED = 1e-12;

  private final LineResiduals residuals;
  private final Unknowns unknowns;
  private final int n;
  private final int m;

  private LensFit(List<StraightLine> lines, PictureSize picture, LensFitOptions options) {
    residuals = new LineResiduals(lines, picture);
    unknowns = new Unknowns(options);
    n = residuals.count();
    m = unknowns.size();
  }

  /**
   * Fits a lens.
   *
   * @param lines in pixels of the original picture; those of fewer than three points say nothing
   * @throws InputError when the lines cannot hold what is looked for
   */
  public static LensEstimate of(
      List<StraightLine> lines, PictureSize picture, LensFitOptions options, Progress progress) {
    List<StraightLine> used = lines.stream().filter(l -> l.size() > 2).toList();
    int spare = used.stream().mapToInt(l -> l.size() - 2).sum();
    int unknown = new Unknowns(options).size();
    if (spare <= unknown) {
      throw InputError.words(
          "the lines have "
              + spare
              + " points beyond the two that any line needs; "
              + unknown
              + " unknowns need more",
          "Trace more points, or fit fewer terms");
    }
    // One term more at a time: all at once may run into a lens that folds and stay there.
    LensFitOptions stage = options;
    for (int terms = 1; terms < options.terms().size(); terms++) {
      stage = new LensFitOptions(stage.start(), options.terms().subList(0, terms), false);
      LensFit fit = new LensFit(used, picture, stage);
      Lens better = fit.unknowns.lens(fit.solved(progress));
      stage = new LensFitOptions(better, options.terms(), options.centre());
    }
    LensFit fit = new LensFit(used, picture, stage);
    double[] p = fit.solved(progress);
    return fit.estimate(used, lines.size() - used.size(), picture, options, p, spare);
  }

  private double[] solved(Progress progress) {
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

  private static double cost(double[] e) {
    double s = 0;
    for (double v : e) {
      s += v * v;
    }
    return s;
  }

  private DMatrixRMaj jacobian(double[] p) {
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

  private LensEstimate estimate(
      List<StraightLine> lines,
      int tooShort,
      PictureSize picture,
      LensFitOptions options,
      double[] p,
      int spare) {
    double[] e = new double[n];
    residuals.of(unknowns.lens(p), e);
    double[] before = new double[n];
    boolean straight = residuals.of(options.start(), before);
    List<LensEstimate.LineError> errors = new ArrayList<>();
    double most = 0;
    int at = 0;
    for (StraightLine l : lines) {
      double s = 0;
      for (int i = 0; i < l.size(); i++, at++) {
        s += e[at] * e[at];
        most = Math.max(most, Math.abs(e[at]));
      }
      errors.add(new LensEstimate.LineError(l.name(), l.frame(), Math.sqrt(s / l.size())));
    }
    double sigma = Math.max(LEAST_SIGMA, Math.sqrt(cost(e) / (spare - m)));
    FitUncertainty u = FitUncertainty.of(jacobian(p), sigma, unknowns, p, picture);
    Lens lens = unknowns.lens(p);
    return new LensEstimate(
        lens,
        u.terms(),
        Math.sqrt(cost(e) / n),
        most,
        straight ? Math.sqrt(cost(before) / n) : Double.NaN,
        errors,
        tooShort,
        Cover.of(lines, picture),
        u.worstPx(),
        u.untold());
  }
}
