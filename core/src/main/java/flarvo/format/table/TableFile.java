package flarvo.format.table;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.StringReader;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A table with a header: cells by column name, comments by key, and the line for every error. */
final class TableFile {

  private final String file;
  private final Map<String, String> comments = new HashMap<>();
  private final Map<String, Integer> columns = new HashMap<>();
  private final List<CSVRecord> quoted = new ArrayList<>();
  private final int commentLines;

  // Without a quotation mark, cells are found in the text when they are asked for: millions of rows
  // are kept as where they begin. The library splits what has quotation marks.
  private final String plain; // null when there are some
  private char delimiter = ',';
  private int[] starts = new int[1024];
  private int rows;

  private TableFile(String file, String text) {
    this.file = file;
    int at = 0;
    int lines = 0;
    while (at < text.length() && (text.charAt(at) == '#' || text.charAt(at) == '\n')) {
      int end = text.indexOf('\n', at);
      end = end < 0 ? text.length() : end;
      String line = text.substring(at, end);
      int colon = line.indexOf(':');
      if (line.startsWith("#") && colon > 0) {
        comments.put(line.substring(1, colon).trim(), line.substring(colon + 1).trim());
      }
      at = Math.min(text.length(), end + 1);
      lines++;
    }
    commentLines = lines;
    delimiter = delimiterOf(firstRow(text, at));
    plain = text.indexOf('"') < 0 ? text : null;
    if (plain == null) {
      splitQuoted(text.substring(at));
    } else {
      splitPlain(at);
    }
    if (columns.isEmpty()) {
      throw new InputError(file, "", "the table has no header", "Name the columns in line 1");
    }
    checkRowCount(text.endsWith("\n"));
  }

  private static String firstRow(String text, int from) {
    return text.substring(from).lines().filter(l -> !l.isBlank()).findFirst().orElse("");
  }

  /** What stands between a header's cells: a tab, a semicolon or a comma. */
  static char delimiterOf(String header) {
    return header.indexOf('\t') >= 0 ? '\t' : header.indexOf(';') >= 0 ? ';' : ',';
  }

  private void splitPlain(int from) {
    for (int at = from; at < plain.length(); ) {
      int end = lineEnd(at);
      boolean blank = plain.substring(at, Math.min(end, at + 64)).isBlank() && isBlank(at, end);
      if (!blank && plain.charAt(at) != '#') {
        if (columns.isEmpty()) {
          header(
              List.of(
                  plain.substring(at, end).split(Pattern.quote(String.valueOf(delimiter)), -1)));
        } else {
          if (rows == starts.length) {
            starts = Arrays.copyOf(starts, 2 * rows);
          }
          starts[rows++] = at;
        }
      }
      at = end + 1;
    }
  }

  private boolean isBlank(int from, int to) {
    for (int i = from; i < to; i++) {
      if (plain.charAt(i) > ' ') {
        return false;
      }
    }
    return true;
  }

  private int lineEnd(int from) {
    int end = plain.indexOf('\n', from);
    return end < 0 ? plain.length() : end;
  }

  private void splitQuoted(String text) {
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setTrim(true)
            .setDelimiter(delimiter)
            .setCommentMarker('#')
            .setIgnoreEmptyLines(true)
            .get();
    try (CSVParser parser = CSVParser.parse(new StringReader(text), format)) {
      for (CSVRecord r : parser) {
        if (columns.isEmpty()) {
          header(r.toList());
        } else {
          quoted.add(r);
        }
      }
    } catch (IOException | java.io.UncheckedIOException | IllegalStateException e) {
      throw new InputError(
          file, "", "the table is corrupt (" + e.getMessage() + ")", "Save it as CSV again", e);
    }
    rows = quoted.size();
  }

  static TableFile read(Path path, ReadLimits limits) {
    return new TableFile(path.toString(), TextSource.read(path, limits));
  }

  private void header(List<String> cells) {
    for (int i = 0; i < cells.size(); i++) {
      String name = cells.get(i).strip().toLowerCase(Locale.ROOT);
      if (columns.put(name, i) != null) {
        throw new InputError(file, "header", "two columns are named '" + name + "'", "");
      }
    }
  }

  private void checkRowCount(boolean lineEnded) {
    String claimed = comments.get("rows");
    // A writer that counts its rows also ends its last one; a number cut short shows nowhere else.
    if (claimed != null && (!claimed.equals(Integer.toString(rows)) || !lineEnded)) {
      throw new InputError(
          file,
          "",
          "the table claims "
              + claimed
              + " rows and holds "
              + rows
              + (lineEnded ? "" : ", the last of them cut off"),
          "It was cut off; request a new copy");
    }
    if (rows == 0) {
      throw new InputError(file, "", "the table has no rows", "Request a new copy");
    }
  }

  boolean has(String... names) {
    for (String n : names) {
      if (!columns.containsKey(n)) {
        return false;
      }
    }
    return true;
  }

  int rows() {
    return rows;
  }

  /** The comments as a text of their own. */
  String comments() {
    StringBuilder out = new StringBuilder();
    comments.forEach((k, v) -> out.append("# ").append(k).append(": ").append(v).append('\n'));
    return out.toString();
  }

  Optional<String> comment(String key) {
    return Optional.ofNullable(comments.get(key));
  }

  /** Which cell of a row a column is; it must be there. */
  int column(String name) {
    return columns.get(name);
  }

  String text(int row, String column) {
    return text(row, column(column), column);
  }

  /**
   * @param name of the column, for errors
   */
  String text(int row, int column, String name) {
    if (plain == null) {
      CSVRecord r = quoted.get(row);
      if (column >= r.size()) {
        throw error(row, name, "the row has " + r.size() + " cells of " + columns.size());
      }
      return r.get(column);
    }
    int from = starts[row];
    int end = lineEnd(from);
    for (int i = 0; i < column; i++) {
      int comma = plain.indexOf(delimiter, from);
      if (comma < 0 || comma >= end) {
        throw error(row, name, "the row has " + (i + 1) + " cells of " + columns.size());
      }
      from = comma + 1;
    }
    int comma = plain.indexOf(delimiter, from);
    int to = comma < 0 || comma > end ? end : comma;
    while (from < to && plain.charAt(from) <= ' ') {
      from++;
    }
    while (to > from && plain.charAt(to - 1) <= ' ') {
      to--;
    }
    return plain.substring(from, to);
  }

  double number(int row, String column) {
    return number(row, column(column), column);
  }

  double number(int row, int index, String column) {
    String t = text(row, index, column);
    if (delimiter != ',') {
      t = t.replace(',', '.'); // tables without commas between cells write numbers with them
    }
    try {
      double d = Double.parseDouble(t);
      if (Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      throw error(row, column, "'" + t + "' is not a number");
    }
    throw error(row, column, "the value is " + t);
  }

  int whole(int row, String column) {
    double d = number(row, column);
    if (d != Math.rint(d) || Math.abs(d) > 1e8) {
      throw error(row, column, "'" + text(row, column) + "' is not an integer frame");
    }
    return (int) d;
  }

  InputError error(int row, String column, String cause) {
    long number =
        plain == null
            ? commentLines + quoted.get(row).getRecordNumber()
            : plain.substring(0, starts[row]).chars().filter(c -> c == '\n').count() + 1;
    String line = "line " + number;
    return new InputError(file, line + ", column " + column, cause, "Fix the table");
  }

  String file() {
    return file;
  }
}
