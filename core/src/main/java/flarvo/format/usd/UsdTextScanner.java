package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.format.TextCursor;
import flarvo.report.InputError;

/** The words of a text layer: names, numbers, texts, paths, and the blanks between them. */
final class UsdTextScanner {

  private static final String GARBLED = "The file is corrupt, or not a text layer";

  private final TextCursor in;
  private final ReadLimits limits;
  private int depth;

  UsdTextScanner(String file, String text, ReadLimits limits) {
    this.in = new TextCursor(file, text);
    this.limits = limits;
  }

  boolean atEnd() {
    return in.atEnd();
  }

  char peek() {
    return in.peek();
  }

  boolean startsWith(String s) {
    return in.startsWith(s);
  }

  void skip(int count) {
    in.skip(count);
  }

  void skipLine() {
    in.skipLine();
  }

  String until(String end, String what) {
    return in.until(end, what);
  }

  /** What is wrong here; at the end of the text, that is always that it was cut off. */
  InputError error(String cause) {
    return in.atEnd()
        ? in.error("the file ends in the middle", "It was cut off; request a new copy")
        : in.error(cause, GARBLED);
  }

  InputError error(String cause, String advice) {
    return in.error(cause, advice);
  }

  /** A property's name with its namespaces and suffix; empty where there is none. */
  String dottedName() {
    int start = in.position();
    while (isNameCharacter(in.peek()) || in.peek() == ':' || in.peek() == '.') {
      in.skip(1);
    }
    return in.slice(start);
  }

  /** Leaves the block that {@link #enter} went into. */
  void leave() {
    depth--;
  }

  /** White space, line ends and comments. */
  void blank() {
    while (true) {
      char c = in.peek();
      if (c == ' ' || c == '\n' || c == '\r' || c == '\t') {
        in.skip(1);
      } else if (c == '#' || in.startsWith("//")) {
        in.skipLine();
      } else if (in.startsWith("/*")) {
        in.skip(2);
        in.until("*/", "a comment");
      } else {
        return;
      }
    }
  }

  void inlineBlank() {
    while (true) {
      if (in.peek() == ' ' || in.peek() == '\t') {
        in.skip(1);
      } else if (in.startsWith("/*")) {
        in.skip(2);
        in.until("*/", "a comment");
      } else {
        return;
      }
    }
  }

  String word(String wanted) {
    int start = in.position();
    while (isNameCharacter(in.peek()) || in.peek() == ':') {
      in.skip(1);
    }
    String w = in.slice(start);
    if (w.isEmpty()) {
      throw error(wanted + " expected, not '" + in.peek() + "'");
    }
    return w;
  }

  String string() {
    char quote = in.peek();
    if (quote != '"' && quote != '\'') {
      throw error("a name or text in quotes expected");
    }
    String triple = String.valueOf(quote).repeat(3);
    boolean isTriple = in.startsWith(triple);
    in.skip(isTriple ? 3 : 1);
    StringBuilder s = new StringBuilder();
    while (true) {
      if (isTriple ? in.startsWith(triple) : in.peek() == quote && !in.atEnd()) {
        in.skip(isTriple ? 3 : 1);
        return s.toString();
      }
      char c = in.next();
      if (c == '\n' && !isTriple) {
        throw error("a text is not closed on its line");
      }
      if (c == '\\') {
        char e = in.next();
        s.append(
            switch (e) {
              case 'n' -> '\n';
              case 't' -> '\t';
              case 'r' -> '\r';
              default -> e;
            });
      } else {
        s.append(c);
      }
    }
  }

  String path() {
    in.skip(1);
    String p = in.until(">", "a path");
    inlineBlank();
    return p;
  }

  boolean isNumberStart() {
    char c = in.peek();
    return c >= '0' && c <= '9'
        || c == '.'
        || (c == '-' || c == '+')
        || (c == 'i' && in.startsWith("inf") && !isNameCharacter(in.peek(3)))
        || (c == 'n' && in.startsWith("nan") && !isNameCharacter(in.peek(3)));
  }

  double number() {
    int start = in.position();
    while (isNumberCharacter(in.peek())) {
      in.skip(1);
    }
    boolean word = in.position() > start && in.peek(-1) >= 'a';
    try {
      return switch (word ? in.slice(start) : "") {
        case "inf", "+inf" -> Double.POSITIVE_INFINITY;
        case "-inf" -> Double.NEGATIVE_INFINITY;
        case "nan", "-nan" -> Double.NaN;
        default -> in.number(start);
      };
    } catch (NumberFormatException e) {
      in.moveTo(start);
      throw error("a number expected");
    }
  }

  static boolean isNumberCharacter(char c) {
    return c >= '0' && c <= '9'
        || c == '.'
        || c == '-'
        || c == '+'
        || c == 'e'
        || c == 'E'
        || c == 'i'
        || c == 'n'
        || c == 'f'
        || c == 'a';
  }

  static boolean isNameCharacter(char c) {
    return c < 128
        ? c == '_' || c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9'
        : Character.isLetterOrDigit(c);
  }

  void expect(char c) {
    if (in.peek() != c) {
      throw error("'" + c + "' expected, not '" + in.peek() + "'");
    }
    in.skip(1);
  }

  void enter() {
    if (++depth > limits.deepest()) {
      throw error("blocks are nested deeper than " + limits.deepest());
    }
  }
}
