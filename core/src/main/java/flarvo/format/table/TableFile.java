package flarvo.format.table;

import ch.randelshofer.fastdoubleparser.JavaDoubleParser;
import flarvo.format.ByteScan;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;

/** A table with a header: cells by column name, comments by key, and the line for every error. */
final class TableFile {

  /** Text that is worth a thread. */
  private static final int BYTES_A_PART = 4_000_000;

  private static final byte[] NOTHING = new byte[0];

  private final String file;
  private final Map<String, String> comments = new HashMap<>();
  private final Map<String, Integer> columns = new HashMap<>();
  private final List<CSVRecord> quoted = new ArrayList<>();
  private final int commentLines;

  // Without a quotation mark, cells are found in the text when they are asked for: millions of rows
  // are kept as where they begin. The library splits what has quotation marks.
  private final byte[] plain; // UTF-8; null when there are some
  private byte delimiter = ',';
  private int[] starts = new int[0];
  private int rows;

  private TableFile(String file, byte[] text) {
    this.file = file;
    int at = 0;
    int lines = 0;
    while (at < text.length && (text[at] == '#' || text[at] == '\n')) {
      int end = lineEnd(text, at);
      String line = string(text, at, end);
      int colon = line.indexOf(':');
      if (line.startsWith("#") && colon > 0) {
        comments.put(line.substring(1, colon).trim(), line.substring(colon + 1).trim());
      }
      at = Math.min(text.length, end + 1);
      lines++;
    }
    commentLines = lines;
    delimiter = (byte) delimiterOf(firstRow(text, at));
    plain = ByteScan.find(text, 0, text.length, '"') < text.length ? null : text;
    if (plain == null) {
      splitQuoted(string(text, at, text.length));
    } else {
      splitPlain(at);
    }
    if (columns.isEmpty()) {
      throw new InputError(file, "", "the table has no header", "Name the columns in line 1");
    }
    checkRowCount(text[text.length - 1] == '\n');
  }

  private static String string(byte[] text, int from, int to) {
    return new String(text, from, to - from, StandardCharsets.UTF_8);
  }

  private static String firstRow(byte[] text, int from) {
    for (int at = from; at < text.length; ) {
      int end = lineEnd(text, at);
      String line = string(text, at, end);
      if (!line.isBlank()) {
        return line;
      }
      at = end + 1;
    }
    return "";
  }

  /** What stands between a header's cells: a tab, a semicolon or a comma. */
  static char delimiterOf(String header) {
    return header.indexOf('\t') >= 0 ? '\t' : header.indexOf(';') >= 0 ? ';' : ',';
  }

  private void splitPlain(int from) {
    int at = from;
    while (at < plain.length && columns.isEmpty()) {
      int end = lineEnd(plain, at);
      if (isRow(at, end)) {
        String sign = Pattern.quote(String.valueOf((char) delimiter));
        header(List.of(string(plain, at, end).split(sign, -1)));
      }
      at = end + 1;
    }
    int body = Math.min(at, plain.length);
    int parts = 1 + (plain.length - body) / BYTES_A_PART;
    List<int[]> found =
        IntStream.range(0, parts).parallel().mapToObj(p -> lines(body, p, parts)).toList();
    rows = found.stream().mapToInt(f -> f.length).sum();
    starts = new int[rows];
    int filled = 0;
    for (int[] f : found) {
      System.arraycopy(f, 0, starts, filled, f.length);
      filled += f.length;
    }
  }

  /** Where the rows begin that begin in one of the parts of the text. */
  private int[] lines(int body, int part, int parts) {
    int size = plain.length - body;
    int from = body + (int) ((long) size * part / parts);
    int to = body + (int) ((long) size * (part + 1) / parts);
    int at = part == 0 ? from : lineEnd(plain, from - 1) + 1;
    int[] out = new int[16 + (to - from) / 32];
    int count = 0;
    while (at < to) {
      int end = lineEnd(plain, at);
      if (isRow(at, end)) {
        out = count == out.length ? Arrays.copyOf(out, 2 * count) : out;
        out[count++] = at;
      }
      at = end + 1;
    }
    return Arrays.copyOf(out, count);
  }

  /** Neither blank nor a comment. */
  private boolean isRow(int at, int end) {
    return !isBlank(at, end) && plain[at] != '#';
  }

  private boolean isBlank(int from, int to) {
    for (int i = from; i < to; i++) {
      if (plain[i] > ' ' || plain[i] < 0) {
        return false;
      }
    }
    return true;
  }

