package flarvo.scene;

/** The picture in pixels; pixel aspect is the width of one pixel over its height. */
public record PictureSize(int width, int height, double pixelAspect) {

  public PictureSize {
    if (width <= 0 || height <= 0 || width > 1_000_000 || height > 1_000_000) {
      throw new IllegalArgumentException("no picture is " + width + "x" + height);
    }
    if (!(pixelAspect > 0) || !Double.isFinite(pixelAspect)) {
      throw new IllegalArgumentException("the pixel aspect must be positive, not " + pixelAspect);
    }
  }

  /** Square pixels. */
  public static PictureSize of(int width, int height) {
    return new PictureSize(width, height, 1);
  }

  /** Width over height as it is seen. */
  public double aspect() {
    return width * pixelAspect / height;
  }

  /** Reads {@code 1920x1080}. */
  public static PictureSize parse(String text) {
    String[] p = text.trim().toLowerCase(java.util.Locale.ROOT).split("x", -1);
    try {
      if (p.length == 2) {
        return of(Integer.parseInt(p[0].trim()), Integer.parseInt(p[1].trim()));
      }
    } catch (NumberFormatException e) {
      // Falls through to the one message below.
    }
    throw new IllegalArgumentException("'" + text + "' is not a picture size; write 1920x1080");
  }

  @Override
  public String toString() {
    return width + "x" + height;
  }
}
