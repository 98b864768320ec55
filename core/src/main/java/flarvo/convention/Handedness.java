package flarvo.convention;

/** Which hand's thumb, index and middle finger are x, y and z. */
public enum Handedness {
  RIGHT("right"),
  LEFT("left");

  private final String word;

  Handedness(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  int determinant() {
    return this == RIGHT ? 1 : -1;
  }
}
