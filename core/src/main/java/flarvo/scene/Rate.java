package flarvo.scene;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.Locale;

/** Frames a second as an exact fraction, such as 24000/1001. Always positive. */
public record Rate(long num, long den) {

  /** No rate of this trade comes near it; it keeps products of rate and frame inside a long. */
  private static final long LARGEST = 1_000_000_000L;

  /** Digits of a rate as it is typed or stored; more are no rate. */
  private static final int MOST_DIGITS = 40;

  /** Relative error of a number that was stored in 32 bits. */
  private static final double FLOAT_ROUNDING = 1.0 / (1 << 24);

  public static final Rate FPS_24 = new Rate(24, 1);
  public static final Rate FPS_25 = new Rate(25, 1);
  public static final Rate FPS_30 = new Rate(30, 1);
  public static final Rate NTSC_24 = new Rate(24000, 1001);
  public static final Rate NTSC_30 = new Rate(30000, 1001);

  public Rate {
    if (num <= 0 || den <= 0 || num > LARGEST || den > LARGEST) {
      throw new IllegalArgumentException("a rate must be positive, not " + num + "/" + den);
    }
    Fraction reduced = new Fraction(num, den);
    num = reduced.num();
    den = reduced.den();
  }

  /**
   * Reads {@code 24000/1001}, {@code 24}, {@code 23.976}. A decimal that is an NTSC rate rounded to
   * the digits given means that rate: 23.976 and 23.98 are 24000/1001.
   *
   * @throws IllegalArgumentException when the text is no positive rate
   */
  public static Rate parse(String text) {
    String t = text.trim();
    try {
      int slash = t.indexOf('/');
      if (slash >= 0) {
        return new Rate(
            Long.parseLong(t.substring(0, slash).trim()),
            Long.parseLong(t.substring(slash + 1).trim()));
      }
      BigDecimal decimal = new BigDecimal(t);
      // An exponent of millions would be written out digit by digit before anything is compared.
      if (Math.abs(decimal.scale()) > MOST_DIGITS || decimal.precision() > MOST_DIGITS) {
        throw new IllegalArgumentException("'" + shortened(t) + "' is not a rate");
      }
      if (decimal.signum() <= 0 || decimal.compareTo(BigDecimal.valueOf(LARGEST)) > 0) {
        throw new IllegalArgumentException("a rate must be positive, not " + t);
      }
      return nearestStandard(decimal);
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "'" + t + "' is not a rate; write 24, 23.976 or 24000/1001", e);
    }
  }

  private static String shortened(String t) {
    return t.length() <= MOST_DIGITS ? t : t.substring(0, MOST_DIGITS) + "…";
  }

  /** The rate that a file's floating number stands for; see {@link #parse}. */
  public static Rate fromDouble(double framesPerSecond) {
    if (!(framesPerSecond > 0) || framesPerSecond > LARGEST) {
      throw new IllegalArgumentException("a rate must be positive, not " + framesPerSecond);
    }
    // A rate that went through a 32-bit float is still that rate.
    long whole = Math.round(framesPerSecond);
    if (whole > 0 && isFloatOf(framesPerSecond, whole)) {
      return new Rate(whole, 1);
    }
    long above = (long) Math.ceil(framesPerSecond);
    if (isFloatOf(framesPerSecond, above * 1000.0 / 1001)) {
      return new Rate(above * 1000, 1001);
    }
    return nearestStandard(new BigDecimal(Double.toString(framesPerSecond)));
  }

  private static boolean isFloatOf(double value, double exact) {
    return Math.abs(value / exact - 1) <= FLOAT_ROUNDING;
  }

  private static Rate nearestStandard(BigDecimal decimal) {
    BigDecimal plain = decimal.stripTrailingZeros();
    if (plain.scale() <= 0) {
      return new Rate(plain.longValueExact(), 1);
    }
    long above = decimal.setScale(0, RoundingMode.CEILING).longValueExact();
    int digits = Math.min(plain.scale(), 9);
    BigDecimal ntsc =
        BigDecimal.valueOf(above * 1000).divide(BigDecimal.valueOf(1001), 12, RoundingMode.HALF_UP);
    if (digits >= 2
        && ntsc.setScale(digits, RoundingMode.HALF_UP)
                .compareTo(plain.setScale(digits, RoundingMode.HALF_UP))
            == 0) {
      return new Rate(above * 1000, 1001);
    }
    BigDecimal six = plain.setScale(6, RoundingMode.HALF_UP);
    return new Rate(six.unscaledValue().longValueExact(), 1_000_000);
  }

  /** Exact seconds that {@code frames} frames last. */
  public Fraction seconds(long frames) {
    return Fraction.of(frames).times(den, num);
  }

  /** Exact position in frames after {@code seconds}. */
  public Fraction frames(Fraction seconds) {
    return seconds.times(num, den);
  }

  /** For display and for formats that store a floating rate; never for arithmetic on time. */
  public double toDouble() {
    return (double) num / den;
  }

  /** Whether it is an integer number of frames per second. */
  public boolean isWhole() {
    return den == 1;
  }

  /** {@code 24} or {@code 24000/1001}: exact, as files and the command line spell it. */
  @Override
  public String toString() {
    return den == 1 ? Long.toString(num) : num + "/" + den;
  }

  /** {@code 24} or {@code 23.976}: for eyes only. */
  public String display() {
    return den == 1 ? Long.toString(num) : String.format(Locale.ROOT, "%.3f", toDouble());
  }
}
