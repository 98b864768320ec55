package flarvo.format;

import java.util.Objects;

/**
 * A fact that a file states, or that stands because the file is silent.
 *
 * @param assumed true when the file is silent and the format's rule or fallback speaks
 * @param place where it stands, or whose rule it is
 */
public record Sourced<T>(T value, boolean assumed, String place) {

  public Sourced {
    Objects.requireNonNull(value);
    Objects.requireNonNull(place);
  }

  /** Stated in the file. */
  public static <T> Sourced<T> said(T value, String place) {
    return new Sourced<>(value, false, place);
  }

  /** Not stated; {@code place} names the rule that applies. */
  public static <T> Sourced<T> assumed(T value, String place) {
    return new Sourced<>(value, true, place);
  }
}
