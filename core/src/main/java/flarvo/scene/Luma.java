package flarvo.scene;

/**
 * A plate's brightness.
 *
 * @param luma 0 to 255, and above it where a picture is brighter than white; row by row
 */
public record Luma(int width, int height, float[] luma) {

  /** Brightness at a pixel of the grid. */
  public float at(int x, int y) {
    return luma[y * width + x];
  }
}
