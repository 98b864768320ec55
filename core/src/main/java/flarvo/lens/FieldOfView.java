package flarvo.lens;

import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import java.util.Locale;
import java.util.OptionalDouble;

/**
 * Focal length, film back, angles of view and pixels of one lens, from any that settle it. The film
 * back covers the picture's width; with pixels a wide over the picture of W × H:
 *
 * <pre>
 *   tan(across / 2) = back / 2 focal        tan(down / 2) = back · H / (2 focal · W · a)
 *   focal in pixels = focal · W / back
 * </pre>
 *
 * @param picture resolution and pixel aspect
 * @param ratio focal length over the film back's width
 * @param focalMm empty where only the ratio is known
 * @param backMm width of the film back; empty where only the ratio is known
 */
public record FieldOfView(
    PictureSize picture, double ratio, OptionalDouble focalMm, OptionalDouble backMm) {

  /** Two ways to give the same may differ by rounding. */
  private static final double SAME = 1e-3;

  /** What is given of a lens; each may be left out. */
  public static final class Given {
    private OptionalDouble focal = OptionalDouble.empty();
    private OptionalDouble back = OptionalDouble.empty();
    private OptionalDouble across = OptionalDouble.empty();
    private OptionalDouble down = OptionalDouble.empty();
    private OptionalDouble pixels = OptionalDouble.empty();

    /** Focal length in millimetres. */
    public Given focalMm(double mm) {
      focal = positive(mm, "focal length");
      return this;
    }

    /** Width of the film back in millimetres. */
    public Given backMm(double mm) {
      back = positive(mm, "film back");
      return this;
    }

    /** Horizontal angle of view in degrees. */
    public Given acrossDegrees(double d) {
      across = angle(d);
      return this;
    }

    /** Vertical angle of view in degrees. */
    public Given downDegrees(double d) {
      down = angle(d);
      return this;
    }

    /** Focal length in pixels of the picture's width. */
    public Given focalPixels(double px) {
      pixels = positive(px, "focal length in pixels");
      return this;
    }

    private static OptionalDouble positive(double v, String what) {
      if (!(v > 0) || !Double.isFinite(v)) {
        throw InputError.words("a " + what + " of " + v + " is none", "Give one over zero");
      }
      return OptionalDouble.of(v);
    }

    private static OptionalDouble angle(double d) {
      if (!(d > 0) || d >= 180) {
        throw InputError.words(
            "an angle of view of " + d + "° is none", "Give one between 0 and 180");
      }
      return OptionalDouble.of(d);
    }
  }

  /**
   * Works out the rest.
   *
   * @throws InputError when it is not settled, or what is given contradicts itself
   */
  public static FieldOfView of(PictureSize picture, Given g) {
    double high = picture.height() / (picture.width() * picture.pixelAspect());
    OptionalDouble ratio = OptionalDouble.empty();
    if (g.focal.isPresent() && g.back.isPresent()) {
      ratio = agree(ratio, g.focal.getAsDouble() / g.back.getAsDouble());
    }
    if (g.across.isPresent()) {
      ratio = agree(ratio, 0.5 / Math.tan(Math.toRadians(g.across.getAsDouble()) / 2));
    }
    if (g.down.isPresent()) {
      ratio = agree(ratio, 0.5 * high / Math.tan(Math.toRadians(g.down.getAsDouble()) / 2));
    }
    if (g.pixels.isPresent()) {
      ratio = agree(ratio, g.pixels.getAsDouble() / picture.width());
    }
    if (ratio.isEmpty()) {
      throw InputError.words(
          "this does not settle a lens",
          "Give two of focal length, film back and angle (or focal length in pixels)");
    }
    double k = ratio.getAsDouble();
    OptionalDouble focal =
        g.focal.isPresent() || g.back.isEmpty()
            ? g.focal
            : OptionalDouble.of(k * g.back.getAsDouble());
    OptionalDouble back =
        g.back.isPresent() || g.focal.isEmpty()
            ? g.back
            : OptionalDouble.of(g.focal.getAsDouble() / k);
    return new FieldOfView(picture, k, focal, back);
  }

  private static OptionalDouble agree(OptionalDouble before, double found) {
    if (before.isPresent() && Math.abs(found / before.getAsDouble() - 1) > SAME) {
      throw InputError.words(
          String.format(
              Locale.ROOT,
              "what is given contradicts itself: the focal length is %.4f and %.4f times the film"
                  + " back",
              before.getAsDouble(),
              found),
          "Leave one of them out");
    }
    return before.isPresent() ? before : OptionalDouble.of(found);
  }

  /** Horizontal angle of view in degrees. */
  public double acrossDegrees() {
    return degrees(1);
  }

  /** Vertical angle of view in degrees. */
  public double downDegrees() {
    return degrees(high());
  }

  /** Angle of view from corner to corner, in degrees. */
  public double diagonalDegrees() {
    return degrees(Math.hypot(1, high()));
  }

  /** Focal length in pixels of the picture's width. */
  public double focalPixels() {
    return ratio * picture.width();
  }

  /** Focal length in pixels of its height, which differs where pixels are not square. */
  public double focalPixelsDown() {
    return focalPixels() * picture.pixelAspect();
  }

  /** Height of the film back in millimetres, as far as the picture covers it. */
  public OptionalDouble backHeightMm() {
    return backMm.isPresent()
        ? OptionalDouble.of(backMm.getAsDouble() * high())
        : OptionalDouble.empty();
  }

  /** Focal length with the same angle across on a film back of another width, in millimetres. */
  public double focalOn(double widthMm) {
    return ratio * widthMm;
  }

  private double high() {
    return picture.height() / (picture.width() * picture.pixelAspect());
  }

  private double degrees(double size) {
    return Math.toDegrees(2 * Math.atan(size / 2 / ratio));
  }
}
