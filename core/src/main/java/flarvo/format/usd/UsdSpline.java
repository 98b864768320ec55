package flarvo.format.usd;

import java.util.ArrayList;
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

  /** How what lies between the first and the last knot comes again beyond them. */
  enum Repeat {
    NONE,
    /** Each time begins where the one before it ended. */
    REPEAT,
    /** Each time begins where the first did. */
    RESET,
    /** Forwards and backwards. */
    OSCILLATE
  }

  /** How it goes on beyond its knots. */
  record Beyond(Way way, double slope, boolean sloped, Repeat repeat) {
    static final Beyond HELD = new Beyond(Way.HELD, 0, false, Repeat.NONE);
    static final Beyond LINEAR = new Beyond(Way.LINEAR, 0, false, Repeat.NONE);
    static final Beyond BLOCK = new Beyond(Way.BLOCK, 0, false, Repeat.NONE);

    static Beyond sloped(double slope) {
      return new Beyond(Way.LINEAR, slope, true, Repeat.NONE);
    }

    static Beyond repeated(Repeat how) {
      return new Beyond(Way.HELD, 0, false, how);
    }

    private Beyond retimed(double scale) {
      return new Beyond(way, slope / scale, sloped, repeat);
    }
  }

  /** More knots than this from a loop are nobody's motion. */
  private static final int MOST_KNOTS = 1_000_000;

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

    private Knot moved(double later, double higher) {
      return new Knot(
          time + later,
          before + higher,
          value + higher,
          preWidth,
          preSlope,
          postWidth,
          postSlope,
          next);
    }
  }

  UsdSpline {
    knots = List.copyOf(knots);
  }

  /**
   * With the knots from one time to before another standing also before and after, as often as is
   * asked for; they take the place of what stands there. Nothing changes where no knot stands at
   * the first time.
   *
   * @param offset added to the values with every time
   * @throws IllegalArgumentException where there would be too many
   */
  UsdSpline looped(double from, double to, int before, int after, double offset) {
    List<Knot> inside = knots.stream().filter(k -> k.time >= from && k.time < to).toList();
    int pre = Math.max(0, before);
    int post = Math.max(0, after);
    if (inside.isEmpty() || inside.get(0).time != from || pre + (long) post == 0) {
      return this;
    }
    if ((1L + pre + post) * inside.size() > MOST_KNOTS) {
      throw new IllegalArgumentException(
          "a loop of " + inside.size() + " knots comes " + (1L + pre + post) + " times");
    }
    double length = to - from;
    List<Knot> all = new ArrayList<>();
    knots.stream().filter(k -> k.time < from - pre * length).forEach(all::add);
    for (int i = -pre; i <= post; i++) {
      for (Knot k : inside) {
        all.add(k.moved(i * length, i * offset));
      }
    }
    double end = from + (post + 1) * length;
    all.add(inside.get(0).moved(end - from, (post + 1) * offset));
    knots.stream().filter(k -> k.time > end).forEach(all::add);
    return new UsdSpline(bezier, this.before, this.after, all);
  }

  double[] times() {
    return knots.stream().mapToDouble(Knot::time).toArray();
  }

  /** The same at {@code scale · time + offset}. */
  UsdSpline retimed(double scale, double offset) {
    return new UsdSpline(
        bezier,
        before.retimed(scale),
        after.retimed(scale),
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
    Beyond how = time < first.time ? before : after;
    boolean outside = time < first.time || time >= last.time;
    if (outside && how.repeat != Repeat.NONE && knots.size() > 1) {
      return repeated(time, how.repeat);
    }
    if (outside && how.way == Way.BLOCK) {
      return Double.NaN;
    }
    if (time < first.time) {
      return first.left() + (time - first.time) * slope(before, first, true);
    }
    if (time >= last.time) {
      return last.value + (time - last.time) * slope(after, last, false);
    }
    return between(time, false);
  }

  /** A value beyond the knots, from where it repeats. */
  private double repeated(double time, Repeat how) {
    Knot first = knots.get(0);
    Knot last = knots.get(knots.size() - 1);
    double length = last.time - first.time;
    double turn = Math.floor((time - first.time) / length);
    double inside = Math.min(Math.max(first.time, time - turn * length), last.time);
    if (how == Repeat.OSCILLATE && turn % 2 != 0) {
      double back = first.time + last.time - inside;
      return back == first.time ? first.left() : between(back, true);
    }
    double rise = how == Repeat.REPEAT ? turn * (last.value - first.left()) : 0;
    return (inside == last.time ? last.value : between(inside, false)) + rise;
  }

  /**
   * Between two knots.
   *
   * @param fromLeft at a knot the value that is approached from the left
   */
  private double between(double time, boolean fromLeft) {
    int i = after(time, fromLeft) - 1;
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

  /** The first knot after a time, or at it, among those that have one before them. */
  private int after(double time, boolean at) {
    int low = 1;
    int high = knots.size() - 1;
    while (low < high) {
      int mid = (low + high) >>> 1;
      double t = knots.get(mid).time;
      if (at ? t >= time : t > time) {
        high = mid;
      } else {
        low = mid + 1;
      }
    }
    return low;
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
    double w0 = a.postWidth / span;
    double w1 = b.preWidth / span;
    double over = w0 * w0 + w1 * w1 + w0 * w1;
    if (Math.max(w0, w1) > 1 && over - 2 * (w0 + w1) + 1 > 0) {
      // Time would run back: both shrink until it just does not, where over − 2 (w0 + w1) + 1 is 0.
      double scale = (w0 + w1 + Math.sqrt(w0 * w1)) / over;
      w0 *= scale;
      w1 *= scale;
    }
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
