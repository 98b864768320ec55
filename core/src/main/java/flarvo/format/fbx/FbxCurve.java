package flarvo.format.fbx;

import flarvo.report.InputError;
import java.util.Arrays;

/**
 * One animation curve: keys in ticks, values in 32-bit floats, and for each key how the curve runs
 * to the next one: constant, linear, or cubic with slopes in units a second.
 */
final class FbxCurve {

  private static final long CONSTANT = 0x2;
  private static final long LINEAR = 0x4;
  private static final long CONSTANT_NEXT = 0x100;
  private static final long WEIGHTED = 0x3000000;

  private final double[] ticks;
  private final double[] values;
  private final long[] flags;
  private final double[] rightSlope;
  private final double[] nextLeftSlope;

  private FbxCurve(
      double[] ticks, double[] values, long[] flags, double[] right, double[] nextLeft) {
    this.ticks = ticks;
    this.values = values;
    this.flags = flags;
    this.rightSlope = right;
    this.nextLeftSlope = nextLeft;
  }

  static FbxCurve read(FbxNode node, String file) {
    double[] t = array(node, "KeyTime");
    double[] v = array(node, "KeyValueFloat");
    String where = "curve " + node.whole(0);
    if (t.length != v.length || t.length == 0) {
      throw new InputError(
          file,
          where,
          t.length == 0 ? "the curve has no keys" : t.length + " times but " + v.length + " values",
          "Ask for the file again");
    }
    for (int i = 0; i < v.length; i++) {
      v[i] = (float) v[i];
      if (!Double.isFinite(v[i]) || !Double.isFinite(t[i])) {
        throw new InputError(
            file, where + ", key " + i, "the value is " + v[i], "Ask for the file again");
      }
      if (i > 0 && t[i] <= t[i - 1]) {
        throw new InputError(
            file, where + ", key " + i, "the keys are not in order", "Ask for the file again");
      }
    }
    long[] flags = new long[t.length];
    double[] right = new double[t.length];
    double[] nextLeft = new double[t.length];
    Arrays.fill(flags, LINEAR);
    attributes(node, flags, right, nextLeft, file, where);
    return new FbxCurve(t, v, flags, right, nextLeft);
  }

  /** Attributes are stored once for runs of equal keys. */
  private static void attributes(
      FbxNode node, long[] flags, double[] right, double[] nextLeft, String file, String where) {
    double[] f = array(node, "KeyAttrFlags");
    double[] d = array(node, "KeyAttrDataFloat");
    double[] runs = array(node, "KeyAttrRefCount");
    if (f.length == 0) {
      return;
    }
    if (runs.length != f.length || d.length < 4 * f.length) {
      throw new InputError(
          file, where, "the keys' attributes do not fit together", "Ask for the file again");
    }
    int key = 0;
    for (int r = 0; r < f.length; r++) {
      for (int k = 0; k < runs[r] && key < flags.length; k++, key++) {
        flags[key] = (long) f[r];
        right[key] = d[4 * r];
        nextLeft[key] = d[4 * r + 1];
      }
    }
  }

  double[] ticks() {
    return ticks.clone();
  }

  boolean isWeighted() {
    return Arrays.stream(flags)
        .anyMatch(f -> (f & WEIGHTED) != 0 && (f & (CONSTANT | LINEAR)) == 0);
  }

  /** Constant before the first and after the last key. */
  double at(double tick) {
    int found = Arrays.binarySearch(ticks, tick);
    if (found >= 0) {
      return values[found];
    }
    int after = -found - 1;
    if (after == 0) {
      return values[0];
    }
    if (after == ticks.length) {
      return values[after - 1];
    }
    int i = after - 1;
    double u = (tick - ticks[i]) / (ticks[after] - ticks[i]);
    if ((flags[i] & CONSTANT) != 0) {
      return (flags[i] & CONSTANT_NEXT) != 0 ? values[after] : values[i];
    }
    if ((flags[i] & LINEAR) != 0) {
      return values[i] + (values[after] - values[i]) * u;
    }
    double seconds = (ticks[after] - ticks[i]) / FbxTime.TICKS_PER_SECOND;
    double m0 = rightSlope[i] * seconds;
    double m1 = nextLeftSlope[i] * seconds;
    double u2 = u * u;
    double u3 = u2 * u;
    return (2 * u3 - 3 * u2 + 1) * values[i]
        + (u3 - 2 * u2 + u) * m0
        + (3 * u2 - 2 * u3) * values[after]
        + (u3 - u2) * m1;
  }

  private static double[] array(FbxNode node, String name) {
    return node.child(name).map(FbxNode::array).orElse(new double[0]).clone();
  }
}
