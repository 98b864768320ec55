package flarvo.format.table;

import flarvo.format.NumberText;
import java.io.IOException;
import java.io.Writer;
import org.apache.commons.csv.CSVFormat;

/** Writes a table row by row; names are quoted where they must be. */
final class TableRows {

  private final Writer out;
  private final StringBuilder row = new StringBuilder(256);

  TableRows(Writer out) {
    this.out = out;
  }

  TableRows cell(String text) {
    next().append(isPlain(text) ? text : CSVFormat.RFC4180.format(text));
    return this;
  }

  TableRows cell(int v) {
    next().append(v);
    return this;
  }

  TableRows cell(double v) {
    next().append(NumberText.of(v));
    return this;
  }

  void end() throws IOException {
    row.append('\n');
    out.append(row);
    row.setLength(0);
  }

  private StringBuilder next() {
    return row.length() == 0 ? row : row.append(',');
  }

  private static boolean isPlain(String text) {
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (!(c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || c >= '0' && c <= '9' || c == '_')) {
        return false;
      }
    }
    return !text.isEmpty() && text.charAt(0) != '_';
  }
}
