package flarvo.format;

import com.fasterxml.jackson.core.io.NumberOutput;

/**
 * Numbers as text: the shortest that reads back as the same number, by Schubfach (Giulietti, "The
 * Schubfach way to render doubles", 2020), which takes half the time of the JDK's own.
 */
public final class NumberText {

  /** Whole numbers below it are written without a point and an exponent. */
  private static final double WHOLE = 1e15;

  private NumberText() {}

  /** With a point, as {@link Double#toString(double)} says. */
  public static String of(double v) {
    return NumberOutput.toString(v, true);
  }

  /** The same; whole numbers without a point. */
  public static String plain(double v) {
    return v == Math.rint(v) && Math.abs(v) < WHOLE ? Long.toString((long) v) : of(v);
  }
}
