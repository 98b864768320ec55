package flarvo.sender;

/** How well a part of a sender's dialect is known. */
public enum Known {
  /** The file or its format says so. */
  STATED("stated"),
  /** Other readings do not fit the evidence. */
  MEASURED("measured"),
  /** It is usual, and nothing speaks against it. */
  LIKELY("likely"),
  /** The evidence fits other values as well. */
  OPEN("open");

  private final String word;

  Known(String word) {
    this.word = word;
  }

  /** As it is printed and written. */
  public String word() {
    return word;
  }
}
