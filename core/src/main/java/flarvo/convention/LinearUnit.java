package flarvo.convention;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** A unit of length, as metres a unit. Any positive number is a unit; some have names. */
public record LinearUnit(double metresPerUnit) {

  public static final LinearUnit MILLIMETRE = new LinearUnit(0.001);
  public static final LinearUnit CENTIMETRE = new LinearUnit(0.01);
  public static final LinearUnit INCH = new LinearUnit(0.0254);
  public static final LinearUnit FOOT = new LinearUnit(0.3048);
  public static final LinearUnit METRE = new LinearUnit(1);

  private record Named(String name, LinearUnit unit) {}

  private static final List<Named> NAMED =
      List.of(
          new Named("mm", MILLIMETRE),
          new Named("cm", CENTIMETRE),
          new Named("inch", INCH),
          new Named("foot", FOOT),
          new Named("m", METRE));

  public LinearUnit {
    if (!(metresPerUnit > 0) || !Double.isFinite(metresPerUnit)) {
      throw new IllegalArgumentException(
          "a unit must be a positive number of metres, not " + metresPerUnit);
    }
  }

  /** Reads a name such as {@code cm}, or metres a unit as a number. */
  public static LinearUnit parse(String text) {
    String t = text.trim().toLowerCase(Locale.ROOT);
    for (Named n : NAMED) {
      if (n.name.equals(t)) {
        return n.unit;
      }
    }
    try {
      return new LinearUnit(Double.parseDouble(t));
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException(
          "'" + text + "' is not an unit; write mm, cm, inch, foot, m or metres per unit", e);
    }
  }

  /** Its usual name, such as cm; else its length in metres. */
  public Optional<String> name() {
    return NAMED.stream().filter(n -> n.unit.equals(this)).map(Named::name).findFirst();
  }

  /** {@code cm}, or {@code 0.37 m} for a unit without a name. */
  @Override
  public String toString() {
    return name().orElse(metresPerUnit + " m");
  }
}
