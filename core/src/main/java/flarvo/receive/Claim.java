package flarvo.receive;

import java.util.List;
import java.util.Objects;
import java.util.Optional;

/**
 * What one source says of a fact, or what stands there because it is silent.
 *
 * @param source name of the file or sequence
 * @param value what it means; equal values are no conflict; empty where nothing is stated
 * @param text for eyes
 * @param assumed true when the source is silent and a rule or a fallback speaks
 * @param place where in the source it stands, or whose rule it is
 */
public record Claim<T>(
    Fact<T> fact, String source, Optional<T> value, String text, boolean assumed, String place) {

  public Claim {
    Objects.requireNonNull(fact);
    Objects.requireNonNull(source);
    Objects.requireNonNull(value);
    Objects.requireNonNull(text);
    Objects.requireNonNull(place);
  }

  Claim(Fact<T> fact, String source, T value, String text, boolean assumed, String place) {
    this(fact, source, Optional.of(value), text, assumed, place);
  }

  /** Those about one fact; they say what the fact is about, since none can be made otherwise. */
  @SuppressWarnings("unchecked")
  static <T> List<Claim<T>> about(Fact<T> fact, List<Claim<?>> claims) {
    return claims.stream().filter(c -> c.fact().equals(fact)).map(c -> (Claim<T>) c).toList();
  }

  static <T> Claim<T> said(Fact<T> fact, String source, T value, String text, String place) {
    return new Claim<>(fact, source, value, text, false, place);
  }

  static <T> Claim<T> silent(Fact<T> fact, String source) {
    return new Claim<>(
        fact,
        source,
        Optional.empty(),
        "not stated",
        true,
        "neither the file nor its format states it");
  }
}
