package flarvo.convention;

import flarvo.scene.PictureSize;
import flarvo.scene.Vec3;

/**
 * A world measured in pixels of the picture, y down, z into the picture. The camera's distance from
 * a plane that it sees one to one is its focal length in pixels.
 *
 * @param pixelsPerMetre how large the world is made; any positive number gives the same picture
 */
public record PixelSpace(double pixelsPerMetre, Origin origin) {

  /** Which point of the picture lies on the world's origin. */
  public enum Origin {
    CENTRE("centre"),
    TOP_LEFT("top-left");

    private final String word;

    Origin(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  public PixelSpace {
    if (!(pixelsPerMetre > 0) || !Double.isFinite(pixelsPerMetre)) {
      throw new IllegalArgumentException("pixels a metre must be positive, not " + pixelsPerMetre);
    }
  }

  /**
   * Where the canonical origin comes to lie, in pixels along the canonical axes (x right, y up);
   * added before the axes are exchanged, so that it holds for any of them.
   */
  Vec3 offset(PictureSize picture) {
    return origin == Origin.CENTRE
        ? Vec3.ZERO
        : new Vec3(picture.width() / 2.0, -picture.height() / 2.0, 0);
  }
}
