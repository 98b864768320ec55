package flarvo.format.table;

/**
 * What a column of a table holds. The matrix is the rotation from the camera to the world, for
 * column vectors: its columns are the camera's axes.
 */
public enum ColumnRole {
  NONE("not used", ""),
  TRACKER("tracker", "tracker"),
  FRAME("frame", "frame"),
  SECONDS("time, s", "seconds"),
  TIMECODE("timecode", "timecode"),
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
  M00("matrix row 1, column 1", "m00"),
  M01("matrix row 1, column 2", "m01"),
  M02("matrix row 1, column 3", "m02"),
  M10("matrix row 2, column 1", "m10"),
  M11("matrix row 2, column 2", "m11"),
  M12("matrix row 2, column 3", "m12"),
  M20("matrix row 3, column 1", "m20"),
  M21("matrix row 3, column 2", "m21"),
  M22("matrix row 3, column 3", "m22"),
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

  /** Whether a row without this cell says nothing. */
  boolean isNeeded() {
    return this != NONE && this != TRACKER;
  }
}
