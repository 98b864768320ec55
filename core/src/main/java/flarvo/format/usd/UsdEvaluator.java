package flarvo.format.usd;

import flarvo.format.NumberText;
import flarvo.report.InputError;
import java.util.Arrays;
import java.util.Optional;

/**
 * Values of attributes at a time code: numbers, tuples and matrices are linear between samples and
 * constant outside, as the format's default interpolation says.
 */
final class UsdEvaluator {

  private final String file;

  UsdEvaluator(String file) {
    this.file = file;
  }

  /** One number, or the given one where the value is blocked; the attribute must hold one. */
  double number(UsdPrim prim, UsdAttribute a, double time, double blocked) {
    return find(prim, a, time, 1).map(v -> v[0]).orElse(blocked);
  }

  /** Exactly {@code wanted} finite numbers. */
  double[] numbers(UsdPrim prim, UsdAttribute a, double time, int wanted) {
    return find(prim, a, time, wanted)
        .orElseThrow(
            () ->
                new InputError(
                    file,
                    "<" + prim.path + "." + a.name() + "> at time " + NumberText.plain(time),
                    "the value is blocked there",
                    "Request a new copy"));
  }

  /**
   * Exactly {@code wanted} finite numbers; empty where a block takes the value away. A value holds
   * up to a blocked sample, and from there until the next one there is none.
   */
  Optional<double[]> find(UsdPrim prim, UsdAttribute a, double time, int wanted) {
    if (!a.isAnimated()) {
      return Optional.of(flat(prim, a, a.value(), wanted, Double.NaN));
    }
    if (a.stored() instanceof UsdSpline s) {
      double v = s.at(time);
      return Double.isNaN(v) ? Optional.empty() : Optional.of(flat(prim, a, v, wanted, time));
    }
    double[] t = a.times();
    int found = Arrays.binarySearch(t, time);
    int after = found >= 0 ? found : -found - 1;
    boolean between = found < 0 && after > 0 && after < t.length;
    int i = found >= 0 ? found : Math.max(0, after - 1);
    Object before = a.samples().get(i);
    if (before == UsdAttribute.BLOCK) {
      return Optional.empty();
    }
    double[] lo = flat(prim, a, before, wanted, t[i]);
    Object next = between ? a.samples().get(after) : UsdAttribute.BLOCK;
    if (next == UsdAttribute.BLOCK) {
      return Optional.of(lo);
    }
    double[] hi = flat(prim, a, next, wanted, t[after]);
    double u = (time - t[i]) / (t[after] - t[i]);
    return Optional.of(a.type().startsWith("quat") ? slerp(lo, hi, u) : lerp(lo, hi, u));
  }

  private double[] flat(UsdPrim prim, UsdAttribute a, Object v, int wanted, double time) {
    double[] n =
        v instanceof Double d
            ? new double[] {d}
            : v instanceof UsdArray array ? array.numbers().clone() : new double[0];
    String at = Double.isNaN(time) ? "" : " at time " + NumberText.plain(time);
    if (n.length != wanted) {
      throw new InputError(
          file,
          "<" + prim.path + "." + a.name() + ">" + at,
          wanted == 1 ? "one number expected" : wanted + " numbers expected",
          "Request a new copy");
    }
    boolean single = isSinglePrecision(a.type());
    for (int i = 0; i < n.length; i++) {
      double d = n[i];
      if (single) {
        n[i] = (float) d; // what every other reader of the file will see
      }
      if (!Double.isFinite(d)) {
        throw new InputError(
            file,
            "<" + prim.path + "." + a.name() + ">" + at,
            "the value is " + d,
            "The sender's curve is broken there; request a new copy");
      }
    }
    return n;
  }

  private static boolean isSinglePrecision(String type) {
    String t = type.endsWith("[]") ? type.substring(0, type.length() - 2) : type;
    return t.startsWith("float") || (t.endsWith("f") && !t.equals("half"));
  }

  static double[] lerp(double[] a, double[] b, double u) {
    double[] out = new double[a.length];
    for (int i = 0; i < a.length; i++) {
      out[i] = a[i] + (b[i] - a[i]) * u;
    }
    return out;
  }

  static double[] slerp(double[] a, double[] b, double u) {
    org.joml.Quaterniond q =
        new org.joml.Quaterniond(a[1], a[2], a[3], a[0])
            .slerp(new org.joml.Quaterniond(b[1], b[2], b[3], b[0]), u);
    return new double[] {q.w, q.x, q.y, q.z};
  }
}
