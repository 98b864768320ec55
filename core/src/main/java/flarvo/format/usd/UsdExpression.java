package flarvo.format.usd;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Expressions over variables, which may stand for asset paths and choices of variants: a text
 * between backticks.
 *
 * <pre>
 *   value = "text with ${VAR}" | 'text' | ${VAR} | number | True | False | None | [ value, … ]
 *         | function ( value, … )
 * </pre>
 *
 * Functions: if, and, or, not, eq, neq, lt, leq, gt, geq, contains, at, len, defined.
 */
final class UsdExpression {

  private static final int DEEPEST = 32;

  private final String text;
  private final Map<String, Object> variables;
  private int at;
  private int depth;

  private UsdExpression(String text, Map<String, Object> variables) {
    this.text = text;
    this.variables = variables;
  }

  static boolean isExpression(String s) {
    return s.length() >= 2 && s.startsWith("`") && s.endsWith("`");
  }

  /** The text of an expression; what is no expression stays. Empty where it means nothing. */
  static Optional<String> text(String s, Map<String, Object> variables) {
    if (!isExpression(s)) {
      return Optional.of(s);
    }
    try {
      UsdExpression e = new UsdExpression(s.substring(1, s.length() - 1), variables);
      Object v = e.value();
      e.blank();
      return e.at == e.text.length() && v instanceof String t ? Optional.of(t) : Optional.empty();
    } catch (IllegalArgumentException | IndexOutOfBoundsException | ClassCastException e) {
      return Optional.empty(); // the caller says so
    }
  }

  private char peek() {
    return at < text.length() ? text.charAt(at) : '\0';
  }

  private void blank() {
    while (peek() == ' ' || peek() == '\t') {
      at++;
    }
  }

  private void expect(char c) {
    blank();
    if (peek() != c) {
      throw new IllegalArgumentException("'" + c + "' expected");
    }
    at++;
  }

  private Object value() {
    if (++depth > DEEPEST) {
      throw new IllegalArgumentException("nested too deep");
    }
    blank();
    char c = peek();
    Object v;
    if (c == '"' || c == '\'') {
      v = string(c);
    } else if (c == '$') {
      at++;
      v = variable();
    } else if (c == '[') {
      at++;
      v = list(']');
    } else {
      v = wordOrNumber();
    }
    depth--;
    return v;
  }

  private String string(char quote) {
    at++;
    StringBuilder out = new StringBuilder();
    while (peek() != quote) {
      if (at >= text.length()) {
        throw new IllegalArgumentException("a text is not closed");
      }
      if (text.startsWith("${", at)) {
        at++;
        out.append(variable());
      } else {
        at += peek() == '\\' ? 1 : 0;
        out.append(peek());
        at++;
      }
    }
    at++;
    return out.toString();
  }

  /** Between braces; one that is an expression itself is evaluated. */
  private Object variable() {
    expect('{');
    int end = text.indexOf('}', at);
    if (end < 0) {
      throw new IllegalArgumentException("a variable is not closed");
    }
    Object v = variables.get(text.substring(at, end));
    at = end + 1;
    if (v == null) {
      throw new IllegalArgumentException("a variable is not there");
    }
    if (v instanceof String s && isExpression(s)) {
      UsdExpression inner = new UsdExpression(s.substring(1, s.length() - 1), variables);
      inner.depth = depth + 1;
      return inner.value();
    }
    return v;
  }

  private List<Object> list(char end) {
    List<Object> out = new ArrayList<>();
    for (blank(); peek() != end; blank()) {
      out.add(value());
      blank();
      if (peek() == ',') {
        at++;
      } else if (peek() != end) {
        throw new IllegalArgumentException("',' expected");
      }
    }
    at++;
    return out;
  }

  private Object wordOrNumber() {
    int start = at;
    while (Character.isLetterOrDigit(peek()) || peek() == '-' || peek() == '_') {
      at++;
    }
    String word = text.substring(start, at);
    blank();
    if (peek() == '(') {
      at++;
      return word.equals("defined") ? defined() : call(word, list(')'));
    }
    return switch (word) {
      case "True", "true" -> true;
      case "False", "false" -> false;
      case "None", "none" -> Optional.empty();
      default -> (double) Long.parseLong(word); // no other numbers
    };
  }

  private Object defined() {
    boolean all = true;
    for (Object name : list(')')) {
      all &= name instanceof String s && variables.containsKey(s);
    }
    return all;
  }

  private static Object call(String function, List<Object> a) {
    return switch (function) {
      case "if" -> truth(a, 0) ? a.get(1) : a.size() > 2 ? a.get(2) : Optional.empty();
      case "and" -> a.stream().allMatch(Boolean.TRUE::equals);
      case "or" -> a.stream().anyMatch(Boolean.TRUE::equals);
      case "not" -> !truth(a, 0);
      case "eq" -> a.get(0).equals(a.get(1));
      case "neq" -> !a.get(0).equals(a.get(1));
      case "lt" -> compare(a) < 0;
      case "leq" -> compare(a) <= 0;
      case "gt" -> compare(a) > 0;
      case "geq" -> compare(a) >= 0;
      case "contains" ->
          a.get(0) instanceof List<?> l
              ? l.contains(a.get(1))
              : String.valueOf(a.get(0)).contains(String.valueOf(a.get(1)));
      case "len" ->
          (double) (a.get(0) instanceof List<?> l ? l.size() : String.valueOf(a.get(0)).length());
      case "at" -> at(a.get(0), a.get(1));
      default -> throw new IllegalArgumentException("'" + function + "' is no function");
    };
  }

  private static boolean truth(List<Object> a, int i) {
    return Boolean.TRUE.equals(a.get(i));
  }

  /** From the end where the index is below 0. */
  private static Object at(Object of, Object index) {
    int i = ((Double) index).intValue();
    if (of instanceof List<?> l) {
      return l.get(i < 0 ? l.size() + i : i);
    }
    String s = String.valueOf(of);
    return String.valueOf(s.charAt(i < 0 ? s.length() + i : i));
  }

  private static int compare(List<Object> a) {
    if (a.get(0) instanceof Double x && a.get(1) instanceof Double y) {
      return Double.compare(x, y);
    }
    return String.valueOf(a.get(0)).compareTo(String.valueOf(a.get(1)));
  }
}