  private static int lineEnd(byte[] text, int from) {
    return ByteScan.find(text, from, text.length, '\n');
  }

  private void splitQuoted(String text) {
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setTrim(true)
            .setDelimiter((char) delimiter)
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
    } catch (IOException | UncheckedIOException | IllegalStateException e) {
      Throwable own = e instanceof UncheckedIOException ? e.getCause() : e;
      throw new InputError(
          file, "", "the table is corrupt (" + own.getMessage() + ")", "Save it as CSV again", e);
    }
    rows = quoted.size();
  }

  static TableFile read(Path path, ReadLimits limits) {
    return new TableFile(path.toString(), TextSource.bytes(path, limits));
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
    Cells cells = cells();
    cells.toRow(row);
    for (int i = 0; i < column; i++) {
      cells.skip(name);
    }
    return cells.text("", NOTHING);
  }

  /** Whether rows can be walked along without a text for each cell. */
  boolean isPlain() {
    return plain != null;
  }

  /** Walks along the cells of rows; for one thread. The table must be plain. */
  Cells cells() {
    return new Cells();
  }

  /** A place in a row. */
  final class Cells {
    private final PlainNumber number = new PlainNumber();
    private int row;
    private int cell;
    private int at;
    private boolean ended;

    void toRow(int index) {
      row = index;
      cell = 0;
      at = starts[index];
      ended = false;
    }

    /**
     * @param name of the column that is looked for, for errors
     */
    void skip(String name) {
      int end = at;
      while (end < plain.length && plain[end] != delimiter && plain[end] != '\n') {
        end++;
      }
      passed(end);
      if (ended) {
        throw tooShort(name);
      }
    }

    private InputError tooShort(String name) {
      return error(row, name, "the row has " + cell + " cells of " + columns.size());
    }

    private void passed(int end) {
      ended = end >= plain.length || plain[end] != delimiter;
      at = end + 1;
      cell++;
    }

    double number(String name) {
      if (ended) {
        throw tooShort(name);
      }
      if (number.read(plain, at, delimiter)) {
        passed(number.end());
        return number.value();
      }
      return checked(row, text("", NOTHING), name);
    }

    int whole(String name) {
      double d = number(name);
      return TableFile.this.whole(row, d, name);
    }

    /**
     * The text of the cell, without the blanks around it.
     *
     * @param before a text that is handed out again where it is the same
     */
    String text(String before, byte[] beforeBytes) {
      int end = at;
      while (end < plain.length && plain[end] != delimiter && plain[end] != '\n') {
        end++;
      }
      int from = at;
      int to = end;
      while (from < to && isSpace(plain[from])) {
        from++;
      }
      while (to > from && isSpace(plain[to - 1])) {
        to--;
      }
      passed(end);
      boolean same =
          to - from == beforeBytes.length
              && Arrays.equals(plain, from, to, beforeBytes, 0, beforeBytes.length);
      return same ? before : string(plain, from, to);
    }
  }

  private static boolean isSpace(byte b) {
    return b >= 0 && b <= ' ';
  }

  double number(int row, String column) {
    return number(row, column(column), column);
  }

  double number(int row, int index, String column) {
    return checked(row, text(row, index, column), column);
  }

  private double checked(int row, String text, String column) {
    // Tables without commas between cells write numbers with them.
    String t = delimiter == ',' ? text : text.replace(',', '.');
    try {
      double d = JavaDoubleParser.parseDouble(t);
      if (Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      throw error(row, column, "'" + t + "' is not a number");
    }
    throw error(row, column, "the value is " + t);
  }

  int whole(int row, String column) {
    return whole(row, number(row, column), column);
  }

  private int whole(int row, double d, String column) {
    if (d != Math.rint(d) || Math.abs(d) > 1e8) {
      throw error(row, column, "'" + text(row, column) + "' is not an integer frame");
    }
    return (int) d;
  }

  InputError error(int row, String column, String cause) {
    long number =
        plain == null ? commentLines + quoted.get(row).getRecordNumber() : lineOf(starts[row]);
    String line = "line " + number;
    return new InputError(file, line + ", column " + column, cause, "Fix the table");
  }

  private int lineOf(int at) {
    int line = 1;
    for (int i = 0; i < at; i++) {
      line += plain[i] == '\n' ? 1 : 0;
    }
    return line;
  }

  String file() {
    return file;
  }
}
