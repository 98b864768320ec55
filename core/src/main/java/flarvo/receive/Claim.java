package flarvo.receive;

import java.util.Objects;

/**
 * What one source says of a fact, or what stands there because it is silent.
 *
 * @param source name of the file or sequence
 * @param value what it means; equal values are no conflict
 * @param text for eyes
 * @param assumed true when the source is silent and a rule or a fallback speaks
 * @param place where in the source it stands, or whose rule it is
 */
public record Claim(
    Fact fact, String source, Object value, String text, boolean assumed, String place) {

  public Claim {
    Objects.requireNonNull(fact);
    Objects.requireNonNull(source);
    Objects.requireNonNull(value);
    Objects.requireNonNull(text);
    Objects.requireNonNull(place);
  }

  static Claim said(Fact fact, String source, Object value, String text, String place) {
    return new Claim(fact, source, value, text, false, place);
  }
}
