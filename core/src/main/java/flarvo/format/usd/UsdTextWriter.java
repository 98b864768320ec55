package flarvo.format.usd;

import flarvo.format.NumberText;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** {@link UsdLayer} to text. */
final class UsdTextWriter {

  /** Properties that the schema holds constant over time. */
  static final Set<String> UNIFORM =
      Set.of("xformOpOrder", "purpose", "resolution", "pixelAspectRatio", "info:id");

  private final UsdLayer layer;
  private final Progress progress;
  private final Writer out;
  private int indent;

  UsdTextWriter(UsdLayer layer, OutputStream stream, Progress progress) {
    this.layer = layer;
    this.progress = progress;
    this.out = new BufferedWriter(new OutputStreamWriter(stream, StandardCharsets.UTF_8));
  }

  /** Before a name: metadata of a prim that are a relationship. */
  static final String REL = "rel:";

  void write() throws IOException {
    out.write("#usda 1.0\n(\n");
    indent = 1;
    for (Map.Entry<String, Object> e : layer.metadata.entrySet()) {
      metadata(e.getKey(), e.getValue());
    }
    indent = 0;
    out.write(")\n\n");
    for (UsdPrim p : layer.roots) {
      prim(p);
    }
    out.flush();
  }

  private void metadata(String key, Object value) throws IOException {
    if (value instanceof Map<?, ?> dictionary) {
      line(key + " = {");
      for (Map.Entry<?, ?> e : dictionary.entrySet()) {
        line("    string " + e.getKey() + " = " + quoted(String.valueOf(e.getValue())));
      }
      line("}");
    } else {
      line(
          key
              + " = "
              + (value instanceof Double d ? NumberText.plain(d) : quoted(String.valueOf(value))));
    }
  }

  private void prim(UsdPrim p) throws IOException {
    progress.step(0, 0);
    line("def " + p.type + " \"" + p.name + "\"");
    if (p.metadata.get(UsdPrim.API_SCHEMAS) instanceof List<?> schemas) {
      line("(");
      line("    prepend apiSchemas = " + spell("token[]", schemas));
      line(")");
    }
    line("{");
    indent++;
    for (UsdAttribute a : p.attributes.values()) {
      attribute(
          a,
          p.metadata.get(UsdPrim.INTERPOLATION + a.name()),
          p.metadata.get(UsdPrim.CONNECTION + a.name()));
    }
    for (Map.Entry<String, Object> e : p.metadata.entrySet()) {
      if (e.getKey().startsWith(REL)) {
        line("rel " + e.getKey().substring(REL.length()) + " = <" + e.getValue() + ">");
      }
    }
    for (UsdPrim child : p.children) {
      prim(child);
    }
    indent--;
    line("}");
  }

  private void attribute(UsdAttribute a, Object interpolation, Object source) throws IOException {
    String lead =
        (isCustom(a) ? "custom " : "")
            + (UNIFORM.contains(a.name()) ? "uniform " : "")
            + a.type()
            + " "
            + a.name();
    if (!a.hasValue()) {
      line(lead + (source == null ? "" : ".connect = <" + source + ">"));
      return;
    }
    if (!a.isAnimated()) {
      line(
          lead
              + " = "
              + spell(a.type(), a.value())
              + (interpolation == null ? "" : " (interpolation = \"" + interpolation + "\")"));
      return;
    }
    line(lead + ".timeSamples = {");
    for (int i = 0; i < a.times().length; i++) {
      line(
          "    "
              + NumberText.plain(a.times()[i])
              + ": "
              + spell(a.type(), a.samples().get(i))
              + ",");
    }
    line("}");
  }

  private static final Set<String> SINGLE =
      Set.of("float", "float2", "point3f", "normal3f", "texCoord2f", "color3f");

  static boolean isCustom(UsdAttribute a) {
    return a.name().startsWith("userProperties:");
  }

  private static String spell(String type, Object value) {
    if (value instanceof UsdAsset a) {
      String mark = a.path().contains("@") ? "@@@" : "@";
      return mark + a.path() + mark;
    }
    if (value instanceof Double d) {
      return number(type, d);
    }
    if (value instanceof UsdArray t && type.endsWith("[]")) {
      return array(type, t);
    }
    if (value instanceof UsdArray t) {
      StringBuilder s = new StringBuilder("(");
      for (int i = 0; i < t.numbers().length; i++) {
        s.append(i > 0 ? ", " : "").append(number(type, t.at(i)));
      }
      return s.append(')').toString();
    }
    if (value instanceof List<?> l) {
      StringBuilder s = new StringBuilder("[");
      for (Object o : l) {
        s.append(s.length() > 1 ? ", " : "").append(quoted(String.valueOf(o)));
      }
      return s.append(']').toString();
    }
    return quoted(String.valueOf(value));
  }

  private static String array(String type, UsdArray t) {
    int each = t.components();
    StringBuilder s = new StringBuilder("[");
    for (int i = 0; i < t.count(); i++) {
      s.append(i > 0 ? ", " : "").append(each > 1 ? "(" : "");
      for (int k = 0; k < each; k++) {
        s.append(k > 0 ? ", " : "").append(number(type, t.at(i * each + k)));
      }
      s.append(each > 1 ? ")" : "");
    }
    return s.append(']').toString();
  }

  private static String number(String type, double v) {
    return SINGLE.contains(type.replace("[]", "")) ? plainFloat((float) v) : NumberText.plain(v);
  }

  private void line(String s) throws IOException {
    for (int i = 0; i < indent; i++) {
      out.write("    ");
    }
    out.write(s);
    out.write('\n');
  }

  private static String plainFloat(float v) {
    return v == Math.rint(v) && Math.abs(v) < 1e7f ? Long.toString((long) v) : Float.toString(v);
  }

  private static String quoted(String s) {
    StringBuilder b = new StringBuilder("\"");
    for (int i = 0; i < s.length(); i++) {
      char c = s.charAt(i);
      if (c == '"' || c == '\\') {
        b.append('\\').append(c);
      } else {
        b.append(c < ' ' ? ' ' : c);
      }
    }
    return b.append('"').toString();
  }
}
