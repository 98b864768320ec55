package flarvo.format.table;

import flarvo.format.table.TableLayout.Between;
import flarvo.report.InputError;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * The blocks of a table that has one for each tracker: a line with its name, perhaps a line with
 * the number of rows and one that names their columns, then the rows.
 */
final class TableBlocks {

  /** What may stand before a name. */
  private static final Pattern KEY =
      Pattern.compile(
          "(?i)^(?:track(?:er)?|point|feature|marker|locator|name)(?:\\s*[:=]\\s*|\\s+(?=\\S*\\p{L}))(.+)$");

  private final String file;
  private final Between between;
  private final List<String> names = new ArrayList<>();
  private final List<Integer> claims = new ArrayList<>(); // rows a block claims; -1 for none
  private final List<Integer> lines = new ArrayList<>();
  private int[] sizes = new int[16];
  private List<String> header = List.of();

  TableBlocks(String file, Between between) {
    this.file = file;
    this.between = between;
  }

  /**
   * Looks at a line that is no comment.
   *
   * @param cells the line, cut
   * @return whether it is a row of the block that was begun last
   */
  boolean row(String line, List<String> cells, int number) {
    if (isTitle(line)) {
      if (isHeader(cells)) {
        header = cells;
      } else {
        names.add(name(line));
        claims.add(-1);
        lines.add(number);
        sizes = names.size() > sizes.length ? Arrays.copyOf(sizes, 2 * sizes.length) : sizes;
      }
      return false;
    }
    int last = names.size() - 1;
    if (cells.stream().filter(c -> !c.isEmpty()).count() == 1) {
      double n = TableCells.number(cells.get(0), false);
      if (last >= 0 && sizes[last] == 0 && n == Math.rint(n) && n >= 0 && n < 1e9) {
        claims.set(last, (int) n);
        return false;
      }
    }
    if (last < 0) {
      throw new InputError(
          file, "line " + number, "a row stands before the first name of a tracker", "");
    }
    sizes[last]++;
    return true;
  }

  /**
   * Whether a text is made of blocks: two lines or more that begin with a word, each with rows of
   * numbers below it, and nothing but numbers in the rows.
   */
  static boolean in(String text, Between between) {
    TableLayout layout = TableLayout.of(between, 0, false, true);
    int followed = 0;
    boolean title = false;
    boolean rows = false;
    boolean inside = false; // a title stands between rows
    for (int at = 0; at < text.length(); ) {
      int end = text.indexOf('\n', at);
      end = end < 0 ? text.length() : end;
      int first = at;
      while (first < end && text.charAt(first) <= ' ') {
        first++;
      }
      if (first < end && text.charAt(first) != '#') {
        if (isWord(text.charAt(first))) {
          String line = text.substring(at, end);
          List<String> cells = TableCells.cut(line, layout);
          int numbers = 0;
          for (String c : cells) {
            numbers += Double.isNaN(TableCells.number(c, true)) ? 0 : 1;
          }
          if (numbers > 1) {
            return false; // a row that begins with a name
          }
          title |= !isHeader(cells);
        } else {
          followed += title ? 1 : 0;
          inside |= title && rows;
          title = false;
          rows = true;
        }
      }
      at = end + 1;
    }
    return followed >= 2 && inside;
  }

  /** Whether a line begins with a word and so names a block or its columns. */
  static boolean isTitle(String line) {
    String t = line.strip();
    return !t.isEmpty() && isWord(t.charAt(0));
  }

  private static boolean isWord(char c) {
    return Character.isLetter(c) || c == '"' || c == '\'' || c == '[' || c == '_';
  }

  /** Whether a line names the columns of rows. */
  static boolean isHeader(List<String> cells) {
    return cells.size() >= 3
        && cells.stream().filter(c -> ColumnWords.role(c) != ColumnRole.NONE).count() >= 2;
  }

  private String name(String line) {
    String t = line.strip();
    while (!t.isEmpty() && (t.charAt(t.length() - 1) == ':' || isSeparator(t))) {
      t = t.substring(0, t.length() - 1).strip();
    }
    Matcher key = KEY.matcher(t);
    t = key.matches() ? key.group(1) : t;
    boolean wrapped =
        t.length() > 2
            && ("\"'[".indexOf(t.charAt(0)) >= 0)
            && ("\"']".indexOf(t.charAt(t.length() - 1)) >= 0);
    return wrapped ? t.substring(1, t.length() - 1).strip() : t;
  }

  private boolean isSeparator(String t) {
    return between != Between.BLANKS
        && between != Between.FIXED
        && t.charAt(t.length() - 1) == between.sign;
  }

  /** Which block the newest row belongs to. */
  int last() {
    return names.size() - 1;
  }

  String name(int block) {
    return names.get(block);
  }

  /** Names of the cells of a row, the tracker first. */
  List<String> header() {
    if (header.isEmpty()) {
      return header;
    }
    List<String> out = new ArrayList<>(List.of("tracker"));
    out.addAll(header);
    return out;
  }

  /** Lines of words that no row follows. */
  List<String> empty() {
    List<String> out = new ArrayList<>();
    for (int i = 0; i < names.size(); i++) {
      if (sizes[i] == 0 && claims.get(i) < 0) {
        out.add(names.get(i));
      }
    }
    return out;
  }

  /**
   * @throws InputError when a block has not the rows that it claims
   */
  void check() {
    for (int i = 0; i < names.size(); i++) {
      if (claims.get(i) >= 0 && claims.get(i) != sizes[i]) {
        throw new InputError(
            file,
            "line " + lines.get(i),
            "'" + names.get(i) + "' claims " + claims.get(i) + " rows and has " + sizes[i],
            "It was cut off, or is no table of blocks; request a new copy");
      }
    }
  }
}
