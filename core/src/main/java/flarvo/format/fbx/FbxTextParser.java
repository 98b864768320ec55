package flarvo.format.fbx;

import flarvo.format.ReadLimits;
import flarvo.format.TextCursor;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.Arrays;

/**
 * Text container to records.
 *
 * <pre>
 *   file    = ( comment | record )*
 *   record  = name ":" [ value ( "," value )* ] [ "{" record* "}" ]
 *   value   = number | "text" | word | "*" count "{" "a:" number ( "," number )* "}"
 *   comment = ";" … end of line
 * </pre>
 */
final class FbxTextParser {

  /** From this version on, attributes of keys are written as the bits of floats. */
  private static final long FIRST_PACKED = 7200;

  private static final String GARBLED = "The file is corrupt";

  private final TextCursor in;
  private final ReadLimits limits;
  private final Progress progress;
  private boolean packed = true;

  FbxTextParser(String file, String text, ReadLimits limits, Progress progress) {
    this.in = new TextCursor(file, text);
    this.limits = limits;
    this.progress = progress;
  }

  /** A nameless record that holds the file's top level. */
  FbxNode parse() {
    FbxNode root = new FbxNode("");
    for (blank(); !in.atEnd(); blank()) {
      root.add(record(1));
    }
    return root;
  }

  private FbxNode record(int depth) {
    if (depth > limits.deepest()) {
      throw in.error("records are nested deeper than " + limits.deepest(), GARBLED);
    }
    progress.step(0, 0);
    int start = in.position();
    while (isWord(in.peek())) {
      in.skip(1);
    }
    String name = in.slice(start);
    if (name.isEmpty() || in.peek() != ':') {
      throw cutOr("a record such as 'Name:' expected");
    }
    in.skip(1);
    FbxNode node = new FbxNode(name);
    inline();
    if (in.peek() == ',') { // embedded media begin so, with their text on the next lines
      in.skip(1);
      blank();
    }
    while (in.peek() != '{' && in.peek() != '}' && in.peek() != '\n' && !in.atEnd()) {
      if (in.peek() == ';') {
        in.skipLine();
        break;
      }
      value(node);
      inline();
      if (in.peek() == ',') {
        in.skip(1);
        blank();
      }
    }
    if (in.peek() == '{') {
      in.skip(1);
      for (blank(); in.peek() != '}'; blank()) {
        node.add(record(depth + 1));
      }
      in.skip(1);
    } else if (node.values.isEmpty() && in.atEnd()) {
      throw cutOr("a value or a block of '" + name + "' expected");
    }
    return node;
  }

  private void value(FbxNode node) {
    char c = in.peek();
    if (c == '"') {
      in.skip(1);
      node.values.add(in.until("\"", "a text").replace("&quot;", "\""));
    } else if (c == '*') {
      node.values.add(array(packed && node.name.equals("KeyAttrDataFloat")));
    } else if (c >= '0' && c <= '9' || c == '-' || c == '+' || c == '.') {
      Object n = number();
      if (node.name.equals("FBXVersion") && n instanceof Long v) {
        packed = v >= FIRST_PACKED;
      }
      node.values.add(n);
    } else if (isWord(c)) {
      int start = in.position();
      while (isWord(in.peek())) {
        in.skip(1);
      }
      node.values.add(word(in.slice(start)));
    } else {
      throw cutOr("a value expected, not '" + c + "'");
    }
  }

  /** Bare words are flags such as Y or T; nan and inf are numbers that no scene can hold. */
  private String word(String w) {
    if (w.equalsIgnoreCase("nan") || w.equalsIgnoreCase("inf")) {
      throw notANumber();
    }
    return w;
  }

  /**
   * @param bits whether whole numbers are the bits of 32-bit floats
   */
  private double[] array(boolean bits) {
    in.skip(1);
    int start = in.position();
    while (Character.isDigit(in.peek())) {
      in.skip(1);
    }
    String digits = in.slice(start);
    long count;
    try {
      count = Long.parseLong(digits);
    } catch (NumberFormatException e) {
      throw cutOr("an array's length expected after '*'");
    }
    blank();
    expect('{');
    blank();
    // Grown as numbers come: what the file claims is never allocated in advance.
    double[] out = new double[(int) Math.min(count, 4096)];
    int n = 0;
    if (in.peek() == 'a' && in.peek(1) == ':') {
      in.skip(2);
      for (blank(); in.peek() != '}'; blank()) {
        if (n == out.length) {
          out = Arrays.copyOf(out, Math.max(16, n * 2));
        }
        if (in.peek() == 'n' || in.peek() == 'i') {
          throw notANumber();
        }
        Object v = number();
        out[n++] = bits && v instanceof Long b ? unpacked(b) : asDouble(v);
        if ((n & 0xFFF) == 0) {
          progress.step(0, 0);
        }
        blank();
        if (in.peek() == ',') {
          in.skip(1);
        } else if (in.peek() != '}') {
          throw cutOr("',' or '}' expected");
        }
      }
    }
    expect('}');
    if (n != count) {
      throw in.error("an array claims " + count + " numbers and holds " + n, "Request a new copy");
    }
    return Arrays.copyOf(out, n);
  }

  /** Bits of no float but zero and the denormal ones are this small: those are numbers. */
  private static double unpacked(long bits) {
    return Math.abs(bits) < 1L << 23 ? bits : Float.intBitsToFloat((int) bits);
  }

  private InputError notANumber() {
    return in.error(
        "a value is not a number", "The sender's data is broken there; request a new copy");
  }

  private static double asDouble(Object number) {
    return ((Number) number).doubleValue();
  }

  private Object number() {
    int start = in.position();
    boolean whole = true;
    while (true) {
      char c = in.peek();
      if (c >= '0' && c <= '9' || c == '-' || c == '+') {
        in.skip(1);
      } else if (c == '.' || c == 'e' || c == 'E' || c == '#' || isWord(c)) {
        // "1.#QNAN" and the like are what some writers print for a broken value.
        whole = false;
        in.skip(1);
      } else {
        break;
      }
    }
    String s = in.slice(start);
    try {
      if (whole) {
        return Long.parseLong(s);
      }
      double d = in.number(start);
      if (Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      if (whole) {
        try {
          return in.number(start);
        } catch (NumberFormatException again) {
          // Falls through to the one message below.
        }
      }
    }
    in.moveTo(start);
    if (s.isEmpty()) {
      throw cutOr("a number expected");
    }
    throw in.error(
        "'" + (s.length() > 30 ? s.substring(0, 30) : s) + "' is not a finite number",
        "The sender's data is broken there; request a new copy");
  }

  private InputError cutOr(String cause) {
    return in.atEnd()
        ? in.error("the file ends in the middle", "It was cut off; request a new copy")
        : in.error(cause, GARBLED);
  }

  private void expect(char c) {
    if (in.peek() != c) {
      throw cutOr("'" + c + "' expected");
    }
    in.skip(1);
  }

  private static boolean isWord(char c) {
    return c == '_' || c == '-' || c == '|' || Character.isLetterOrDigit(c);
  }

  private void blank() {
    while (true) {
      char c = in.peek();
      if (c == ' ' || c == '\n' || c == '\r' || c == '\t') {
        in.skip(1);
      } else if (c == ';') {
        in.skipLine();
      } else {
        return;
      }
    }
  }

  private void inline() {
    while (in.peek() == ' ' || in.peek() == '\t' || in.peek() == '\r') {
      in.skip(1);
    }
  }
}
