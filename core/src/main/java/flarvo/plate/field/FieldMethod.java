package flarvo.plate.field;

/** What becomes of the two fields of a frame. */
public enum FieldMethod {
  /** Each becomes a frame of its own, at double rate. */
  SPLIT("split"),
  /** Both are averaged into one frame: what moves is blurred over both moments. */
  BLEND("blend");

  private final String word;

  FieldMethod(String word) {
    this.word = word;
  }

  /** As the command line spells it. */
  public String word() {
    return word;
  }

  /** Frames that one becomes. */
  public int frames() {
    return this == SPLIT ? 2 : 1;
  }
}
