package flarvo.format.table;

/** What a column of a table holds. */
public enum ColumnRole {
  NONE("not used", ""),
  TRACKER("tracker", "tracker"),
  FRAME("frame", "frame"),
  PIXEL_X("2D x", "px"),
  PIXEL_Y("2D y", "py"),
  X("position x", "tx"),
  Y("position y", "ty"),
  Z("position z", "tz"),
  TURN_X("rotation x", "rx"),
  TURN_Y("rotation y", "ry"),
  TURN_Z("rotation z", "rz"),
  QUAT_W("quaternion w", "qw"),
  QUAT_X("quaternion x", "qx"),
  QUAT_Y("quaternion y", "qy"),
  QUAT_Z("quaternion z", "qz"),
  FOCAL("focal length", "focal"),
  FILM_WIDTH("film back width, mm", "film_width_mm"),
  FILM_HEIGHT("film back height, mm", "film_height_mm");

  private final String title;
  private final String word;

  ColumnRole(String title, String word) {
    this.title = title;
    this.word = word;
  }

  public String title() {
    return title;
  }

  /** As mappings on disk spell it; empty for a column that is not used. */
  public String word() {
    return word;
  }

  /**
   * The role of a word.
   *
   * @throws IllegalArgumentException when there is none
   */
  public static ColumnRole of(String word) {
    for (ColumnRole r : values()) {
      if (r.word.equals(word)) {
        return r;
      }
    }
    throw new IllegalArgumentException("no column holds '" + word + "'");
  }

  boolean isNumber() {
    return this != NONE && this != TRACKER;
  }
}
