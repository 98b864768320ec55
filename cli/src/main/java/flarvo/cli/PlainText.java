package flarvo.cli;

import flarvo.report.Printable;
import java.io.FilterWriter;
import java.io.IOException;
import java.io.Writer;

/** Text for a terminal, in which controls are spelled out. */
final class PlainText extends FilterWriter {

  PlainText(Writer out) {
    super(out);
  }

  @Override
  public void write(int c) throws IOException {
    out.write(Printable.of(String.valueOf((char) c)));
  }

  @Override
  public void write(char[] b, int from, int length) throws IOException {
    out.write(Printable.of(new String(b, from, length)));
  }

  @Override
  public void write(String s, int from, int length) throws IOException {
    out.write(Printable.of(s.substring(from, from + length)));
  }
}
