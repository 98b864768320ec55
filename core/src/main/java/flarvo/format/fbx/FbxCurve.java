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
  private static final long RIGHT_WEIGHTED = 0x1000000;
  private static final long NEXT_LEFT_WEIGHTED = 0x2000000;

  /** Weights are stored as whole parts of this. */
  private static final double WEIGHT_DIVIDER = 9999;

  private static final double PLAIN_WEIGHT = 1.0 / 3;

  private final double[] ticks;
  private final double[] values;
  private final long[] flags;
  private final double[] rightSlope;
  private final double[] nextLeftSlope;
  private final int[] weights; // low half the right one, high half the next key's left one

  private FbxCurve(
      double[] ticks,
      double[] values,
      long[] flags,
      double[] right,
      double[] nextLeft,
      int[] weights) {
    this.ticks = ticks;
    this.values = values;
    this.flags = flags;
    this.rightSlope = right;
    this.nextLeftSlope = nextLeft;
    this.weights = weights;
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
          "Request a new copy");
    }
    for (int i = 0; i < v.length; i++) {
      v[i] = (float) v[i];
      if (!Double.isFinite(v[i]) || !Double.isFinite(t[i])) {
        throw new InputError(
            file, where + ", key " + i, "the value is " + v[i], "Request a new copy");
      }
      if (i > 0 && t[i] <= t[i - 1]) {
        throw new InputError(
            file, where + ", key " + i, "the keys are not in order", "Request a new copy");
      }
    }
    long[] flags = new long[t.length];
    double[] right = new double[t.length];
    double[] nextLeft = new double[t.length];
    Arrays.fill(flags, LINEAR);
    int[] weights = new int[t.length];
    attributes(node, flags, right, nextLeft, weights, file, where);
    return new FbxCurve(t, v, flags, right, nextLeft, weights);
  }

  /** Attributes are stored once for runs of equal keys. */
  private static void attributes(
      FbxNode node,
      long[] flags,
      double[] right,
      double[] nextLeft,
      int[] weights,
      String file,
      String where) {
    double[] f = array(node, "KeyAttrFlags");
    double[] d = array(node, "KeyAttrDataFloat");
    double[] runs = array(node, "KeyAttrRefCount");
    if (f.length == 0) {
      return;
    }
    if (runs.length != f.length || d.length < 4 * f.length) {
      throw new InputError(
          file, where, "the keys' attributes do not fit together", "Request a new copy");
    }
    int key = 0;
    for (int r = 0; r < f.length; r++) {
      for (int k = 0; k < runs[r] && key < flags.length; k++, key++) {
        flags[key] = (long) f[r];
        right[key] = d[4 * r];
        nextLeft[key] = d[4 * r + 1];
        weights[key] = bits(d[4 * r + 2]);
      }
    }
  }

  double[] ticks() {
    return ticks.clone();
  }

  /** Binary files hold the bits as a float; text files print them as a whole number. */
  private static int bits(double stored) {
    return Math.abs(stored) >= 1e6 ? (int) (long) stored : Float.floatToRawIntBits((float) stored);
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
    double w0 = weight(i, RIGHT_WEIGHTED, 0);
    double w1 = weight(i, NEXT_LEFT_WEIGHTED, 16);
    double along = w0 == PLAIN_WEIGHT && w1 == PLAIN_WEIGHT ? u : parameter(u, w0, w1);
    return bezier(along, values[i], values[i] + m0 * w0, values[after] - m1 * w1, values[after]);
  }

  private double weight(int key, long flag, int shift) {
    if ((flags[key] & flag) == 0) {
      return PLAIN_WEIGHT;
    }
    return Math.min(1, (weights[key] >> shift & 0xFFFF) / WEIGHT_DIVIDER);
  }

  /** Where on the curve the time {@code u} is met; time never runs back for weights up to 1. */
  private static double parameter(double u, double w0, double w1) {
    double low = 0;
    double high = 1;
    double s = u;
    for (int k = 0; k < 80 && high - low > 1e-15; k++) {
      double off = bezier(s, 0, w0, 1 - w1, 1) - u;
      if (Math.abs(off) < 1e-15) {
        break;
      }
      if (off < 0) {
        low = s;
      } else {
        high = s;
      }
      double slope = 3 * (1 - s) * (1 - s) * w0 + 6 * s * (1 - s) * (1 - w1 - w0) + 3 * s * s * w1;
      double newton = s - off / slope;
      if (newton == s) {
        break; // as near as numbers go
      }
      s = slope > 1e-9 && newton > low && newton < high ? newton : (low + high) / 2;
    }
    return s;
  }

  private static double bezier(double s, double a, double b, double c, double d) {
    double r = 1 - s;
    return r * r * r * a + 3 * r * r * s * b + 3 * r * s * s * c + s * s * s * d;
  }

  private static double[] array(FbxNode node, String name) {
    return node.child(name).map(FbxNode::array).orElse(new double[0]).clone();
  }
}
