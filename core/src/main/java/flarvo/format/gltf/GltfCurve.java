package flarvo.format.gltf;

import flarvo.report.InputError;
import flarvo.scene.Rate;
import java.util.Arrays;
import java.util.Set;
import org.joml.Quaterniond;

/** One animated channel: keys in seconds, values of some width, and the way between keys. */
final class GltfCurve {

  /** How a value runs from one key to the next. */
  enum Way {
    STEP,
    LINEAR,
    CUBICSPLINE;

    /** Null stands for the format's default. */
    static Way of(String stated) {
      return "STEP".equals(stated) ? STEP : "CUBICSPLINE".equals(stated) ? CUBICSPLINE : LINEAR;
    }
  }

  /** Two times nearer than this are the same: keys are 32-bit floats. */
  private static final double SAME_SECONDS = 2e-6;

  /** How far from a whole frame a key may lie and still be on the grid, in frames. */
  private static final double GRID = 2e-4;

  final double[] times;
  private final double[] values;
  private final int width;
  private final Way way;
  private final boolean turns;

  /**
   * @param times of the keys, in seconds
   * @param values of all keys, with both tangents about each value where they are splines
   * @throws InputError when keys and values do not fit, or are not in order
   */
  GltfCurve(double[] times, double[] values, Way way, int width, String file, String where) {
    this.times = times;
    this.values = values;
    this.way = way;
    this.width = width;
    turns = width == 4;
    int each = way == Way.CUBICSPLINE ? 3 * width : width;
    if (times.length == 0 || values.length != each * times.length) {
      throw new InputError(
          file, where, times.length + " keys and " + values.length + " numbers do not fit", "");
    }
    for (int i = 0; i < times.length; i++) {
      if (!Double.isFinite(times[i]) || (i > 0 && times[i] <= times[i - 1])) {
        throw new InputError(file, where, "key " + i + " is not in order", "");
      }
    }
    for (double v : values) {
      if (!Double.isFinite(v)) {
        throw new InputError(file, where, "a value is not finite", "Request a new copy");
      }
    }
  }

  /** Adds the keys, in frames; those on the grid but for the rounding of 32 bits as whole ones. */
  void collectKeys(Rate rate, Set<Double> keys) {
    for (double t : times) {
      double frame = t * rate.toDouble();
      double open = GRID + Math.ulp((float) t) * rate.toDouble();
      double whole = Math.rint(frame);
      keys.add(Math.abs(frame - whole) <= open ? whole : frame);
    }
  }

  /** Constant outside the keys. */
  double[] at(double seconds) {
    int found = Arrays.binarySearch(times, seconds);
    int after = found >= 0 ? found : -found - 1;
    for (int near = Math.max(0, after - 1); near <= Math.min(times.length - 1, after); near++) {
      if (Math.abs(times[near] - seconds) <= SAME_SECONDS + Math.ulp((float) seconds)) {
        return key(near, 0);
      }
    }
    if (after == 0 || after == times.length) {
      return key(after == 0 ? 0 : times.length - 1, 0);
    }
    int before = after - 1;
    double span = times[after] - times[before];
    double u = (seconds - times[before]) / span;
    return switch (way) {
      case STEP -> key(before, 0);
      case CUBICSPLINE -> cubic(before, after, u, span);
      default -> linear(key(before, 0), key(after, 0), u);
    };
  }

  /**
   * @param tangent −1 the incoming one, 0 the value, 1 the outgoing one
   */
  private double[] key(int i, int tangent) {
    int at = way == Way.CUBICSPLINE ? (3 * i + 1 + tangent) * width : i * width;
    return Arrays.copyOfRange(values, at, at + width);
  }

  private double[] linear(double[] a, double[] b, double u) {
    if (turns) {
      Quaterniond q = new Quaterniond(a[0], a[1], a[2], a[3]).normalize();
      q.slerp(new Quaterniond(b[0], b[1], b[2], b[3]).normalize(), u);
      return new double[] {q.x, q.y, q.z, q.w};
    }
    for (int i = 0; i < width; i++) {
      a[i] += (b[i] - a[i]) * u;
    }
    return a;
  }

  private double[] cubic(int before, int after, double u, double span) {
    double[] p0 = key(before, 0);
    double[] m0 = key(before, 1);
    double[] p1 = key(after, 0);
    double[] m1 = key(after, -1);
    double u2 = u * u;
    double u3 = u2 * u;
    double[] out = new double[width];
    for (int i = 0; i < width; i++) {
      out[i] =
          (2 * u3 - 3 * u2 + 1) * p0[i]
              + (u3 - 2 * u2 + u) * span * m0[i]
              + (3 * u2 - 2 * u3) * p1[i]
              + (u3 - u2) * span * m1[i];
    }
    return out;
  }
}
