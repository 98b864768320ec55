package flarvo.lens.fit;

import flarvo.scene.PictureSize;
import java.util.ArrayList;
import java.util.List;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.ejml.dense.row.SingularOps_DDRM;
import org.ejml.dense.row.factory.DecompositionFactory_DDRM;

/**
 * How well a fit's unknowns are determined, to first order. What it says of the picture holds for
 * all of it at once: Scheffé's bound with as many degrees of freedom as there are unknowns.
 */
final class FitUncertainty {

  /** Singular values of the scaled derivatives under this share of the largest: not determined. */
  private static final double UNDETERMINED = 1e-7;

  /** Terms that share so much of a direction that is hardly determined are named together. */
  private static final double TOGETHER = 0.3;

  /** Share of a term's motion that must show in the lines, beyond what rounding makes. */
  private static final double UNBENT = 1e-6;

  private static final double WEAK = 0.02;

  private final List<LensEstimate.Term> terms = new ArrayList<>();
  private final List<List<String>> untold = new ArrayList<>();
  private final double worst;

  static FitUncertainty of(
      DMatrixRMaj jacobian, double sigma, Unknowns unknowns, double[] p, PictureSize picture) {
    return new FitUncertainty(jacobian, sigma, unknowns, p, picture);
  }

  private FitUncertainty(
      DMatrixRMaj j, double sigma, Unknowns unknowns, double[] p, PictureSize picture) {
    int m = p.length;
    List<String> names = unknowns.names();
    Motions motions = new Motions(unknowns, p, picture);
    double[] scale = new double[m];
    boolean[] loose = new boolean[m];
    DMatrixRMaj a = j.copy();
    for (int k = 0; k < m; k++) {
      double s = 0;
      for (int i = 0; i < a.numRows; i++) {
        s += a.get(i, k) * a.get(i, k);
      }
      // A term that moves the picture and bends no line: what is in its column is rounding.
      loose[k] = !(Math.sqrt(s / a.numRows) > UNBENT * motions.rms(k));
      scale[k] = loose[k] ? 1 : Math.sqrt(s);
      for (int i = 0; i < a.numRows; i++) {
        a.set(i, k, loose[k] ? 0 : a.get(i, k) / scale[k]);
      }
    }
    DMatrixRMaj ata = new DMatrixRMaj(m, m);
    CommonOps_DDRM.multTransA(a, a, ata);
    var svd = DecompositionFactory_DDRM.svd(m, m, false, true, true);
    svd.decompose(ata);
    double[] w = svd.getSingularValues();
    DMatrixRMaj v = svd.getV(null, false);
    SingularOps_DDRM.descendingOrder(null, false, w, m, v, false);
    DMatrixRMaj cov = new DMatrixRMaj(m, m);
    for (int d = 0; d < m; d++) {
      double value = Math.sqrt(Math.max(0, w[d]));
      boolean none = value <= UNDETERMINED * Math.sqrt(w[0]);
      List<String> share = new ArrayList<>();
      for (int k = 0; k < m; k++) {
        if (Math.abs(v.get(k, d)) > TOGETHER) {
          share.add(names.get(k));
          loose[k] |= none;
        }
        for (int l = 0; l < m && !none; l++) {
          cov.add(k, l, sigma * sigma * v.get(k, d) * v.get(l, d) / w[d] / scale[k] / scale[l]);
        }
      }
      if (none || value < WEAK * Math.sqrt(w[0]) && share.size() > 1) {
        untold.add(List.copyOf(share));
      }
    }
    boolean any = false;
    for (int k = 0; k < m; k++) {
      any |= loose[k];
      double s = loose[k] ? Double.POSITIVE_INFINITY : Math.sqrt(cov.get(k, k));
      terms.add(new LensEstimate.Term(names.get(k), p[k], s));
    }
    worst = any ? Double.POSITIVE_INFINITY : Math.sqrt(motions.most(cov) * chiSquare95(m));
  }

  /** 95 % quantile of χ², by Wilson and Hilferty's approximation of 1931. */
  private static double chiSquare95(int degrees) {
    double c = 2.0 / (9 * degrees);
    double z = 1 - c + 1.6448536 * Math.sqrt(c);
    return degrees * z * z * z;
  }

  List<LensEstimate.Term> terms() {
    return terms;
  }

  List<List<String>> untold() {
    return untold;
  }

  double worstPx() {
    return worst;
  }
}
