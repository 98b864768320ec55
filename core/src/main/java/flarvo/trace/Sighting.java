package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.Arrays;

/**
 * A feature on one frame: its place, the shape of its pattern, and the pixels round it. The pixels
 * are kept with 16 bits each, as a share of the range between the darkest and the brightest.
 */
final class Sighting {

  private static final int LEVELS = 65_535;

  /** Pixels beyond the largest pattern: a place is corrected by one, and gradients need one. */
  private static final int MARGIN = 2;

  /** So many times as far as the pattern that is followed a pattern may reach. */
  static final double REACH = 1.5;

  private final int row;
  private final int frame;
  private final int left;
  private final int top;
  private final int width; // of the frame
  private final int height;
  private final char[] pixels;
  private final float darkest;
  private final float step;

  /** Place of the centre, then the linear part, by the frame on which the feature was born. */
  final double[] warp = new double[Pattern.WARP];

  /** Correlation with its pattern. */
  double score;

  /** Whether it was corrected, and stays where it is. */
  boolean settled;

  /**
   * @param f at its place in the image
   * @param row of the feature
   */
  Sighting(Feature f, int row, int frame, GrayF32 image, int radius) {
    this.row = row;
    this.frame = frame;
    score = f.score;
    warp[0] = f.x();
    warp[1] = f.y();
    f.shapeSinceBirth(warp, 2);
    int side = 2 * reach(radius) + 1;
    width = image.width;
    height = image.height;
    left = (int) Math.rint(f.x()) - side / 2;
    top = (int) Math.rint(f.y()) - side / 2;
    float low = Float.POSITIVE_INFINITY;
    float high = Float.NEGATIVE_INFINITY;
    int end = Math.min(left + side, image.width);
    for (int y = Math.max(0, top); y < Math.min(top + side, image.height); y++) {
      int at = image.startIndex + y * image.stride;
      for (int x = Math.max(0, left); x < end; x++) {
        float v = image.data[at + x];
        low = v < low ? v : low;
        high = v > high ? v : high;
      }
    }
    darkest = low;
    step = high > low ? (high - low) / LEVELS : 1;
    pixels = new char[side * side];
    float scale = 1 / step;
    for (int y = 0; y < side; y++) {
      int at = image.startIndex + inside(top + y, image.height) * image.stride;
      int from = Math.min(side, Math.max(0, -left));
      int to = Math.max(from, Math.min(side, image.width - left));
      int k = side * y;
      for (int x = from; x < to; x++) {
        pixels[k + x] = (char) Math.fma(scale, image.data[at + left + x] - low, 0.5f);
      }
      // Beyond the edge of the picture its last pixel goes on.
      Arrays.fill(pixels, k, k + from, pixels[k + Math.min(from, side - 1)]);
      Arrays.fill(pixels, k + to, k + side, pixels[k + Math.max(0, to - 1)]);
    }
  }

  private static int inside(int at, int size) {
    return Math.max(0, Math.min(size - 1, at));
  }

  /** Pixels to each side of a place that are kept. */
  static int reach(int radius) {
    return (int) Math.ceil(REACH * (radius + 2)) + MARGIN;
  }

  /** Bytes of the pixels of one. */
  static long bytes(int radius) {
    long side = 2L * reach(radius) + 1;
    return Character.BYTES * side * side;
  }

  int row() {
    return row;
  }

  int frame() {
    return frame;
  }

  /** Frame column of the first column of the pixels that are kept. */
  int left() {
    return left;
  }

  int top() {
    return top;
  }

  /** Whether a square lies in the frame; beyond its edge the pixels that are kept are made up. */
  boolean holds(double[] w, double reach) {
    double right = reach * (Math.abs(w[2]) + Math.abs(w[3]));
    double down = reach * (Math.abs(w[4]) + Math.abs(w[5]));
    return w[0] >= right && w[1] >= down && w[0] + right < width && w[1] + down < height;
  }

  /** A pattern, or the part of it that lies in the frame; null where none does. */
  Pattern within(Pattern p, double[] w) {
    return p.within(w, -left, -top, width - 1 - left, height - 1 - top);
  }

  /** Writes the pixels to a picture of their size. */
  void pixels(GrayF32 to) {
    for (int k = 0; k < pixels.length; k++) {
      to.data[k] = Math.fma(step, pixels[k], darkest);
    }
  }
}
