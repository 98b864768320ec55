package flarvo.format.table;

import flarvo.format.table.TableLayout.Between;
import flarvo.report.InputError;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.regex.Pattern;

/** Finds out how the text of a table is cut: separators, header, decimal comma, shape. */
final class LayoutGuess {

  /** Lines looked at. */
  private static final int SAMPLE = 60;

  /** Share of lines that must be cut alike for text to be a table. */
  private static final double ALIKE = 0.7;

  private static final Pattern DECIMAL_COMMA = Pattern.compile("[-+]?\\d+,\\d+");

  private static final Pattern COMMA_IN_LINE = Pattern.compile("(?<![\\d.])\\d+,\\d+(?![\\d.])");

  static final Pattern COUNT = Pattern.compile("[-+]?\\d{1,9}");

  private static final Set<ColumnRole> FRAMES =
      EnumSet.of(ColumnRole.FRAME, ColumnRole.SECONDS, ColumnRole.TIMECODE);

  /** Lines in which blocks name their columns, if they do. */
  private static final int MOST_TITLES = 1000;

  private LayoutGuess() {}

  /** Whether text is cut into rows alike that hold numbers. */
  static boolean isTable(String text) {
    List<String> lines = sample(text);
    return cut(lines).filter(c -> c.columns >= 2 && c.lines >= 2 && c.numbers > 0.3).isPresent()
        || blocks(text, lines).isPresent();
  }

  /** How the rows of a table with a block for each tracker are cut; empty for any other. */
  private static Optional<Cut> blocks(String text, List<String> lines) {
    List<String> rows =
        lines.stream()
            .filter(l -> !TableBlocks.isTitle(l) && !COUNT.matcher(l.strip()).matches())
            .toList();
    return rows.size() == lines.size()
        ? Optional.empty()
        : cut(rows).filter(c -> c.numbers > 0.99 && TableBlocks.in(text, c.between));
  }

  private record Cut(Between between, int columns, int lines, double alike, double numbers) {}

  static List<String> sample(String text) {
    List<String> out = new ArrayList<>();
    for (int at = 0; at < text.length() && out.size() < SAMPLE; ) {
      int end = text.indexOf('\n', at);
      end = end < 0 ? text.length() : end;
      if (TableCells.counts(text, at, end)) {
        out.add(text.substring(at, end));
      }
      at = end + 1;
    }
    return out;
  }

  private static Optional<Cut> cut(List<String> lines) {
    Cut best = null;
    for (Between b : List.of(Between.TAB, Between.SEMICOLON, Between.COMMA, Between.BLANKS)) {
      Cut c = cut(lines, b);
      if (c.columns > 1
          && c.alike >= ALIKE
          && (best == null || c.alike * c.numbers > best.alike * best.numbers + 1e-9)) {
        best = c;
      }
    }
    return Optional.ofNullable(best);
  }

  private static Cut cut(List<String> lines, Between between) {
    try {
      return measure(
          lines,
          between,
          new TableCells("", String.join("\n", lines), TableLayout.of(between, 0, false, false)));
    } catch (InputError e) {
      return new Cut(between, 0, 0, 0, 0); // quotation marks that are none when cut like this
    }
  }

  private static Cut measure(List<String> lines, Between between, TableCells cells) {
    Map<Integer, Integer> counts = new TreeMap<>();
    for (int i = 0; i < cells.rows(); i++) {
      counts.merge(cells.row(i).size(), 1, Integer::sum);
    }
    int columns = 0;
    int most = 0;
    for (Map.Entry<Integer, Integer> e : counts.entrySet()) {
      if (e.getValue() >= most) {
        most = e.getValue();
        columns = e.getKey();
      }
    }
    int numbers = 0;
    int all = 0;
    for (int i = 0; i < cells.rows(); i++) {
      List<String> row = cells.row(i);
      if (row.size() == columns) {
        for (String cell : row) {
          all++;
          numbers += isNumber(cell) ? 1 : 0;
        }
      }
    }
    return new Cut(
        between,
        columns,
        most,
        lines.isEmpty() ? 0 : most / (double) lines.size(),
        all == 0 ? 0 : numbers / (double) all);
  }

  static boolean isNumber(String cell) {
    return !Double.isNaN(TableCells.number(cell, false)) || DECIMAL_COMMA.matcher(cell).matches();
  }

  /** Fixed columns begin where a blank column of the text ends. */
  static List<Integer> cuts(String text) {
    List<String> lines = sample(text);
    int width = lines.stream().mapToInt(String::length).max().orElse(0);
    List<Integer> out = new ArrayList<>();
    boolean blank = false;
    boolean seen = false;
    for (int i = 0; i < width; i++) {
      int at = i;
      boolean empty =
          lines.stream().allMatch(l -> at >= l.length() || Character.isWhitespace(l.charAt(at)));
      if (blank && !empty && seen) {
        out.add(i);
      }
      seen |= !empty;
      blank = empty;
    }
    return out;
  }

  /** How a text is cut most likely, and what its rows hold. */
  static TableLayout of(String text) {
    List<String> lines = sample(text);
    Optional<Cut> blocks = blocks(text, lines);
    Optional<Cut> cut = blocks.or(() -> cut(lines));
    Between between;
    int skip = 0;
    List<Integer> cuts = List.of();
    if (cut.isPresent()) {
      between = cut.get().between;
      int columns = cut.get().columns;
      TableCells all =
          new TableCells("", String.join("\n", lines), TableLayout.of(between, 0, false, false));
      while (skip < all.rows() - 1 && all.row(skip).size() != columns) {
        skip++;
      }
    } else {
      between = Between.FIXED;
      cuts = cuts(text);
    }
    TableLayout layout = new TableLayout(between, skip, false, false, cuts, TableShape.ROWS);
    TableCells cells = new TableCells("", String.join("\n", lines), layout);
    boolean header = hasHeader(cells);
    boolean comma =
        between != Between.COMMA && lines.stream().anyMatch(l -> COMMA_IN_LINE.matcher(l).find());
    layout = layout.withHeader(header).withDecimalComma(comma);
    return blocks.isPresent() ? blocks(text, layout) : wide(layout, cells);
  }

  private static TableLayout blocks(String text, TableLayout rows) {
    boolean named =
        text.lines()
            .limit(MOST_TITLES)
            .anyMatch(l -> TableBlocks.isHeader(TableCells.cut(l, rows)));
    return rows.withSkip(0).withShape(TableShape.BLOCKS).withHeader(named);
  }

  private static TableLayout wide(TableLayout rows, TableCells cells) {
    boolean wide =
        rows.header()
            && cells.rows() > 0
            && WideColumns.of(cells.row(0)).filter(w -> isFramed(w, cells.row(0))).isPresent();
    return wide ? rows.withShape(TableShape.COLUMNS) : rows;
  }

  /** Whether the one column that trackers share says the frame. */
  private static boolean isFramed(WideColumns w, List<String> header) {
    return w.shared().size() == 1
        && FRAMES.contains(ColumnWords.role(header.get(w.shared().get(0))));
  }

  private static boolean hasHeader(TableCells cells) {
    if (cells.rows() < 2) {
      return false;
    }
    long first = cells.row(0).stream().filter(LayoutGuess::isNumber).count();
    long second = cells.row(1).stream().filter(LayoutGuess::isNumber).count();
    // A row of units may stand between the names and the numbers.
    long third = cells.rows() > 2 ? cells.row(2).stream().filter(LayoutGuess::isNumber).count() : 0;
    return first == 0 && (second > 0 || third > 0);
  }
}
