package flarvo.format.fbx;

import flarvo.format.NumberText;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;

/** Records to indented text. */
final class FbxTextWriter {

  private static final int NUMBERS_A_LINE = 64;
  private static final char DELETE = 0x7F;

  /** As deep as a reader of ours goes. */
  private static final String TABS = "\t".repeat(64);

  private final Writer out;
  private final Progress progress;
  private int indent;

  FbxTextWriter(OutputStream stream, Progress progress) {
    this.out = new BufferedWriter(new OutputStreamWriter(stream, StandardCharsets.UTF_8));
    this.progress = progress;
  }

  void write(FbxNode root) throws IOException {
    out.write("; FBX 7.5.0 project file\n");
    out.write("; ----------------------------------------------------\n");
    for (FbxNode n : root.children) {
      record(n);
      out.write('\n');
    }
    out.flush();
  }

  private void record(FbxNode n) throws IOException {
    progress.step(0, 0);
    tabs();
    out.write(n.name);
    out.write(": ");
    Object first = n.values.isEmpty() ? null : n.values.get(0);
    if (first instanceof long[]
        || first instanceof int[]
        || first instanceof float[]
        || first instanceof double[]) {
      array(first);
    } else {
      for (int i = 0; i < n.values.size(); i++) {
        out.write(i > 0 ? ", " : "");
        out.write(spell(n.values.get(i)));
      }
    }
    if (n.block) {
      out.write(" {\n");
      indent++;
      for (FbxNode c : n.children) {
        record(c);
      }
      indent--;
      tabs();
      out.write("}");
    }
    out.write("\n");
  }

  private void array(Object values) throws IOException {
    int n = java.lang.reflect.Array.getLength(values);
    out.write("*" + n + " {\n");
    indent++;
    tabs();
    out.write("a: ");
    for (int i = 0; i < n; i++) {
      if (i > 0) {
        out.write(i % NUMBERS_A_LINE == 0 ? ",\n" : ",");
      }
      out.write(
          values instanceof long[] l
              ? Long.toString(l[i])
              : values instanceof int[] k
                  ? Integer.toString(k[i])
                  : values instanceof double[] d ? spell(d[i]) : spell(((float[]) values)[i]));
    }
    out.write("\n");
    indent--;
    tabs();
    out.write("}");
  }

  /** The shortest text that reads back as the same number. */
  private static String spell(Object v) {
    if (v instanceof String s) {
      return quoted(s);
    }
    if (v instanceof FbxName n) {
      return quoted(n.text());
    }
    if (v instanceof Boolean b) {
      return b ? "Y" : "N";
    }
    if (v instanceof Double d) {
      return NumberText.plain(d);
    }
    if (v instanceof Float f) {
      return f == Math.rint(f) && Math.abs(f) < 1e7f ? Long.toString(f.longValue()) : f.toString();
    }
    return v.toString();
  }

  /** Nearly all are words that stay as they are; the rest cannot leave the line or its marks. */
  private static String quoted(String s) {
    StringBuilder b = new StringBuilder(s.length() + 2).append('"');
    for (int i = 0; i < s.length(); i++) {
      char c = s.charAt(i);
      if (c == '"') {
        b.append("&quot;");
      } else {
        b.append(c < ' ' || c == DELETE ? ' ' : c);
      }
    }
    return b.append('"').toString();
  }

  private void tabs() throws IOException {
    out.write(TABS, 0, Math.min(indent, TABS.length()));
  }
}
