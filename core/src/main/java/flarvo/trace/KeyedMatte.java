package flarvo.trace;

/** What of a shot's keyed plates is a mask. */
public enum KeyedMatte {
  NONE("none"),
  /** What their alpha covers. */
  ALPHA("alpha"),
  /** Where they are white, as a matte that came as pictures is. */
  WHITE("white");

  private final String word;

  KeyedMatte(String word) {
    this.word = word;
  }

  /** In files. */
  public String word() {
    return word;
  }

  /** Whether there is one. */
  public boolean isUsed() {
    return this != NONE;
  }
}
