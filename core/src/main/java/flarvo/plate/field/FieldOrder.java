package flarvo.plate.field;

/** Which of the two fields of a frame was taken first. */
public enum FieldOrder {
  /** The one with the topmost line. */
  UPPER("upper"),
  LOWER("lower");

  private final String word;

  FieldOrder(String word) {
    this.word = word;
  }

  /** As files and the command line spell it. */
  public String word() {
    return word;
  }
}
