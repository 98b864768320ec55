package flarvo.scene;

/**
 * The undistorted pinhole at one frame, in millimetres. The film back covers the picture exactly.
 *
 * <pre>
 *        filmWidthMm
 *   ┌───────────────────┐
 *   │        ·(centre)  │ filmHeightMm      principal point = centre + (principalX right,
 *   │            ×      │                                                principalY up)
 *   └───────────────────┘
 * </pre>
 *
 * A shift that moves the film back right moves the principal point left on the film: formats that
 * store the shift of the back store the negative of this offset.
 */
public record Optics(
    double focalLengthMm,
    double filmWidthMm,
    double filmHeightMm,
    double principalXMm,
    double principalYMm) {

  public Optics {
    requirePositive("focal length", focalLengthMm);
    requirePositive("film back width", filmWidthMm);
    requirePositive("film back height", filmHeightMm);
    if (!Double.isFinite(principalXMm) || !Double.isFinite(principalYMm)) {
      throw new IllegalArgumentException("the principal point is not finite");
    }
  }

  /** All in millimetres, the principal point at the centre. */
  public static Optics centred(double focalLengthMm, double filmWidthMm, double filmHeightMm) {
    return new Optics(focalLengthMm, filmWidthMm, filmHeightMm, 0, 0);
  }

  /** Another film back in millimetres; focal length and principal point stay. */
  public Optics withFilm(double widthMm, double heightMm) {
    return new Optics(focalLengthMm, widthMm, heightMm, principalXMm, principalYMm);
  }

  /** Another principal point in millimetres from the centre, right and up. */
  public Optics withPrincipal(double xMm, double yMm) {
    return new Optics(focalLengthMm, filmWidthMm, filmHeightMm, xMm, yMm);
  }

  /** Every length multiplied: the picture stays the same. */
  public Optics scaled(double k) {
    return new Optics(
        focalLengthMm * k, filmWidthMm * k, filmHeightMm * k, principalXMm * k, principalYMm * k);
  }

  /**
   * The same lens over another part of its picture: the film back grows as the picture does, a
   * pixel stays as large as it was, and the principal point stays on the same pixel.
   *
   * @param left pixels of the other part at the left of the picture
   * @param top pixels of it above the picture
   */
  public Optics over(PictureSize from, PictureSize to, double left, double top) {
    double right = to.width() / 2.0 - left - from.width() / 2.0; // from centre to centre, pixels
    double down = to.height() / 2.0 - top - from.height() / 2.0;
    return withFilm(
            filmWidthMm * to.width() / from.width(), filmHeightMm * to.height() / from.height())
        .withPrincipal(
            principalXMm - right * filmWidthMm / from.width(),
            principalYMm + down * filmHeightMm / from.height());
  }

  private static void requirePositive(String what, double v) {
    if (!(v > 0) || !Double.isFinite(v)) {
      throw new IllegalArgumentException("the " + what + " must be positive, not " + v + " mm");
    }
  }
}
