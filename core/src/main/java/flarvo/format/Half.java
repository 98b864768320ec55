package flarvo.format;

/** 16-bit floats. */
public final class Half {

  private Half() {}

  /** Value of 16 bits as IEEE 754 has them. */
  public static double toDouble(int bits) {
    int exponent = bits >> 10 & 31;
    int fraction = bits & 0x3FF;
    double v =
        exponent == 0
            ? fraction * 0x1p-24
            : exponent == 31
                ? (fraction == 0 ? Double.POSITIVE_INFINITY : Double.NaN)
                : (1 + fraction * 0x1p-10) * Math.pow(2, exponent - 15.0);
    return (bits & 0x8000) != 0 ? -v : v;
  }
}
