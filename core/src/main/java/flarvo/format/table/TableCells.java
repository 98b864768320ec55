package flarvo.format.table;

import flarvo.report.InputError;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;

/**
 * A table's text cut into rows and cells as a layout says. A cell does not reach over lines. Tables
 * with columns or a block for each tracker are handed out in rows too, the tracker's name first.
 */
public final class TableCells {

  private static final Pattern BLANKS = Pattern.compile("\\s+");

  /** A number with its unit behind it; the unit is said elsewhere, or is the usual one. */
  private static final Pattern UNIT = Pattern.compile("^([-+]?[\\d.,eE+-]*\\d) ?(?:°|deg|mm|px)$");

  /** Thousands set apart, and a fraction that shows which sign does it. */
  private static final Pattern GROUPED =
      Pattern.compile("[-+]?\\d{1,3}(?:[,' \u00a0\u202f]\\d{3})+\\.\\d*");

  private static final Pattern GROUPED_COMMA =
      Pattern.compile("[-+]?\\d{1,3}(?:[.' \u00a0\u202f]\\d{3})+,\\d*");

  private final String file;
  private final String text;
  private final TableLayout layout;
  private int[] starts = new int[256];
  private int[] lines = new int[256];
  private int rows;
  private List<String> header = List.of();
  private WideColumns wide; // null unless there are columns for each tracker
  private TableBlocks blocks; // null unless there is a block for each
  private int[] owners = new int[0]; // block of each row
  private int cutLine = -1; // the line whose cells are at hand
  private List<String> cutCells = List.of();

  public TableCells(String file, String text, TableLayout layout) {
    this.file = file;
    this.text = text;
    this.layout = layout;
    int skipped = 0;
    int line = 0;
    boolean isBlocks = layout.shape() == TableShape.BLOCKS;
    blocks = isBlocks ? new TableBlocks(file, layout.between()) : null;
    boolean named = !layout.header() || isBlocks;
    for (int at = 0; at < text.length(); ) {
      int end = text.indexOf('\n', at);
      end = end < 0 ? text.length() : end;
      line++;
      if (counts(text, at, end)) {
        if (skipped < layout.skip()) {
          skipped++;
        } else if (!named) {
          header = cells(text.substring(at, end), line);
          named = true;
        } else if (!isBlocks || isRow(text.substring(at, end), line)) {
          keep(at, line);
        }
      }
      at = end + 1;
    }
    if (isBlocks) {
      header = blocks.header();
    } else if (layout.shape() == TableShape.COLUMNS) {
      widen();
    }
  }

  private boolean isRow(String line, int number) {
    return blocks.row(line, cells(line, number), number);
  }

  private void widen() {
    List<String> first = header.isEmpty() && rows > 0 ? line(0) : header;
    wide = WideColumns.of(header).orElseGet(() -> WideColumns.numbered(first.size()));
    header = wide.header(header);
    long all = (long) rows * wide.names().size();
    if (all > Integer.MAX_VALUE) {
      throw new InputError(file, "", "the table has " + all + " rows", "Split it");
    }
  }

  /** Neither blank nor a comment. */
  static boolean counts(String text, int from, int to) {
    for (int i = from; i < to; i++) {
      if (text.charAt(i) > ' ') {
        return text.charAt(i) != '#';
      }
    }
    return false;
  }

  private void keep(int at, int line) {
    if (rows == starts.length) {
      starts = Arrays.copyOf(starts, 2 * rows);
      lines = Arrays.copyOf(lines, 2 * rows);
    }
    if (blocks != null) {
      owners = rows == owners.length ? Arrays.copyOf(owners, Math.max(64, 2 * rows)) : owners;
      owners[rows] = blocks.last();
    }
    starts[rows] = at;
    lines[rows++] = line;
  }

  /** How many rows {@link #row} hands out. */
  public int rows() {
    return wide == null ? rows : rows * wide.names().size();
  }

  /** The line of the text that a row is of, counted without headers and comments. */
  private int lineOf(int row) {
    return wide == null ? row : row / wide.names().size();
  }

  boolean decimalComma() {
    return layout.decimalComma();
  }

  /** One line, cut as a layout says. */
  static List<String> cut(String line, TableLayout layout) {
    return new TableCells("", "", layout).cells(line, 0);
  }

