package flarvo.report;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.Function;

/**
 * A JSON value with its place in the document. Every accessor says what was expected and what was
 * found where a value is of another kind; nothing falls back on a default in silence.
 */
public final class StrictJson {

  private static final int SHOWN = 60;

  private final JsonNode node;
  private final String place;

  private StrictJson(JsonNode node, String place) {
    this.node = node;
    this.place = place;
  }

  /**
   * @param place what the value is called in errors; may be empty for a whole document
   */
  public static StrictJson of(JsonNode node, String place) {
    return new StrictJson(node, place);
  }

  public JsonNode node() {
    return node;
  }

  public String place() {
    return place;
  }

  /** Whether the member is there and not null. */
  public boolean has(String member) {
    return node.hasNonNull(member);
  }

  /**
   * @throws IllegalArgumentException when it is not there
   */
  public StrictJson member(String name) {
    if (!node.isObject()) {
      throw wrong("an object");
    }
    if (!has(name)) {
      throw new IllegalArgumentException(at() + "'" + name + "' is missing");
    }
    return new StrictJson(node.get(name), place.isEmpty() ? name : place + "." + name);
  }

  /** Empty where it is not there. */
  public Optional<StrictJson> optional(String name) {
    if (!node.isObject()) {
      throw wrong("an object");
    }
    return has(name) ? Optional.of(member(name)) : Optional.empty();
  }

  /**
   * A text.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public String text() {
    if (!node.isTextual()) {
      throw wrong("text");
    }
    return node.asText();
  }

  /**
   * A text.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public String text(String name) {
    return member(name).text();
  }

  /**
   * A finite number.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public double number() {
    if (!node.isNumber()) {
      throw wrong("a number");
    }
    return node.asDouble();
  }

  /**
   * A finite number.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public double number(String name) {
    return member(name).number();
  }

  /**
   * An integer of 32 bits.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public int integer() {
    if (!node.isNumber() || !node.canConvertToExactIntegral() || !node.canConvertToInt()) {
      throw wrong("an integer");
    }
    return node.intValue();
  }

  /**
   * An integer of 32 bits.
   *
   * @throws IllegalArgumentException with the place, when it is something else
   */
  public int integer(String name) {
    return member(name).integer();
  }

  /** Empty where it is not there. */
  public OptionalInt optionalInteger(String name) {
    return has(name) ? OptionalInt.of(integer(name)) : OptionalInt.empty();
  }

  /** The default counts only where the member is not there. */
  public boolean flag(String name, boolean otherwise) {
    Optional<StrictJson> m = optional(name);
    if (m.isEmpty()) {
      return otherwise;
    }
    if (!m.get().node.isBoolean()) {
      throw m.get().wrong("true or false");
    }
    return m.get().node.asBoolean();
  }

  /** Every element of an array. */
  public <T> List<T> list(Function<StrictJson, T> each) {
    if (!node.isArray()) {
      throw wrong("a list");
    }
    List<T> out = new ArrayList<>(node.size());
    for (int i = 0; i < node.size(); i++) {
      out.add(each.apply(new StrictJson(node.get(i), place + "[" + i + "]")));
    }
    return out;
  }

  /** Every element of a list; empty where the member is not there. */
  public <T> List<T> list(String name, Function<StrictJson, T> each) {
    return optional(name).map(m -> m.list(each)).orElse(List.of());
  }

  /** Every member of an object, in its order. */
  public <T> Map<String, T> members(Function<StrictJson, T> each) {
    if (!node.isObject()) {
      throw wrong("an object");
    }
    Map<String, T> out = new LinkedHashMap<>();
    node.properties().forEach(e -> out.put(e.getKey(), each.apply(member(e.getKey()))));
    return out;
  }

  /** Numbers in a list. */
  public double[] numbers() {
    if (!node.isArray()) {
      throw wrong("a list of numbers");
    }
    double[] out = new double[node.size()];
    for (int i = 0; i < out.length; i++) {
      out[i] = new StrictJson(node.get(i), place + "[" + i + "]").number();
    }
    return out;
  }

  /** So many numbers in a list. */
  public double[] numbers(int count) {
    double[] out = numbers();
    if (out.length != count) {
      throw wrong(count + " numbers");
    }
    return out;
  }

  /** The element of an enumeration that a word stands for. */
  public <E> E word(E[] all, Function<E, String> word) {
    String t = text();
    List<String> known = new ArrayList<>();
    for (E e : all) {
      if (word.apply(e).equals(t)) {
        return e;
      }
      known.add(word.apply(e));
    }
    throw wrong("one of " + String.join(", ", known));
  }

  /** What else is wrong with it, with its place. */
  public IllegalArgumentException error(String what) {
    return new IllegalArgumentException(at() + what);
  }

  private IllegalArgumentException wrong(String expected) {
    String found = node.toString();
    return error(
        "expected "
            + expected
            + ", found "
            + (found.length() > SHOWN ? found.substring(0, SHOWN) + "…" : found));
  }

  private String at() {
    return place.isEmpty() ? "" : place + ": ";
  }
}
