package flarvo.convention;

/** A film back in millimetres. */
public record FilmBack(double widthMm, double heightMm) {

  public FilmBack {
    if (!(widthMm > 0)
        || !(heightMm > 0)
        || !Double.isFinite(widthMm)
        || !Double.isFinite(heightMm)) {
      throw new IllegalArgumentException(
          "a film back must be positive, not " + widthMm + " × " + heightMm + " mm");
    }
  }

  @Override
  public String toString() {
    return widthMm + " × " + heightMm + " mm";
  }
}
