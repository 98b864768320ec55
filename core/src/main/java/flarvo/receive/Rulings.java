package flarvo.receive;

import java.util.Collections;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** What was decided, each as it is typed. */
public record Rulings(Map<Fact<?>, String> texts) {

  public static final Rulings NONE = new Rulings(Map.of());

  public Rulings {
    TreeMap<Fact<?>, String> copy = new TreeMap<>();
    copy.putAll(texts);
    copy.forEach(Fact::check); // a ruling that means nothing never comes to be
    texts = Collections.unmodifiableMap(copy);
  }

  /** The ruling on a fact, as it was typed. */
  public Optional<String> of(Fact<?> fact) {
    return Optional.ofNullable(texts.get(fact));
  }

  /** Null takes a ruling back. */
  public Rulings with(Fact<?> fact, String text) {
    Map<Fact<?>, String> m = new TreeMap<>();
    m.putAll(texts);
    if (text == null) {
      m.remove(fact);
    } else {
      m.put(fact, text);
    }
    return new Rulings(m);
  }

  /** The options that these rulings make of others, which they overrule. */
  public IntakeOptions over(IntakeOptions base) {
    IntakeOptions o = base;
    for (Map.Entry<Fact<?>, String> e : texts.entrySet()) {
      o = e.getKey().over(o, e.getValue());
    }
    return o;
  }
}
