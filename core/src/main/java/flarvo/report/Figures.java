package flarvo.report;

import java.math.BigDecimal;
import java.math.MathContext;

/** Numbers as people write them. */
public final class Figures {

  private static final MathContext SIX = new MathContext(6);

  private Figures() {}

  /** Six significant digits at most, without zeros at the end: 100, 0.01, 2.54. */
  public static String of(double v) {
    BigDecimal b = new BigDecimal(v).round(SIX).stripTrailingZeros();
    return Math.abs(b.scale()) > 12 ? b.toString() : b.toPlainString();
  }
}
