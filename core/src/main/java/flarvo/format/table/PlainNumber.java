package flarvo.format.table;

/**
 * Reads numbers of digits, a sign and a point straight from bytes, up to the end of their cell.
 * What has an exponent, blanks, or more digits than a double is sure to keep is left to others.
 * Exact: a whole number below 2⁵³ divided by a power of ten up to 10²² is rounded once (W. Clinger,
 * How to Read Floating Point Numbers Accurately, 1990).
 */
final class PlainNumber {

  private static final double[] TENS = new double[23];

  static {
    TENS[0] = 1;
    for (int i = 1; i < TENS.length; i++) {
      TENS[i] = 10 * TENS[i - 1]; // exact as far as 10²²
    }
  }

  private static final long LARGEST = 1L << 53;

  private double value;
  private int end;

  /**
   * @param from where the cell begins
   * @param delimiter what ends a cell, beside the end of the line
   * @return whether there was such a number, and nothing else, in the cell
   */
  boolean read(byte[] text, int from, byte delimiter) {
    int at = from;
    boolean negative = at < text.length && text[at] == '-';
    at += negative ? 1 : 0;
    int begin = at;
    long digits = 0;
    int point = -1;
    byte b = 0;
    for (; at < text.length; at++) {
      b = text[at];
      int d = b - '0';
      if (d >= 0 && d <= 9) {
        digits = 10 * digits + d;
      } else if (b == '.' && point < 0) {
        point = at;
      } else {
        break;
      }
    }
    int count = at - begin - (point < 0 ? 0 : 1);
    boolean ended = at == text.length || b == delimiter || b == '\n' || b == '\r';
    if (!ended || count == 0 || count > 18 || digits > LARGEST) {
      return false;
    }
    double v = point < 0 ? digits : digits / TENS[at - point - 1];
    value = negative ? -v : v;
    end = at;
    return true;
  }

  double value() {
    return value;
  }

  /** Where the cell ends. */
  int end() {
    return end;
  }
}
