package flarvo.format.usd;

import flarvo.report.InputError;
import java.util.Arrays;

/**
 * Values of attributes at a time code: numbers, tuples and matrices are linear between samples and
 * constant outside, as the format's default interpolation says.
 */
final class UsdEvaluator {

  private final String file;

  UsdEvaluator(String file) {
    this.file = file;
  }

  /** One number; the attribute must hold one. */
  double number(UsdPrim prim, UsdAttribute a, double time) {
    return numbers(prim, a, time, 1)[0];
  }

  /** Exactly {@code wanted} finite numbers. */
  double[] numbers(UsdPrim prim, UsdAttribute a, double time, int wanted) {
    double[] out;
    if (!a.isAnimated()) {
      out = flat(prim, a, a.value(), wanted, Double.NaN);
    } else {
      double[] t = a.times();
      int found = Arrays.binarySearch(t, time);
      int after = found >= 0 ? found : -found - 1;
      if (found >= 0 || after == 0 || after == t.length) {
        int i = found >= 0 ? found : after == 0 ? 0 : t.length - 1;
        out = flat(prim, a, a.samples().get(i), wanted, t[i]);
      } else {
        double[] lo = flat(prim, a, a.samples().get(after - 1), wanted, t[after - 1]);
        double[] hi = flat(prim, a, a.samples().get(after), wanted, t[after]);
        double u = (time - t[after - 1]) / (t[after] - t[after - 1]);
        out = a.type().startsWith("quat") ? slerp(lo, hi, u) : lerp(lo, hi, u);
      }
    }
    return out;
  }

  private double[] flat(UsdPrim prim, UsdAttribute a, Object v, int wanted, double time) {
    double[] n =
        v instanceof Double d
            ? new double[] {d}
            : v instanceof UsdArray array ? array.numbers().clone() : new double[0];
    String at = Double.isNaN(time) ? "" : " at time " + plain(time);
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

  private static String plain(double time) {
    return time == Math.rint(time) ? Long.toString((long) time) : Double.toString(time);
  }

  private static double[] lerp(double[] a, double[] b, double u) {
    double[] out = new double[a.length];
    for (int i = 0; i < a.length; i++) {
      out[i] = a[i] + (b[i] - a[i]) * u;
    }
    return out;
  }

  private static double[] slerp(double[] a, double[] b, double u) {
    org.joml.Quaterniond q =
        new org.joml.Quaterniond(a[1], a[2], a[3], a[0])
            .slerp(new org.joml.Quaterniond(b[1], b[2], b[3], b[0]), u);
    return new double[] {q.w, q.x, q.y, q.z};
  }
}
