package flarvo.format.table;

import flarvo.scene.PictureSize;

/**
 * How the 2D columns of a table are meant.
 *
 * @param up whether y grows upwards
 * @param centres whether a whole number is the centre of a pixel and not its edge
 */
public record PixelReading(Origin origin, boolean up, Scale scale, boolean centres) {

  public static final PixelReading CANONICAL =
      new PixelReading(Origin.TOP_LEFT, false, Scale.PIXELS, false);

  /** Where 0, 0 lies in the picture. */
  public enum Origin {
    TOP_LEFT("top left"),
    BOTTOM_LEFT("bottom left"),
    CENTRE("centre");

    private final String word;

    Origin(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  /** What 1 is. */
  public enum Scale {
    PIXELS("pixels"),
    WIDTH("picture widths"),
    HALF_WIDTH("half picture widths"),
    EACH("width and height"),
    HALF_EACH("half width and height");

    private final String word;

    Scale(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  /** Whether the picture's size must be known to read it. */
  public boolean needsPicture() {
    return scale != Scale.PIXELS || origin != Origin.TOP_LEFT || up;
  }

  public PixelReading withOrigin(Origin o) {
    return new PixelReading(o, up, scale, centres);
  }

  public PixelReading withUp(boolean u) {
    return new PixelReading(origin, u, scale, centres);
  }

  public PixelReading withScale(Scale s) {
    return new PixelReading(origin, up, s, centres);
  }

  public PixelReading withCentres(boolean c) {
    return new PixelReading(origin, up, scale, c);
  }

  /** Canonical pixels from the left. */
  double x(double v, PictureSize picture) {
    double unit =
        switch (scale) {
          case PIXELS -> 1;
          case WIDTH, EACH -> picture.width();
          case HALF_WIDTH, HALF_EACH -> picture.width() / 2.0;
        };
    return v * unit + (origin == Origin.CENTRE ? picture.width() / 2.0 : 0) + (centres ? 0.5 : 0);
  }

  /** Canonical pixels from the top. */
  double y(double v, PictureSize picture) {
    double unit =
        switch (scale) {
          case PIXELS -> 1;
          // Both in picture widths: with pixels that are not square, y's pixels are fewer.
          case WIDTH -> picture.width() * picture.pixelAspect();
          case HALF_WIDTH -> picture.width() * picture.pixelAspect() / 2;
          case EACH -> picture.height();
          case HALF_EACH -> picture.height() / 2.0;
        };
    double from =
        switch (origin) {
          case TOP_LEFT -> 0;
          case BOTTOM_LEFT -> picture.height();
          case CENTRE -> picture.height() / 2.0;
        };
    double half = centres ? 0.5 : 0;
    return up ? from - v * unit - half : from + v * unit + half;
  }
}
