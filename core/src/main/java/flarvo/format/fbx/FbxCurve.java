package flarvo.format.fbx;

import flarvo.report.InputError;
import java.util.Arrays;

/**
 * One animation curve: keys in ticks, values in 32-bit floats, and for each key how the curve runs
 * to the next one: constant, linear, or cubic with slopes in units a second.
 */
final class FbxCurve {

  private static final long CONSTANT_NEXT = 0x100;
  private static final long RIGHT_WEIGHTED = 0x1000000;
  private static final long NEXT_LEFT_WEIGHTED = 0x2000000;

  /** Weights are stored as whole parts of this, the divider that the format's own header names. */
  private static final double WEIGHT_DIVIDER = 9999;

  private static final double PLAIN_WEIGHT = 1.0 / 3;

  private final double[] ticks;
  private final double[] values;
  private final long[] flags;
  private final double[] leftSlopes;
  private final double[] rightSlopes;
  private final double[] leftWeights; // shares of the way to the neighbour
  private final double[] rightWeights;
  private FbxExtrapolation before = FbxExtrapolation.HELD;
  private FbxExtrapolation after = FbxExtrapolation.HELD;

  private FbxCurve(double[] ticks, double[] values, long[] flags) {
    this.ticks = ticks;
    this.values = values;
    this.flags = flags;
    leftSlopes = new double[ticks.length];
    rightSlopes = new double[ticks.length];
    leftWeights = new double[ticks.length];
    rightWeights = new double[ticks.length];
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
    FbxCurve c = new FbxCurve(t, v, new long[t.length]);
    c.attributes(node, file, where);
    c.before = FbxExtrapolation.of(node, "Pre-Extrapolation");
    c.after = FbxExtrapolation.of(node, "Post-Extrapolation");
    return c;
  }

  /** Attributes are stored once for runs of equal keys. */
  private void attributes(FbxNode node, String file, String where) {
    double[] f = array(node, "KeyAttrFlags");
    double[] d = array(node, "KeyAttrDataFloat");
    double[] runs = array(node, "KeyAttrRefCount");
    Arrays.fill(flags, FbxTangents.LINEAR);
    Arrays.fill(leftWeights, PLAIN_WEIGHT);
    Arrays.fill(rightWeights, PLAIN_WEIGHT);
    if (f.length == 0) {
      return;
    }
    if (runs.length != f.length || d.length < 4 * f.length) {
      throw new InputError(
          file, where, "the keys' attributes do not fit together", "Request a new copy");
    }
    int n = flags.length;
    double[] second = new double[n];
    double[] third = new double[n];
    int key = 0;
    for (int r = 0; r < f.length; r++) {
      for (int k = 0; k < runs[r] && key < n; k++, key++) {
        flags[key] = (long) f[r];
        if (!Double.isFinite(d[4 * r]) || !Double.isFinite(d[4 * r + 1])) {
          throw new InputError(
              file, where + ", key " + key, "its tangent is not finite", "Request a new copy");
        }
        rightSlopes[key] = d[4 * r];
        second[key] = d[4 * r + 1];
        third[key] = d[4 * r + 2];
        int weights = Float.floatToRawIntBits((float) d[4 * r + 2]);
        rightWeights[key] = weight(flags[key], RIGHT_WEIGHTED, weights & 0xFFFF);
        if (key + 1 < n) {
          leftSlopes[key + 1] = d[4 * r + 1];
          leftWeights[key + 1] = weight(flags[key], NEXT_LEFT_WEIGHTED, weights >>> 16);
        }
      }
    }
    double[] seconds = new double[n];
    Arrays.setAll(seconds, i -> ticks[i] / FbxTime.TICKS_PER_SECOND);
    FbxTangents.solve(
        seconds, values, flags, leftSlopes, rightSlopes, second, third, leftWeights, rightWeights);
  }

  private static double weight(long flags, long flag, int stored) {
    return (flags & flag) == 0 ? PLAIN_WEIGHT : Math.min(1, stored / WEIGHT_DIVIDER);
  }

  double[] ticks() {
    return ticks.clone();
  }

  /** Before the first and after the last key as the curve's extrapolation says. */
  double at(double tick) {
    int last = ticks.length - 1;
    if (tick < ticks[0]) {
      return beyond(tick, before, 0);
    }
    return tick > ticks[last] ? beyond(tick, after, last) : within(tick);
  }

  private double beyond(double tick, FbxExtrapolation how, int end) {
    int last = ticks.length - 1;
    double seconds = (tick - ticks[end]) / FbxTime.TICKS_PER_SECOND;
    return switch (how.mode()) {
      case CONSTANT -> values[end];
      case SLOPE -> values[end] + seconds * slopeAt(end);
      case REPEAT, MIRROR, RELATIVE -> {
        if (last == 0 || how.repeats() == 0) {
          yield values[end];
        }
        double value = within(how.inside(tick, ticks[0], ticks[last]));
        double step = values[last] - values[0];
        yield how.mode() == FbxExtrapolation.Mode.RELATIVE
            ? value + Math.signum(seconds) * step * (how.rounds(tick, ticks[0], ticks[last]) + 1)
            : value;
      }
    };
  }

  /**
   * Of the first or the last key, on its only side: its own tangent, else how the curve arrives.
   */
  private double slopeAt(int end) {
    int from = end == 0 ? 0 : end - 1;
    if (ticks.length == 1) {
      return 0;
    }
    if (end > 0 && FbxTangents.isSolved(flags[end])) {
      return leftSlopes[end];
    }
    if ((flags[from] & FbxTangents.CONSTANT) != 0) {
      return 0;
    }
    if (FbxTangents.isCubic(flags[from])) {
      return end == 0 ? rightSlopes[0] : leftSlopes[end];
    }
    double seconds = (ticks[from + 1] - ticks[from]) / FbxTime.TICKS_PER_SECOND;
    return (values[from + 1] - values[from]) / seconds;
  }

  /** At a tick from the first key to the last. */
  private double within(double tick) {
    int found = Arrays.binarySearch(ticks, tick);
    if (found >= 0) {
      return values[found];
    }
    int next = -found - 1;
    int i = next - 1;
    double u = (tick - ticks[i]) / (ticks[next] - ticks[i]);
    if ((flags[i] & FbxTangents.CONSTANT) != 0) {
      return (flags[i] & CONSTANT_NEXT) != 0 ? values[next] : values[i];
    }
    if (!FbxTangents.isCubic(flags[i])) {
      return values[i] + (values[next] - values[i]) * u;
    }
    double seconds = (ticks[next] - ticks[i]) / FbxTime.TICKS_PER_SECOND;
    double w0 = rightWeights[i];
    double w1 = leftWeights[next];
    double along = w0 == PLAIN_WEIGHT && w1 == PLAIN_WEIGHT ? u : parameter(u, w0, w1);
    return bezier(
        along,
        values[i],
        values[i] + rightSlopes[i] * seconds * w0,
        values[next] - leftSlopes[next] * seconds * w1,
        values[next]);
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
