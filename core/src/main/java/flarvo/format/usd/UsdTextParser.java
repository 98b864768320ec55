package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.format.TextCursor;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Text layer to {@link UsdLayer}.
 *
 * <pre>
 *   layer      = "#usda" version  [ "(" metadata ")" ]  prim*
 *   prim       = ("def" | "over" | "class") [type] string [ "(" metadata ")" ] "{" body "}"
 *   body       = ( prim | attribute | relationship | variantSet | "reorder" … )*
 *   attribute  = ["custom"] ["uniform" | "varying"] type name [ ".timeSamples" | ".connect" ]
 *                [ "=" value ] [ "(" metadata ")" ]
 *   metadata   = ( string | [listop] key "=" value ) separated by newline, "," or ";"
 *   value      = number | string | @asset@ | &lt;path&gt; | (tuple) | [array] | {dictionary} | word
 * </pre>
 */
final class UsdTextParser {

  private static final String GARBLED = "The file is garbled, or no text layer";
  private static final List<String> LIST_OPS =
      List.of("add", "append", "prepend", "delete", "reorder");

  private final TextCursor in;
  private final ReadLimits limits;
  private final Progress progress;
  private int depth;

  UsdTextParser(String file, String text, ReadLimits limits, Progress progress) {
    this.in = new TextCursor(file, text);
    this.limits = limits;
    this.progress = progress;
  }

  UsdLayer parse() {
    if (!in.startsWith("#usda ")) {
      throw in.error("a text layer starts with '#usda 1.0'", GARBLED);
    }
    in.skipLine();
    UsdLayer layer = new UsdLayer();
    blank();
    if (in.peek() == '(') {
      metadata(layer.metadata);
    }
    for (blank(); !in.atEnd(); blank()) {
      String word = word("'def', 'over' or 'class'");
      if (word.equals("reorder")) {
        skipStatement();
      } else {
        layer.roots.add(prim(word, "/"));
      }
    }
    return layer;
  }

  private UsdPrim prim(String specifierWord, String parent) {
    UsdPrim.Specifier specifier =
        switch (specifierWord) {
          case "def" -> UsdPrim.Specifier.DEF;
          case "over" -> UsdPrim.Specifier.OVER;
          case "class" -> UsdPrim.Specifier.CLASS;
          default ->
              throw in.error(
                  "'" + shorten(specifierWord) + "' is no 'def', 'over' or 'class'", GARBLED);
        };
    progress.step(0, 0);
    blank();
    String type = in.peek() == '"' || in.peek() == '\'' ? "" : word("a type or a name in quotes");
    blank();
    UsdPrim prim = new UsdPrim(specifier, type, string(), parent);
    blank();
    if (in.peek() == '(') {
      metadata(prim.metadata);
      blank();
    }
    enter();
    expect('{');
    for (blank(); in.peek() != '}'; blank()) {
      statement(prim);
    }
    in.skip(1);
    depth--;
    return prim;
  }

  private void statement(UsdPrim prim) {
    if (in.peek() == ';') {
      in.skip(1);
      return;
    }
    String word = word("a property or a prim");
    switch (word) {
      case "def", "over", "class" -> prim.children.add(prim(word, prim.path));
      case "variantSet" -> variantSet(prim);
      default -> property(prim, word);
    }
  }

  /** Kept apart from the prim's own children: choosing one is composition. */
  private void variantSet(UsdPrim prim) {
    blank();
    String name = string();
    blank();
    expect('=');
    blank();
    enter();
    expect('{');
    Map<String, Object> variants = new LinkedHashMap<>();
    for (blank(); in.peek() != '}'; blank()) {
      String variant = string();
      UsdPrim body = new UsdPrim(UsdPrim.Specifier.OVER, "", variant, prim.path);
      blank();
      if (in.peek() == '(') {
        metadata(body.metadata);
        blank();
      }
      enter();
      expect('{');
      for (blank(); in.peek() != '}'; blank()) {
        statement(body);
      }
      in.skip(1);
      depth--;
      variants.put(variant, body);
    }
    in.skip(1);
    depth--;
    prim.metadata.put("variantSet:" + name, variants);
  }

