package flarvo.format.usd;

import java.util.List;
import java.util.Optional;

/**
 * A property: a value that holds always, samples over time, or both (then the samples win).
 *
 * @param stored Double, String, {@link UsdArray}, List, {@link Deferred}, {@link #BLOCK} or null
 * @param times rising; as long as {@code samples}; owned by the layer and never changed
 */
record UsdAttribute(String name, String type, Object stored, double[] times, List<Object> samples) {

  /** A value that was taken away on purpose: weaker layers do not shine through. */
  static final Object BLOCK =
      new Object() {
        @Override
        public String toString() {
          return "None";
        }
      };

  /** A value that stays in the file until it is asked for. */
  interface Deferred {
    Object load();
  }

  static UsdAttribute fixed(String name, String type, Object value) {
    return new UsdAttribute(name, type, value, new double[0], List.of());
  }

  /** One that runs along a spline; its samples are the knots. */
  static UsdAttribute spline(String name, String type, UsdSpline spline) {
    List<Object> values = spline.knots().stream().map(k -> (Object) k.value()).toList();
    return new UsdAttribute(name, type, spline, spline.times(), values);
  }

  Object value() {
    Object v = stored instanceof Deferred d ? d.load() : stored;
    return v == BLOCK ? null : v;
  }

  boolean isAnimated() {
    return times.length > 0;
  }

  boolean hasValue() {
    return isAnimated() || (stored != null && stored != BLOCK);
  }

  /** Whether weaker opinions on the value are hidden by this one. */
  boolean speaks() {
    return isAnimated() || stored != null;
  }

  /** The value where time does not matter: the fixed one, else the first sample. */
  Optional<Object> any() {
    Object v = value();
    if (v != null) {
      return Optional.of(v);
    }
    return isAnimated() ? Optional.ofNullable(samples.get(0)) : Optional.empty();
  }

  Optional<String> text() {
    return any().filter(String.class::isInstance).map(String.class::cast);
  }

  UsdAttribute withType(String newType) {
    return new UsdAttribute(name, newType, stored, times, samples);
  }

  /** The same samples at {@code scale · time + offset}; scale is above 0. */
  UsdAttribute retimed(double scale, double offset) {
    if (!isAnimated() || (scale == 1 && offset == 0)) {
      return this;
    }
    if (stored instanceof UsdSpline s) {
      return spline(name, type, s.retimed(scale, offset));
    }
    double[] t = new double[times.length];
    for (int i = 0; i < t.length; i++) {
      t[i] = scale * times[i] + offset;
    }
    return new UsdAttribute(name, type, stored, t, samples);
  }
}
