package flarvo.format.usd;

import flarvo.format.ReadLimits;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

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

  private static final List<String> LIST_OPS =
      List.of("add", "append", "prepend", "delete", "reorder");

  /** Metadata whose opinions are edits of a list. */
  private static final Set<String> EDITED_LISTS =
      Set.of("references", "payload", "inherits", "specializes", "apiSchemas", "variantSets");

  private final UsdTextScanner in;
  private final Progress progress;

  UsdTextParser(String file, String text, ReadLimits limits, Progress progress) {
    this.in = new UsdTextScanner(file, text, limits);
    this.progress = progress;
  }

  UsdLayer parse() {
    if (!in.startsWith("#usda ")) {
      throw in.error("a text layer starts with '#usda 1.0'");
    }
    if (!in.startsWith("#usda 1.")) {
      throw in.error(
          "unsupported version; only version 1 text layers can be read", "Save it as version 1.0");
    }
    in.skipLine();
    UsdLayer layer = new UsdLayer();
    in.blank();
    if (in.peek() == '(') {
      metadata(layer.metadata);
    }
    for (in.blank(); !in.atEnd(); in.blank()) {
      String word = in.word("'def', 'over' or 'class'");
      if (word.equals("reorder")) {
        reorder();
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
              throw in.error("'" + shorten(specifierWord) + "' is no 'def', 'over' or 'class'");
        };
    progress.step(0, 0);
    in.blank();
    String type =
        in.peek() == '"' || in.peek() == '\'' ? "" : in.word("a type or a name in quotes");
    in.blank();
    UsdPrim prim = new UsdPrim(specifier, type, in.string(), parent);
    in.blank();
    if (in.peek() == '(') {
      metadata(prim.metadata);
      in.blank();
    }
    in.enter();
    in.expect('{');
    for (in.blank(); in.peek() != '}'; in.blank()) {
      statement(prim);
    }
    in.skip(1);
    in.leave();
    return prim;
  }

  private void statement(UsdPrim prim) {
    if (in.peek() == ';') {
      in.skip(1);
      return;
    }
    String word = in.word("a property or a prim");
    switch (word) {
      case "def", "over", "class" -> prim.children.add(prim(word, prim.path));
      case "variantSet" -> variantSet(prim);
      case "reorder" -> reorderOrProperty(prim);
      default -> property(prim, word);
    }
  }

  /** {@code reorder nameChildren = [...]} and {@code reorder rel …} begin alike. */
  private void reorderOrProperty(UsdPrim prim) {
    in.blank();
    if (in.startsWith("nameChildren") || in.startsWith("properties")) {
      reorder();
    } else {
      property(prim, in.word("a property"));
    }
  }

  private void variantSet(UsdPrim prim) {
    in.blank();
    String name = in.string();
    in.blank();
    in.expect('=');
    in.blank();
    in.enter();
    in.expect('{');
    Map<String, UsdPrim> variants = prim.variants(name);
    for (in.blank(); in.peek() != '}'; in.blank()) {
      String variant = in.string();
      UsdPrim body = new UsdPrim(UsdPrim.Specifier.OVER, "", variant, prim.path);
      in.blank();
      if (in.peek() == '(') {
        metadata(body.metadata);
        in.blank();
      }
      in.enter();
      in.expect('{');
      for (in.blank(); in.peek() != '}'; in.blank()) {
        statement(body);
      }
      in.skip(1);
      in.leave();
      variants.put(variant, body);
    }
    in.skip(1);
    in.leave();
  }

  private void property(UsdPrim prim, String firstWord) {
    String word = firstWord;
    while (word.equals("custom")
        || word.equals("uniform")
        || word.equals("varying")
        || word.equals("config")
        || LIST_OPS.contains(word)) {
      in.blank();
      word = in.word("a type");
    }
    String type = word;
    if (in.peek() == '[') {
      in.skip(1);
      in.expect(']');
      type += "[]";
    }
    in.blank();
    String name = in.dottedName();
    if (name.isEmpty()) {
      throw in.error("a property name expected");
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
    in.inlineBlank();
    if (in.peek() == '=') {
      in.skip(1);
      in.blank();
      if (suffix.equals(".spline")) {
        UsdSpline spline = UsdTextSpline.read(in, this::dictionary);
        prim.attributes.put(name, UsdAttribute.spline(name, type, spline));
        return;
      }
      if (samples) {
        TimeSamples t = timeSamples(prim.path + "." + name);
        times = t.times;
        values = t.values;
      } else {
        value = value();
        value = value == null ? UsdAttribute.BLOCK : value;
      }
    }
    in.inlineBlank();
    if (in.peek() == '(') {
      Map<String, Object> own = new LinkedHashMap<>();
      metadata(own);
      if (own.get("interpolation") instanceof String how) {
        prim.metadata.put(UsdPrim.INTERPOLATION + name, how);
      }
    }
    if (type.equals("rel") || suffix.equals(".connect")) {
      prim.metadata.put(
          type.equals("rel") ? UsdTextWriter.REL + name : UsdPrim.CONNECTION + name, value);
      return;
    }
    UsdAttribute old = prim.attributes.get(name);
    prim.attributes.put(
        name,
        new UsdAttribute(
            name,
            type,
            value == null && old != null ? old.stored() : value,
            times.length == 0 && old != null ? old.times() : times,
            times.length == 0 && old != null ? old.samples() : values));
  }

  private record TimeSamples(double[] times, List<Object> values) {}

  private TimeSamples timeSamples(String path) {
    in.enter();
    in.expect('{');
    double[] times = new double[16];
    List<Object> values = new ArrayList<>();
    boolean rising = true;
    for (in.blank(); in.peek() != '}'; in.blank()) {
      double time = in.number();
      if (!Double.isFinite(time)) {
        throw in.error("a time in " + path + " is not finite", "Request a new copy");
      }
      if (values.size() == times.length) {
        times = Arrays.copyOf(times, times.length * 2);
      }
      rising &= values.isEmpty() || time > times[values.size() - 1];
      times[values.size()] = time;
      in.blank();
      in.expect(':');
      in.blank();
      Object sample = value();
      values.add(sample == null ? UsdAttribute.BLOCK : sample);
      in.blank();
      if (in.peek() == ',') {
        in.skip(1);
      } else if (in.peek() != '}') {
        throw in.error("',' or '}' expected between samples");
      }
    }
    in.skip(1);
    in.leave();
    if (values.isEmpty()) {
      throw in.error(path + " has no samples", "The file holds zero frames; request a new copy");
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
        throw in.error(path + " has two samples at time " + t[i]);
      }
    }
    return new TimeSamples(t, v);
  }

  private void metadata(Map<String, Object> into) {
    in.enter();
    in.expect('(');
    for (in.blank(); in.peek() != ')'; in.blank()) {
      char c = in.peek();
      if (c == ',' || c == ';') {
        in.skip(1);
      } else if (c == '"' || c == '\'') {
        into.put("comment", in.string());
      } else {
        String key = in.word("a metadata name");
        String edit = "";
        if (LIST_OPS.contains(key)) {
          edit = key;
          in.blank();
          key = in.word("a metadata name");
        }
        in.blank();
        in.expect('=');
        in.blank();
        Object value = key.equals("relocates") ? UsdTextRelocates.read(in) : value();
        into.put(key, EDITED_LISTS.contains(key) ? listOp(into.get(key), edit, value) : value);
      }
    }
    in.skip(1);
    in.leave();
  }

  @SuppressWarnings("unchecked")
  private static UsdListOp listOp(Object before, String edit, Object value) {
    List<Object> items =
        value == null ? List.of() : value instanceof List ? (List<Object>) value : List.of(value);
    return (before instanceof UsdListOp op ? op : UsdListOp.NONE).with(edit, items);
  }

  private Object value() {
    char c = in.peek();
    return switch (c) {
      case '(' -> new UsdArray(1, tuple());
      case '[' -> array();
      case '{' -> dictionary();
      case '"', '\'' -> in.string();
      case '@' -> asset();
      case '<' -> pathValue();
      default -> in.isNumberStart() ? (Object) in.number() : wordValue();
    };
  }

  /** In a reference, a path alone means a prim of the same file, and may be retimed. */
  private Object pathValue() {
    String path = in.path();
    in.inlineBlank();
    return in.peek() == '(' ? retimed(new UsdAsset("", path)) : path;
  }

  private Object wordValue() {
    String w = in.word("a value");
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
    in.enter();
    in.expect('(');
    for (in.blank(); in.peek() != ')'; in.blank()) {
      if (in.peek() == '(') {
        double[] inner = tuple();
        out = Arrays.copyOf(out, Math.max(out.length, n + inner.length + 4));
        System.arraycopy(inner, 0, out, n, inner.length);
        n += inner.length;
      } else {
        if (n == out.length) {
          out = Arrays.copyOf(out, n * 2);
        }
        out[n++] = in.number();
      }
      in.blank();
      if (in.peek() == ',') {
        in.skip(1);
      } else if (in.peek() != ')') {
        throw in.error("',' or ')' expected");
      }
    }
    in.skip(1);
    in.leave();
    return Arrays.copyOf(out, n);
  }

  private Object array() {
    in.enter();
    in.expect('[');
    in.blank();
    boolean numeric = in.peek() == '(' || in.isNumberStart();
    double[] numbers = new double[16];
    int n = 0;
    int count = 0;
    int size = -1;
    List<Object> others = new ArrayList<>();
    for (; in.peek() != ']'; in.blank()) {
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
          numbers[n++] = in.number();
        }
        if (size >= 0 && n - before != size) {
          throw in.error("the entries of one array differ in length");
        }
        size = n - before;
        count++;
        if ((count & 0xFFF) == 0) {
          progress.step(0, 0);
        }
      }
      in.blank();
      if (in.peek() == ',') {
        in.skip(1);
        in.blank();
      } else if (in.peek() != ']') {
        throw in.error("',' or ']' expected");
      }
    }
    in.skip(1);
    in.leave();
    return numeric ? new UsdArray(count, Arrays.copyOf(numbers, n)) : others;
  }

  private Map<String, Object> dictionary() {
    Map<String, Object> map = new LinkedHashMap<>();
    in.enter();
    in.expect('{');
    for (in.blank(); in.peek() != '}'; in.blank()) {
      if (in.peek() == ',' || in.peek() == ';') {
        in.skip(1);
        continue;
      }
      // "type name = value", "name = value" in variant selections, or a quoted name.
      String last = dictionaryWord();
      in.blank();
      while (in.peek() != '=') {
        last = dictionaryWord();
        in.blank();
      }
      in.skip(1);
      in.blank();
      map.put(last, value());
    }
    in.skip(1);
    in.leave();
    return map;
  }

  private String dictionaryWord() {
    if (in.peek() == '"' || in.peek() == '\'') {
      return in.string();
    }
    String w = in.word("a name");
    if (in.peek() == '[') {
      in.skip(1);
      in.expect(']');
    }
    return w;
  }

  private UsdAsset asset() {
    String end = in.startsWith("@@@") ? "@@@" : "@";
    in.skip(end.length());
    String path = in.until(end, "an asset path");
    UsdAsset asset = new UsdAsset(path, in.peek() == '<' ? in.path() : "");
    in.inlineBlank();
    return in.peek() == '(' ? retimed(asset) : asset;
  }

  /** Offset and scale that may follow what a reference or a sublayer points to. */
  private UsdAsset retimed(UsdAsset asset) {
    Map<String, Object> said = new LinkedHashMap<>();
    metadata(said);
    return asset.withTime(
        said.get("offset") instanceof Double o ? o : 0,
        said.get("scale") instanceof Double k ? k : 1);
  }

  /** The order of names is a wish for how they are listed, and changes no value. */
  private void reorder() {
    in.blank();
    in.word("what is put in order");
    in.blank();
    in.expect('=');
    in.blank();
    value();
  }

  private static String shorten(String s) {
    return s.length() > 40 ? s.substring(0, 40) + "…" : s;
  }
}
