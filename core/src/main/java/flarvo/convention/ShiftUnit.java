package flarvo.convention;

import flarvo.scene.Optics;

/** What a lens shift is measured in. */
public enum ShiftUnit {
  MILLIMETRES("mm"),
  INCHES("inch"),
  FRACTION_OF_WIDTH("width-fraction");

  private final String word;

  ShiftUnit(String word) {
    this.word = word;
  }

  public String word() {
    return word;
  }

  /** Millimetres in one of this unit, on the given film. */
  public double millimetres(Optics film) {
    return switch (this) {
      case MILLIMETRES -> 1;
      case INCHES -> 25.4;
      case FRACTION_OF_WIDTH -> film.filmWidthMm();
    };
  }
}