  private void property(UsdPrim prim, String firstWord) {
    String word = firstWord;
    while (word.equals("custom")
        || word.equals("uniform")
        || word.equals("varying")
        || word.equals("config")
        || LIST_OPS.contains(word)) {
      blank();
      word = word("a type");
    }
    String type = word;
    if (in.peek() == '[') {
      in.skip(1);
      expect(']');
      type += "[]";
    }
    blank();
    int start = in.position();
    while (isNameCharacter(in.peek()) || in.peek() == ':' || in.peek() == '.') {
      in.skip(1);
    }
    String name = in.slice(start);
    if (name.isEmpty()) {
      throw in.error("a property name is wanted", GARBLED);
    }
    String suffix = "";
    int dot = name.indexOf('.');
    if (dot >= 0) {
      suffix = name.substring(dot);
      name = name.substring(0, dot);
    }
    Object value = null;
    boolean samples = suffix.equals(".timeSamples");
    double[] times = {};
    List<Object> values = List.of();
    inlineBlank();
    if (in.peek() == '=') {
      in.skip(1);
      blank();
      if (samples) {
        TimeSamples t = timeSamples(prim.path + "." + name);
        times = t.times;
        values = t.values;
      } else {
        value = value();
      }
    }
    inlineBlank();
    if (in.peek() == '(') {
      metadata(new LinkedHashMap<>());
    }
    if (type.equals("rel") || suffix.equals(".connect")) {
      prim.metadata.put(type.equals("rel") ? "rel:" + name : "connect:" + name, value);
      return;
    }
    UsdAttribute old = prim.attributes.get(name);
    prim.attributes.put(
        name,
        new UsdAttribute(
            name,
            type,
            value == null && old != null ? old.value() : value,
            times.length == 0 && old != null ? old.times() : times,
            times.length == 0 && old != null ? old.samples() : values));
  }

  private record TimeSamples(double[] times, List<Object> values) {}

  private TimeSamples timeSamples(String path) {
    enter();
    expect('{');
    double[] times = new double[16];
    List<Object> values = new ArrayList<>();
    boolean rising = true;
    for (blank(); in.peek() != '}'; blank()) {
      double time = number();
      if (!Double.isFinite(time)) {
        throw in.error("a time in " + path + " is not finite", "Ask for the file again");
      }
      if (values.size() == times.length) {
        times = Arrays.copyOf(times, times.length * 2);
      }
      rising &= values.isEmpty() || time > times[values.size() - 1];
      times[values.size()] = time;
      blank();
      expect(':');
      blank();
      values.add(value());
      blank();
      if (in.peek() == ',') {
        in.skip(1);
      } else if (in.peek() != '}') {
        throw in.error("',' or '}' is wanted between samples", GARBLED);
      }
    }
    in.skip(1);
    depth--;
    if (values.isEmpty()) {
      throw in.error(path + " has no samples", "The file holds zero frames; ask for it again");
    }
    double[] t = Arrays.copyOf(times, values.size());
    return rising ? new TimeSamples(t, values) : sorted(t, values, path);
  }

