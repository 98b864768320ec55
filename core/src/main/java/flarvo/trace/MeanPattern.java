package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.Arrays;

/** The mean of squares of many frames, each with the same brightness and contrast. */
final class MeanPattern {

  /** Contrast of the mean, as a standard deviation of brightness. */
  private static final float CONTRAST = 20;

  private static final float MIDDLE = 128;

  /** Standard deviation of brightness below which there is nothing to align. */
  private static final double FLAT = 0.1;

  /** The pattern's gradients, and the pixel that rounding may need. */
  private static final int MARGIN = 2;

  private final int reach;
  private final int side;
  private final GrayF32 mean;
  private final float[] square;
  private int count;

  /**
   * @param radius of the pattern that is taken from it
   */
  MeanPattern(int radius) {
    reach = radius + MARGIN;
    side = 2 * reach + 1;
    mean = new GrayF32(side, side);
    square = new float[side * side];
  }

  /** Pixels to each side of its centre. */
  int reach() {
    return reach;
  }

  /** Squares that were added. */
  int count() {
    return count;
  }

  void clear() {
    Arrays.fill(mean.data, 0);
    count = 0;
  }

  /**
   * Takes the mean as a pattern; it must be cleared before the next square is added.
   *
   * @return false where it has nothing to be recognised by
   */
  boolean take(Pattern to) {
    for (int k = 0; k < mean.data.length; k++) {
      mean.data[k] = MIDDLE + CONTRAST / count * mean.data[k];
    }
    return to.take(mean, reach, reach);
  }

  /**
   * Adds a square, unless it leaves the picture or is flat.
   *
   * @param x0 place of its centre, in pixels
   * @param w of which the linear part is its shape
   */
  void add(GrayF32 image, double x0, double y0, double[] w) {
    double right = reach * (Math.abs(w[2]) + Math.abs(w[3])) + Pattern.MARGIN;
    double down = reach * (Math.abs(w[4]) + Math.abs(w[5])) + Pattern.MARGIN;
    if (!(x0 >= right
        && y0 >= down
        && x0 + right < image.width - 1
        && y0 + down < image.height - 1)) {
      return;
    }
    float[] data = image.data;
    float stepX = (float) w[2];
    float stepY = (float) w[4];
    double sum = 0;
    double squares = 0;
    for (int j = 0, k = 0; j < side; j++) {
      double v = j - reach;
      float x = (float) (x0 - reach * w[2] + v * w[3]);
      float y = (float) (y0 - reach * w[4] + v * w[5]);
      float rowSum = 0;
      float rowSquares = 0;
      for (int i = 0; i < side; i++, k++) {
        int xi = (int) x;
        int yi = (int) y;
        float fx = x - xi;
        int at = image.startIndex + yi * image.stride + xi;
        float high = Math.fma(fx, data[at + 1] - data[at], data[at]);
        at += image.stride;
        float low = Math.fma(fx, data[at + 1] - data[at], data[at]);
        float value = Math.fma(y - yi, low - high, high);
        square[k] = value;
        rowSum += value;
        rowSquares = Math.fma(value, value, rowSquares);
        x += stepX;
        y += stepY;
      }
      sum += rowSum;
      squares += rowSquares;
    }
    double average = sum / square.length;
    double deviation = Math.sqrt(Math.max(0, squares / square.length - average * average));
    if (!(deviation > FLAT)) {
      return;
    }
    float a = (float) average;
    float scale = (float) (1 / deviation);
    for (int k = 0; k < square.length; k++) {
      mean.data[k] = Math.fma(scale, square[k] - a, mean.data[k]);
    }
    count++;
  }
}
