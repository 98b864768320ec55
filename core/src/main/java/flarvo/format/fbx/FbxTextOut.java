package flarvo.format.fbx;

import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;

/** Indented records, the low level of a text file. */
final class FbxTextOut {

  private static final int NUMBERS_A_LINE = 64;

  private final Writer out;
  private int indent;

  FbxTextOut(OutputStream stream) {
    out = new BufferedWriter(new OutputStreamWriter(stream, StandardCharsets.UTF_8));
  }

  void comment(String text) throws IOException {
    out.write("; " + text + "\n");
  }

  /** A record with its values already spelled, and no block. */
  void record(String name, String values) throws IOException {
    tabs();
    out.write(name + ": " + values + "\n");
  }

  void open(String name, String values) throws IOException {
    tabs();
    out.write(name + ": " + values + " {\n");
    indent++;
  }

  void close() throws IOException {
    indent--;
    tabs();
    out.write("}\n");
    if (indent == 0) {
      out.write("\n");
    }
  }

  void property(String name, String type, String label, String flags, Object... values)
      throws IOException {
    StringBuilder s = new StringBuilder();
    s.append(quoted(name)).append(", ").append(quoted(type)).append(", ").append(quoted(label));
    s.append(", ").append(quoted(flags));
    for (Object v : values) {
      s.append(',').append(v instanceof String t ? quoted(t) : spell(v));
    }
    record("P", s.toString());
  }

  void array(String name, long[] values) throws IOException {
    beginArray(name, values.length);
    for (int i = 0; i < values.length; i++) {
      separate(i);
      out.write(Long.toString(values[i]));
    }
    endArray();
  }

  void floats(String name, double[] values) throws IOException {
    beginArray(name, values.length);
    for (int i = 0; i < values.length; i++) {
      separate(i);
      out.write(spell((float) values[i]));
    }
    endArray();
  }

  private void beginArray(String name, int count) throws IOException {
    open(name, "*" + count);
    tabs();
    out.write("a: ");
  }

  private void separate(int i) throws IOException {
    if (i > 0) {
      out.write(i % NUMBERS_A_LINE == 0 ? ",\n" : ",");
    }
  }

  private void endArray() throws IOException {
    out.write("\n");
    close();
  }

  static String quoted(String s) {
    return "\"" + s.replace("\"", "&quot;").replaceAll("\\p{Cntrl}", " ") + "\"";
  }

  /** The shortest text that reads back as the same number. */
  private static String spell(Object v) {
    if (v instanceof Double d) {
      return d == Math.rint(d) && Math.abs(d) < 1e15 ? Long.toString(d.longValue()) : d.toString();
    }
    if (v instanceof Float f) {
      return f == Math.rint(f) && Math.abs(f) < 1e7f ? Long.toString(f.longValue()) : f.toString();
    }
    return v.toString();
  }

  private void tabs() throws IOException {
    for (int i = 0; i < indent; i++) {
      out.write('\t');
    }
  }

  /** The stream itself belongs to the caller. */
  void flush() throws IOException {
    out.flush();
  }
}
