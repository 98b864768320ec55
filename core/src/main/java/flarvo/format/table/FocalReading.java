package flarvo.format.table;

/** What a column of focal lengths holds. */
public enum FocalReading {
  MILLIMETRES("mm"),
  HORIZONTAL_ANGLE("angle across"),
  VERTICAL_ANGLE("angle upright"),
  PIXELS("pixels");

  private final String word;

  FocalReading(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }
}
