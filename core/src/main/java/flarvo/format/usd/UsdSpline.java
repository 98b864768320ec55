package flarvo.format.usd;

import java.util.List;

/**
 * A spline over time codes: knots with tangents, and how it goes on before and after them, as the
 * reference library evaluates it.
 *
 * @param bezier tangents have widths; otherwise they are those of a Hermite curve
 */
record UsdSpline(boolean bezier, Beyond before, Beyond after, List<Knot> knots) {

  /** How the curve runs from a knot to the next. */
  enum Way {
    BLOCK,
    HELD,
    LINEAR,
    CURVE
  }

  /** How it goes on beyond its knots; what repeats is held. */
  record Beyond(Way way, double slope, boolean sloped) {
    static final Beyond HELD = new Beyond(Way.HELD, 0, false);
  }

  /**
   * @param before the value that is approached from the left; NaN where it is the same
   * @param preWidth widths in time codes, slopes in units a time code
   */
  record Knot(
      double time,
      double before,
      double value,
      double preWidth,
      double preSlope,
      double postWidth,
      double postSlope,
      Way next) {

    double left() {
      return Double.isNaN(before) ? value : before;
    }
  }

  UsdSpline {
    knots = List.copyOf(knots);
  }

  double[] times() {
    return knots.stream().mapToDouble(Knot::time).toArray();
  }

  /** The same at {@code scale · time + offset}. */
  UsdSpline retimed(double scale, double offset) {
    return new UsdSpline(
        bezier,
        new Beyond(before.way, before.slope / scale, before.sloped),
        new Beyond(after.way, after.slope / scale, after.sloped),
        knots.stream()
            .map(
                k ->
                    new Knot(
                        scale * k.time + offset,
                        k.before,
                        k.value,
                        scale * k.preWidth,
                        k.preSlope / scale,
                        scale * k.postWidth,
                        k.postSlope / scale,
                        k.next))
            .toList());
  }

  /** The value at a time code; NaN where there is none. */
  double at(double time) {
    Knot first = knots.get(0);
    Knot last = knots.get(knots.size() - 1);
    if (time < first.time) {
      return first.left() + (time - first.time) * slope(before, first, true);
    }
    if (time >= last.time) {
      return last.value + (time - last.time) * slope(after, last, false);
    }
    int i = knots.size() - 1;
    while (knots.get(i).time > time) {
      i--;
    }
    Knot a = knots.get(i);
    Knot b = knots.get(i + 1);
    double u = (time - a.time) / (b.time - a.time);
    return switch (a.next) {
      case BLOCK -> Double.NaN;
      case HELD -> a.value;
      case LINEAR -> a.value + u * (b.left() - a.value);
      case CURVE -> bezier ? bezier(a, b, u) : hermite(a, b, u);
    };
  }

  private double slope(Beyond how, Knot end, boolean first) {
    if (how.sloped) {
      return how.slope;
    }
    // An end that jumps has no slope to go on with.
    if (how.way != Way.LINEAR || knots.size() == 1 || !Double.isNaN(end.before)) {
      return 0;
    }
    Knot other = knots.get(first ? 1 : knots.size() - 2);
    Knot from = first ? end : other;
    return switch (from.next) {
      case CURVE -> first ? end.postSlope : end.preSlope;
      case LINEAR ->
          first
              ? (other.left() - end.value) / (other.time - end.time)
              : (end.left() - other.value) / (end.time - other.time);
      default -> 0;
    };
  }

  private static double hermite(Knot a, Knot b, double u) {
    double span = b.time - a.time;
    double u2 = u * u;
    double u3 = u2 * u;
    return (2 * u3 - 3 * u2 + 1) * a.value
        + (u3 - 2 * u2 + u) * span * a.postSlope
        + (3 * u2 - 2 * u3) * b.left()
        + (u3 - u2) * span * b.preSlope;
  }

  /** Time runs along the curve too; it is found by halving, for tangents may not run back. */
  private static double bezier(Knot a, Knot b, double u) {
    double span = b.time - a.time;
    double w0 = Math.min(1, a.postWidth / span);
    double w1 = Math.min(1, b.preWidth / span);
    double low = 0;
    double high = 1;
    for (int k = 0; k < 60; k++) {
      double s = (low + high) / 2;
      if (cubic(s, 0, w0, 1 - w1, 1) < u) {
        low = s;
      } else {
        high = s;
      }
    }
    return cubic(
        (low + high) / 2,
        a.value,
        a.value + w0 * span * a.postSlope,
        b.left() - w1 * span * b.preSlope,
        b.left());
  }

  private static double cubic(double s, double a, double b, double c, double d) {
    double r = 1 - s;
    return r * r * r * a + 3 * r * r * s * b + 3 * r * s * s * c + s * s * s * d;
  }
}
