package flarvo.format.table;

import java.util.List;

/**
 * How the text of a table is cut into cells. Blank lines and comments count for nothing.
 *
 * @param skip lines before the table, such as a title
 * @param header whether the first line after them names the columns
 * @param decimalComma whether numbers are written with a comma
 * @param cuts where each column but the first begins, for {@link Between#FIXED}; rising
 * @param shape what a row holds
 */
public record TableLayout(
    Between between,
    int skip,
    boolean header,
    boolean decimalComma,
    List<Integer> cuts,
    TableShape shape) {

  /** What stands between cells. */
  public enum Between {
    COMMA("comma", ','),
    SEMICOLON("semicolon", ';'),
    TAB("tab", '\t'),
    BLANKS("blanks", ' '),
    FIXED("fixed columns", ' ');

    private final String word;
    final char sign;

    Between(String word, char sign) {
      this.word = word;
      this.sign = sign;
    }

    public String word() {
      return word;
    }

    /**
     * The separator of a word.
     *
     * @throws IllegalArgumentException when there is none
     */
    public static Between of(String word) {
      for (Between b : values()) {
        if (b.word.equals(word)) {
          return b;
        }
      }
      throw new IllegalArgumentException("no table has '" + word + "' between its cells");
    }
  }

  public TableLayout {
    cuts = List.copyOf(cuts);
    for (int i = 0; i < cuts.size(); i++) {
      if (cuts.get(i) <= (i == 0 ? 0 : cuts.get(i - 1))) {
        throw new IllegalArgumentException("fixed columns begin ever further right, from 1 on");
      }
    }
    if (skip < 0) {
      throw new IllegalArgumentException("lines to skip cannot be " + skip);
    }
  }

  /** Rows, cut at a separator. */
  public static TableLayout of(Between between, int skip, boolean header, boolean decimalComma) {
    return new TableLayout(between, skip, header, decimalComma, List.of(), TableShape.ROWS);
  }

  public TableLayout withBetween(Between b) {
    return new TableLayout(b, skip, header, decimalComma, cuts, shape);
  }

  public TableLayout withSkip(int lines) {
    return new TableLayout(between, lines, header, decimalComma, cuts, shape);
  }

  public TableLayout withHeader(boolean h) {
    return new TableLayout(between, skip, h, decimalComma, cuts, shape);
  }

  public TableLayout withDecimalComma(boolean c) {
    return new TableLayout(between, skip, header, c, cuts, shape);
  }

  public TableLayout withShape(TableShape s) {
    return new TableLayout(between, skip, header, decimalComma, cuts, s);
  }

  public TableLayout withCuts(List<Integer> c) {
    return new TableLayout(between, skip, header, decimalComma, c, shape);
  }
}
