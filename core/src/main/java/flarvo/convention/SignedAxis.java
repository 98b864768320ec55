package flarvo.convention;

/** One of the six directions along the axes of a space. */
public enum SignedAxis {
  POSITIVE_X(0, 1),
  NEGATIVE_X(0, -1),
  POSITIVE_Y(1, 1),
  NEGATIVE_Y(1, -1),
  POSITIVE_Z(2, 1),
  NEGATIVE_Z(2, -1);

  private final int index;
  private final int sign;

  SignedAxis(int index, int sign) {
    this.index = index;
    this.sign = sign;
  }

  /** 0 for x, 1 for y, 2 for z. */
  public int index() {
    return index;
  }

  public int sign() {
    return sign;
  }

  /** The opposite direction. */
  public SignedAxis negated() {
    return of(index, -sign);
  }

  /**
   * Parses {@code +X}, {@code -Z} and the like.
   *
   * @throws IllegalArgumentException for anything else
   */
  public static SignedAxis of(int index, int sign) {
    for (SignedAxis a : values()) {
      if (a.index == index && a.sign == sign) {
        return a;
      }
    }
    throw new IllegalArgumentException("no axis " + index + " with sign " + sign);
  }

  /** Reads {@code +X}, {@code -z} or {@code Y}. */
  public static SignedAxis parse(String text) {
    String t = text.trim().toUpperCase(java.util.Locale.ROOT);
    int sign = t.startsWith("-") ? -1 : 1;
    String letter = t.startsWith("-") || t.startsWith("+") ? t.substring(1) : t;
    int index = letter.length() == 1 ? "XYZ".indexOf(letter) : -1;
    if (index < 0) {
      throw new IllegalArgumentException("'" + text + "' is not an axis; write +X, -X, … -Z");
    }
    return of(index, sign);
  }

  /** {@code +X} … {@code -Z}, as files and the command line spell it. */
  @Override
  public String toString() {
    return (sign > 0 ? "+" : "-") + "XYZ".charAt(index);
  }
}
