package flarvo.convention;

/** How a format writes angles. */
public enum AngleUnit {
  DEGREES("degrees"),
  RADIANS("radians");

  private final String word;

  AngleUnit(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  /** Radians in this unit. */
  public double fromRadians(double radians) {
    return this == DEGREES ? Math.toDegrees(radians) : radians;
  }

  /** A value of this unit in radians. */
  public double toRadians(double value) {
    return this == DEGREES ? Math.toRadians(value) : value;
  }
}
