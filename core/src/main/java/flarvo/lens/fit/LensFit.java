package flarvo.lens.fit;

import flarvo.lens.Lens;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;

/**
 * Finds the lens that makes lines straight: least squares of the points' distances across their
 * lines (Levenberg–Marquardt; the lines themselves are solved for in closed form in each step).
 */
public final class LensFit {

  /** No edge is traced better than this, px; lines that fit too well prove nothing. */
  private static final double LEAST_SIGMA = 0.01;

  /** A line that is so many times worse than the usual one is no straight line. */
  private static final double STRAY = 3;

  /** Nor is one that is farther off than this; better ones are left alone, px. */
  private static final double STRAY_PX = 0.3;

  private static final int ROUNDS = 8;

  /** Correlation from which on points are taken to err by themselves. */
  private static final double ENDS = 0.05;

  private static final int MOST_LAG = 40;

  private LensFit() {}

  /**
   * Fits a lens, and leaves out lines that are not straight under the lens of the others: an edge
   * that is bent in the world, or one that was mistaken for another.
   *
   * @param lines as {@link #of} takes them
   * @throws InputError when the lines cannot hold what is looked for
   */
  public static LensEstimate withoutStrays(
      List<StraightLine> lines, PictureSize picture, LensFitOptions options, Progress progress) {
    List<StraightLine> kept = new ArrayList<>(lines);
    List<LensEstimate.LineError> strays = new ArrayList<>();
    LensEstimate e = of(kept, picture, options, progress.part(0, ROUNDS));
    for (int round = 1; round < ROUNDS; round++) {
      double limit = Math.max(STRAY_PX, STRAY * usual(e));
      List<LensEstimate.LineError> bad = e.lines().stream().filter(l -> l.rmsPx() > limit).toList();
      if (bad.isEmpty()) {
        break;
      }
      kept.removeIf(
          l -> bad.stream().anyMatch(b -> b.name().equals(l.name()) && b.frame() == l.frame()));
      strays.addAll(bad);
      e = of(kept, picture, options, progress.part(round, ROUNDS));
    }
    return e.withStrays(strays);
  }

  /**
   * How many points err together: neighbours on an edge see the same texture, so that a hundred of
   * them are not a hundred witnesses. Variances grow by one plus twice the sum of the correlations
   * with the next, the next but one and so on, up to where they end (Bartlett's formula).
   *
   * @param e distances across the lines, line by line
   */
  private static double together(double[] e, List<StraightLine> lines) {
    double all = 1;
    for (int lag = 1; lag <= MOST_LAG; lag++) {
      double with = 0;
      double of = 0;
      int at = 0;
      for (StraightLine l : lines) {
        for (int i = 0; i + lag < l.size(); i++) {
          with += e[at + i] * e[at + i + lag];
          of += (e[at + i] * e[at + i] + e[at + i + lag] * e[at + i + lag]) / 2;
        }
        at += l.size();
      }
      double correlation = of > 0 ? with / of : 0;
      if (!(correlation > ENDS)) {
        break;
      }
      all += 2 * correlation;
    }
    return all;
  }

  /** Half of the lines are better than this. */
  private static double usual(LensEstimate e) {
    double[] all = e.lines().stream().mapToDouble(LensEstimate.LineError::rmsPx).sorted().toArray();
    return all.length == 0 ? 0 : all[all.length / 2];
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
    LineResiduals residuals = new LineResiduals(used, picture);
    LensSolver solver = LensSolver.staged(residuals, options, progress);
    double[] p = solver.solved(progress);
    return estimate(
        residuals, solver, p, used, lines.size() - used.size(), picture, options.start(), spare);
  }

  private static LensEstimate estimate(
      LineResiduals residuals,
      LensSolver solver,
      double[] p,
      List<StraightLine> lines,
      int tooShort,
      PictureSize picture,
      Lens start,
      int spare) {
    int n = residuals.count();
    Lens lens = solver.unknowns().lens(p);
    double[] e = new double[n];
    residuals.of(lens, e);
    double[] before = new double[n];
    boolean straight = residuals.of(start, before);
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
    double sigma =
        Math.sqrt(together(e, lines))
            * Math.max(LEAST_SIGMA, Math.sqrt(LensSolver.cost(e) / (spare - p.length)));
    FitUncertainty u = FitUncertainty.of(solver.jacobian(p), sigma, solver.unknowns(), p, picture);
    return new LensEstimate(
        lens,
        u.terms(),
        Math.sqrt(LensSolver.cost(e) / n),
        most,
        straight ? Math.sqrt(LensSolver.cost(before) / n) : Double.NaN,
        errors,
        List.of(),
        tooShort,
        Cover.of(lines, picture),
        u.worstPx(),
        u.untold());
  }
}
