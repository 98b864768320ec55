package flarvo.lens;

import flarvo.scene.PictureSize;

/**
 * A lens at one frame.
 *
 * @param centreX centre of distortion as a share of the picture's width
 * @param centreY centre of distortion as a share of the picture's height, from the top
 * @param focal focal length over the width of the film back; NaN where nobody said, which only a
 *     lens counted in focal lengths needs to know
 */
public record Lens(
    Distortion distortion,
    Normalisation normalisation,
    double centreX,
    double centreY,
    double focal) {

  public Lens {
    if (!Double.isFinite(centreX) || !Double.isFinite(centreY)) {
      throw new IllegalArgumentException("the centre of distortion must be finite");
    }
    if (!Double.isNaN(focal) && !(focal > 0 && Double.isFinite(focal))) {
      throw new IllegalArgumentException("the focal length must be positive");
    }
    if (normalisation == Normalisation.FOCAL_LENGTH && Double.isNaN(focal)) {
      throw new IllegalArgumentException(
          "a lens counted in focal lengths needs the focal length over the width of the film back");
    }
    if (distortion instanceof Fisheye && normalisation != Normalisation.FOCAL_LENGTH) {
      throw new IllegalArgumentException("a fisheye is counted in focal lengths");
    }
  }

  /** Centred, and counted in half widths. */
  public static Lens centred(Distortion d) {
    return new Lens(d, Normalisation.HALF_WIDTH, 0.5, 0.5, Double.NaN);
  }

  /** The same centre and unit with another distortion. */
  public Lens with(Distortion d) {
    return new Lens(d, normalisation, centreX, centreY, focal);
  }

  /** The lens over a picture of a size. */
  public LensMapper on(PictureSize picture) {
    return new LensMapper(this, picture);
  }
}
