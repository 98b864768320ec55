package flarvo.lens;

/** From which picture to which a point is taken. */
public enum Direction {
  UNDISTORTED_TO_ORIGINAL("undistorted to original"),
  ORIGINAL_TO_UNDISTORTED("original to undistorted");

  private final String word;

  Direction(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }
}