  /** The blocks of the table; null where it is not made of them. */
  TableBlocks blocks() {
    return blocks;
  }

  /** Names of the columns; empty where the layout has none. */
  public List<String> header() {
    return header;
  }

  /** Cells of a row, without blanks around them. */
  public List<String> row(int row) {
    if (wide != null) {
      int line = lineOf(row);
      if (line != cutLine) {
        cutCells = line(line);
        cutLine = line;
      }
      return wide.row(cutCells, row % wide.names().size());
    }
    if (blocks != null) {
      List<String> out = new ArrayList<>(List.of(blocks.name(owners[row])));
      out.addAll(line(row));
      return out;
    }
    return line(row);
  }

  private List<String> line(int line) {
    int end = text.indexOf('\n', starts[line]);
    return cells(text.substring(starts[line], end < 0 ? text.length() : end), lines[line]);
  }

  private List<String> cells(String line, int number) {
    List<String> out = new ArrayList<>();
    switch (layout.between()) {
      case BLANKS -> out.addAll(List.of(BLANKS.split(line.strip())));
      case FIXED -> {
        int from = 0;
        for (int i = 0; i <= layout.cuts().size(); i++) {
          int to = i < layout.cuts().size() ? layout.cuts().get(i) : line.length();
          from = Math.min(from, line.length());
          to = Math.max(from, Math.min(to, line.length()));
          out.add(line.substring(from, to).strip());
          from = to;
        }
      }
      case COMMA, SEMICOLON, TAB -> split(line, number, out);
    }
    return out;
  }

  private void split(String line, int number, List<String> out) {
    if (line.indexOf('"') >= 0) {
      quoted(line, number, out);
      return;
    }
    int from = 0;
    for (int i = line.indexOf(layout.between().sign); i >= 0; ) {
      out.add(line.substring(from, i).strip());
      from = i + 1;
      i = line.indexOf(layout.between().sign, from);
    }
    out.add(line.substring(from).strip());
  }

  private void quoted(String line, int number, List<String> out) {
    CSVFormat format =
        CSVFormat.RFC4180.builder().setTrim(true).setDelimiter(layout.between().sign).get();
    try (CSVParser parser = CSVParser.parse(line.strip(), format)) {
      parser.forEach(r -> r.forEach(out::add));
    } catch (IOException | java.io.UncheckedIOException | IllegalStateException e) {
      throw new InputError(
          file, "line " + number, "the quotation marks do not close", "Fix the table", e);
    }
  }

  /**
   * A number as the layout writes them.
   *
   * @return NaN where the cell holds none
   */
  static double number(String cell, boolean decimalComma) {
    String t = isPlain(cell) ? cell : plain(cell, decimalComma);
    // The library's own parser takes more than numbers, such as a final d or f.
    if (t.isEmpty() || t.length() > 60 || Character.isLetter(t.charAt(t.length() - 1))) {
      return Double.NaN;
    }
    try {
      return Double.parseDouble(t);
    } catch (NumberFormatException e) {
      return Double.NaN;
    }
  }

  private static boolean isPlain(String cell) {
    for (int i = 0; i < cell.length(); i++) {
      char c = cell.charAt(i);
      if (!(c >= '0' && c <= '9' || c == '.' || c == '-')) {
        return false;
      }
    }
    return true;
  }

  /** Without its unit and thousands, and with a point. */
  private static String plain(String cell, boolean decimalComma) {
    String t = UNIT.matcher(cell).replaceFirst("$1");
    if ((decimalComma ? GROUPED_COMMA : GROUPED).matcher(t).matches()) {
      t = t.replaceAll(decimalComma ? "[.' \u00a0\u202f]" : "[,' \u00a0\u202f]", "");
    }
    return decimalComma ? t.replace(',', '.') : t;
  }

  /** Whether no cell of a row is a number, as of units, totals and other words. */
  boolean isWords(int row) {
    return row(row).stream().allMatch(c -> Double.isNaN(number(c, layout.decimalComma())));
  }

  InputError error(int row, int column, String cause) {
    String name =
        column < header.size() && !header.get(column).isEmpty()
            ? header.get(column)
            : Integer.toString(column + 1);
    return new InputError(
        file,
        "line " + lines[lineOf(row)] + ", column " + name,
        cause,
        "Fix the table or its mapping");
  }

  String file() {
    return file;
  }
}
