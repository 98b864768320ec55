package flarvo.format.usd;

import java.util.List;
import java.util.Optional;

/**
 * A property: a value that holds always, samples over time, or both (then the samples win).
 *
 * @param value Double, String, {@link UsdArray}, List or null
 * @param times rising; as long as {@code samples}
 */
record UsdAttribute(String name, String type, Object value, double[] times, List<Object> samples) {

  boolean isAnimated() {
    return times.length > 0;
  }

  boolean hasValue() {
    return value != null || isAnimated();
  }

  /** The value where time does not matter: the fixed one, else the first sample. */
  Optional<Object> any() {
    if (value != null) {
      return Optional.of(value);
    }
    return isAnimated() ? Optional.ofNullable(samples.get(0)) : Optional.empty();
  }

  Optional<String> text() {
    return any().filter(String.class::isInstance).map(String.class::cast);
  }
}