  private TimeSamples sorted(double[] times, List<Object> values, String path) {
    Integer[] order = new Integer[times.length];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> Double.compare(times[a], times[b]));
    double[] t = new double[times.length];
    List<Object> v = new ArrayList<>();
    for (int i = 0; i < t.length; i++) {
      t[i] = times[order[i]];
      v.add(values.get(order[i]));
      if (i > 0 && t[i] == t[i - 1]) {
        throw in.error(path + " has two samples at time " + t[i], GARBLED);
      }
    }
    return new TimeSamples(t, v);
  }

  private void metadata(Map<String, Object> into) {
    enter();
    expect('(');
    for (blank(); in.peek() != ')'; blank()) {
      char c = in.peek();
      if (c == ',' || c == ';') {
        in.skip(1);
      } else if (c == '"' || c == '\'') {
        into.put("comment", string());
      } else {
        String key = word("a metadata name");
        if (LIST_OPS.contains(key)) {
          blank();
          key = word("a metadata name");
        }
        blank();
        expect('=');
        blank();
        into.put(key, value());
      }
    }
    in.skip(1);
    depth--;
  }

  private Object value() {
    char c = in.peek();
    return switch (c) {
      case '(' -> new UsdArray(1, tuple());
      case '[' -> array();
      case '{' -> dictionary();
      case '"', '\'' -> string();
      case '@' -> asset();
      case '<' -> path();
      default -> isNumberStart() ? (Object) number() : wordValue();
    };
  }

  private Object wordValue() {
    String w = word("a value");
    return switch (w) {
      case "None" -> null;
      case "inf" -> Double.POSITIVE_INFINITY;
      case "nan" -> Double.NaN;
      default -> w;
    };
  }

  private double[] tuple() {
    double[] out = new double[4];
    int n = 0;
    enter();
    expect('(');
    for (blank(); in.peek() != ')'; blank()) {
      if (in.peek() == '(') {
        double[] inner = tuple();
        out = Arrays.copyOf(out, Math.max(out.length, n + inner.length + 4));
        System.arraycopy(inner, 0, out, n, inner.length);
        n += inner.length;
      } else {
        if (n == out.length) {
          out = Arrays.copyOf(out, n * 2);
        }
        out[n++] = number();
      }
      blank();
      if (in.peek() == ',') {
        in.skip(1);
      } else if (in.peek() != ')') {
        throw in.error("',' or ')' is wanted", GARBLED);
      }
    }
    in.skip(1);
    depth--;
    return Arrays.copyOf(out, n);
  }

  private Object array() {
    enter();
    expect('[');
    blank();
    boolean numeric = in.peek() == '(' || isNumberStart();
    double[] numbers = new double[16];
    int n = 0;
    int count = 0;
    int size = -1;
    List<Object> others = new ArrayList<>();
    for (; in.peek() != ']'; blank()) {
      if (!numeric) {
        others.add(value());
      } else {
        int before = n;
        if (in.peek() == '(') {
          double[] t = tuple();
          if (n + t.length > numbers.length) {
            numbers = Arrays.copyOf(numbers, Math.max(numbers.length * 2, n + t.length));
          }
          System.arraycopy(t, 0, numbers, n, t.length);
          n += t.length;
        } else {
          if (n == numbers.length) {
            numbers = Arrays.copyOf(numbers, n * 2);
          }
          numbers[n++] = number();
        }
        if (size >= 0 && n - before != size) {
          throw in.error("the entries of one array differ in length", GARBLED);
        }
        size = n - before;
        count++;
        if ((count & 0xFFF) == 0) {
          progress.step(0, 0);
        }
      }
      blank();
      if (in.peek() == ',') {
        in.skip(1);
        blank();
      } else if (in.peek() != ']') {
        throw in.error("',' or ']' is wanted", GARBLED);
      }
    }
    in.skip(1);
    depth--;
    return numeric ? new UsdArray(count, Arrays.copyOf(numbers, n)) : others;
  }

  private Map<String, Object> dictionary() {
    Map<String, Object> map = new LinkedHashMap<>();
    enter();
    expect('{');
    for (blank(); in.peek() != '}'; blank()) {
      if (in.peek() == ',' || in.peek() == ';') {
        in.skip(1);
        continue;
      }
      // "type name = value", "name = value" in variant selections, or a quoted name.
      String last = dictionaryWord();
      blank();
      while (in.peek() != '=') {
        last = dictionaryWord();
        blank();
      }
      in.skip(1);
      blank();
      map.put(last, value());
    }
    in.skip(1);
    depth--;
    return map;
  }

  private String dictionaryWord() {
    if (in.peek() == '"' || in.peek() == '\'') {
      return string();
    }
    String w = word("a name");
    if (in.peek() == '[') {
      in.skip(1);
      expect(']');
    }
    return w;
  }

  private UsdAsset asset() {
    if (in.startsWith("@@@")) {
      in.skip(3);
      return new UsdAsset(in.until("@@@", "an asset path"), tail());
    }
    in.skip(1);
    return new UsdAsset(in.until("@", "an asset path"), tail());
  }

  /** The prim path and offset that may follow an asset in a reference. */
  private String tail() {
    String prim = in.peek() == '<' ? (String) path() : "";
    inlineBlank();
    if (in.peek() == '(') {
      metadata(new LinkedHashMap<>());
    }
    return prim;
  }

  private Object path() {
    in.skip(1);
    String p = in.until(">", "a path");
    inlineBlank();
    return p;
  }

  private String string() {
    char quote = in.peek();
    if (quote != '"' && quote != '\'') {
      throw in.error("a name or text in quotes is wanted", GARBLED);
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
        throw in.error("a text is not closed on its line", GARBLED);
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

  private boolean isNumberStart() {
    char c = in.peek();
    return c >= '0' && c <= '9'
        || c == '.'
        || (c == '-' || c == '+')
        || (c == 'i' && in.startsWith("inf") && !isNameCharacter(in.peek(3)))
        || (c == 'n' && in.startsWith("nan") && !isNameCharacter(in.peek(3)));
  }

  private double number() {
    int start = in.position();
    while (isNumberCharacter(in.peek())) {
      in.skip(1);
    }
    String s = in.slice(start);
    try {
      return switch (s) {
        case "inf", "+inf" -> Double.POSITIVE_INFINITY;
        case "-inf" -> Double.NEGATIVE_INFINITY;
        case "nan", "-nan" -> Double.NaN;
        default -> Double.parseDouble(s);
      };
    } catch (NumberFormatException e) {
      in.moveTo(start);
      if (in.atEnd()) {
        throw in.error("the file ends in the middle", "It was cut off; ask for it again");
      }
      throw in.error("a number is wanted", GARBLED);
    }
  }

  private static boolean isNumberCharacter(char c) {
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

  private String word(String wanted) {
    int start = in.position();
    while (isNameCharacter(in.peek()) || in.peek() == ':') {
      in.skip(1);
    }
    String w = in.slice(start);
    if (w.isEmpty()) {
      if (in.atEnd()) {
        throw in.error("the file ends in the middle", "It was cut off; ask for it again");
      }
      throw in.error(wanted + " is wanted, not '" + in.peek() + "'", GARBLED);
    }
    return w;
  }

  private static boolean isNameCharacter(char c) {
    return c == '_' || Character.isLetterOrDigit(c);
  }

  private void skipStatement() {
    in.skipLine();
  }

  private void enter() {
    if (++depth > limits.deepest()) {
      throw in.error("blocks are nested deeper than " + limits.deepest(), GARBLED);
    }
  }

  private void expect(char c) {
    if (in.peek() != c) {
      if (in.atEnd()) {
        throw in.error("the file ends in the middle", "It was cut off; ask for it again");
      }
      throw in.error("'" + c + "' is wanted, not '" + in.peek() + "'", GARBLED);
    }
    in.skip(1);
  }

  /** White space, line ends and comments. */
  private void blank() {
    while (true) {
      char c = in.peek();
      if (c == ' ' || c == '\n' || c == '\r' || c == '\t') {
        in.skip(1);
      } else if (c == '#') {
        in.skipLine();
      } else {
        return;
      }
    }
  }

  private void inlineBlank() {
    while (in.peek() == ' ' || in.peek() == '\t') {
      in.skip(1);
    }
  }

  private static String shorten(String s) {
    return s.length() > 40 ? s.substring(0, 40) + "…" : s;
  }
}
