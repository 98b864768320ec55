package flarvo.cli;

import java.io.FilterWriter;
import java.io.IOException;
import java.io.Writer;

/**
 * Text for a terminal. Control characters, which names in files may hold to move the cursor or
 * change what is shown, come out as {@code \\u001b}; tabs and ends of lines stay. Marks that turn
 * the direction of writing round are controls too.
 */
final class PlainText extends FilterWriter {

  PlainText(Writer out) {
    super(out);
  }

  private static boolean isControl(char c) {
    return c < ' ' && c != '\n' && c != '\r' && c != '\t'
        || c >= 0x7f && c < 0xa0
        || c >= 0x202a && c <= 0x202e
        || c >= 0x2066 && c <= 0x2069;
  }

  /** The same text with controls spelled out. */
  static String of(String text) {
    if (text.chars().noneMatch(c -> isControl((char) c))) {
      return text;
    }
    StringBuilder s = new StringBuilder();
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (isControl(c)) {
        s.append(String.format(java.util.Locale.ROOT, "\\u%04x", (int) c));
      } else {
        s.append(c);
      }
    }
    return s.toString();
  }

  @Override
  public void write(int c) throws IOException {
    out.write(of(String.valueOf((char) c)));
  }

  @Override
  public void write(char[] b, int from, int length) throws IOException {
    out.write(of(new String(b, from, length)));
  }

  @Override
  public void write(String s, int from, int length) throws IOException {
    out.write(of(s.substring(from, from + length)));
  }
}
