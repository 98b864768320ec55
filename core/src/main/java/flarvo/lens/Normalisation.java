package flarvo.lens;

import flarvo.scene.PictureSize;
import java.util.Arrays;
import java.util.Optional;

/** The length that lens coordinates are counted in. */
public enum Normalisation {
  FOCAL_LENGTH("focal-length"),
  HALF_DIAGONAL("half-diagonal"),
  HALF_WIDTH("half-width"),
  HALF_HEIGHT("half-height");

  private final String code;

  Normalisation(String code) {
    this.code = code;
  }

  public String code() {
    return code;
  }

  /**
   * The unit in heights of a pixel.
   *
   * @param focal focal length over the width of the film back; only a focal length asks for it
   */
  public double unit(PictureSize picture, double focal) {
    double w = picture.width() * picture.pixelAspect();
    double h = picture.height();
    return switch (this) {
      case FOCAL_LENGTH -> focal * w;
      case HALF_DIAGONAL -> Math.hypot(w, h) / 2;
      case HALF_WIDTH -> w / 2;
      case HALF_HEIGHT -> h / 2;
    };
  }

  /** The unit of a name in files; empty where it is not known. */
  public static Optional<Normalisation> of(String code) {
    return Arrays.stream(values()).filter(n -> n.code.equals(code)).findFirst();
  }
}
