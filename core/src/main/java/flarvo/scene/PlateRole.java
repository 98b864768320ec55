package flarvo.scene;

/** What an image sequence is for. */
public enum PlateRole {
  ORIGINAL("original"),
  UNDISTORTED("undistorted"),
  KEYED("keyed"),
  PROXY("proxy");

  private final String word;

  PlateRole(String word) {
    this.word = word;
  }

  /** As files and the command line spell it. */
  public String word() {
    return word;
  }

  /** The role that a file states by its word; original where it states none that is known. */
  public static PlateRole stated(String word) {
    for (PlateRole r : values()) {
      if (r.word.equals(word)) {
        return r;
      }
    }
    return ORIGINAL;
  }

  /**
   * The role of a word.
   *
   * @throws IllegalArgumentException when there is none of that word
   */
  public static PlateRole of(String word) {
    for (PlateRole r : values()) {
      if (r.word.equals(word)) {
        return r;
      }
    }
    throw new IllegalArgumentException("no plate is '" + word + "'");
  }
}
