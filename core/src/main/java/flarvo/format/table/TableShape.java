package flarvo.format.table;

/** How a table is laid out: what one row of its text holds. */
public enum TableShape {
  /** One row a frame, or a frame and tracker, or a tracker. */
  ROWS("rows", "one row each"),
  /** One row a frame, with columns for each tracker. */
  COLUMNS("columns", "tracker columns"),
  /** A line with the name of a tracker, then its rows. */
  BLOCKS("blocks", "tracker blocks");

  private final String word;
  private final String title;

  TableShape(String word, String title) {
    this.word = word;
    this.title = title;
  }

  /** As mappings on disk and the command line spell it. */
  public String word() {
    return word;
  }

  public String title() {
    return title;
  }

  /**
   * The shape of a word.
   *
   * @throws IllegalArgumentException when there is none
   */
  public static TableShape of(String word) {
    for (TableShape s : values()) {
      if (s.word.equals(word)) {
        return s;
      }
    }
    throw new IllegalArgumentException(
        "no table is made of '" + word + "'; there are rows, columns and blocks");
  }
}
