package flarvo.convention;

import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Lengths as people type them. */
public final class Lengths {

  private static final String NUMBER = "[+-]?(?:\\d+\\.?\\d*|\\.\\d+)";
  private static final Pattern ONE = Pattern.compile("(" + NUMBER + ")\\s*([a-z]*)");
  private static final Pattern FEET =
      Pattern.compile("(-?\\d+)\\s*'\\s*(?:(\\d+\\.?\\d*)\\s*(?:\"|'')?)?");
  private static final double FOOT = LinearUnit.FOOT.metresPerUnit();
  private static final double INCH = LinearUnit.INCH.metresPerUnit();

  private Lengths() {}

  /**
   * Reads {@code 0.6}, {@code 12 mm}, {@code 60cm}, {@code 1'6"} or {@code 18"}; a bare number is
   * metres.
   *
   * @throws IllegalArgumentException with a sentence for the user
   */
  public static double metres(String text) {
    String t = text.trim().toLowerCase(Locale.ROOT);
    Matcher feet = FEET.matcher(t);
    if (feet.matches()) {
      double whole = Double.parseDouble(feet.group(1));
      double inches = feet.group(2) == null ? 0 : Double.parseDouble(feet.group(2));
      return whole * FOOT + (t.startsWith("-") ? -inches : inches) * INCH;
    }
    if (t.endsWith("\"")) {
      t = t.substring(0, t.length() - 1) + "inch";
    }
    Matcher one = ONE.matcher(t);
    if (!one.matches()) {
      throw new IllegalArgumentException(
          "'" + text + "' is not a length; write 0.6, 12 mm, 60 cm or 1'6\"");
    }
    String unit =
        switch (one.group(2)) {
          case "", "m" -> "m";
          case "in" -> "inch";
          case "ft", "feet" -> "foot";
          default -> one.group(2);
        };
    if (unit.matches("[0-9.]+")) {
      throw new IllegalArgumentException("'" + text + "' is not a length");
    }
    return Double.parseDouble(one.group(1)) * LinearUnit.parse(unit).metresPerUnit();
  }
}
