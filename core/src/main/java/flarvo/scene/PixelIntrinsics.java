package flarvo.scene;

/**
 * A pinhole in canonical pixels: {@code x = cx + fx X/Z}, {@code y = cy − fy Y/Z}, Z along the
 * view. The one place that turns film back and focal length into pixels.
 */
public record PixelIntrinsics(double fx, double fy, double cx, double cy) {

  /**
   * @param picture the whole of it is what the film back holds
   */
  public static PixelIntrinsics of(Optics o, PictureSize picture) {
    return new PixelIntrinsics(
        o.focalLengthMm() / o.filmWidthMm() * picture.width(),
        o.focalLengthMm() / o.filmHeightMm() * picture.height(),
        picture.width() * (0.5 + o.principalXMm() / o.filmWidthMm()),
        picture.height() * (0.5 - o.principalYMm() / o.filmHeightMm()));
  }
}
