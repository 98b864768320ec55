package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * A pattern as it is fitted: with brightness and contrast taken out, its gradients, and what it
 * changes by where the picture gets softer or sharper. One object is used again for pattern after
 * pattern.
 */
final class PatternImages {

  /** Standard deviation of brightness below which there is nothing to follow. */
  static final double FLAT = 0.7;

  /** Directions of blur. */
  static final int BLURS = 3;

  private final int radius;
  private final int side;
  private final float[] wide; // with a pixel more on each side, for the derivatives

  /** Of mean zero and length one. */
  final float[] pattern;

  /** Gradients, in the pattern's units. */
  final float[] across;

  final float[] down;

  /**
   * What blur adds in each direction: the second derivatives across, down and mixed, without what
   * of them is a change of brightness or contrast, each orthogonal to those before it and of length
   * one, or all zero. A Gaussian of variance t changes a picture by t/2 times its second derivative
   * along the Gaussian, to first order (Koenderink, "The structure of images", 1984); focus changes
   * all directions alike, a fast camera or a ground that is seen steeper only one.
   */
  final float[][] softer;

  PatternImages(int radius) {
    this.radius = radius;
    side = 2 * radius + 1;
    wide = new float[(side + 2) * (side + 2)];
    pattern = new float[side * side];
    across = new float[side * side];
    down = new float[side * side];
    softer = new float[BLURS][side * side];
  }

  /**
   * Takes the square round a place.
   *
   * @return false where it leaves the picture, or has nothing to be recognised by
   */
  boolean take(GrayF32 image, double x, double y) {
    return sample(image, x, y, radius + 1, wide) && prepare();
  }

  /**
   * Takes the numbers of a square of a picture, row by row.
   *
   * @param reach pixels to each side of its centre
   * @return false where it leaves the picture
   */
  static boolean sample(GrayF32 image, double x, double y, int reach, float[] square) {
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    if (x0 - reach < 0
        || y0 - reach < 0
        || x0 + reach + 1 >= image.width
        || y0 + reach + 1 >= image.height) {
      return false;
    }
    int n = 2 * reach + 1;
    float fx = (float) (x - x0);
    float fy = (float) (y - y0);
    float[] data = image.data;
    for (int j = 0, k = 0; j < n; j++) {
      int row = image.startIndex + (y0 - reach + j) * image.stride + x0 - reach;
      int next = row + image.stride;
      float a = data[row];
      float c = data[next];
      for (int i = 1; i <= n; i++, k++) {
        float b = data[row + i];
        float d = data[next + i];
        float high = Math.fma(fx, b - a, a);
        float low = Math.fma(fx, d - c, c);
        square[k] = Math.fma(fy, low - high, high);
        a = b;
        c = d;
      }
    }
    return true;
  }

  private boolean prepare() {
    int n = side + 2;
    double sum = 0;
    for (int j = 1, k = 0; j <= side; j++) {
      for (int i = 1; i <= side; i++, k++) {
        pattern[k] = wide[j * n + i];
        sum += pattern[k];
      }
    }
    float mean = (float) (sum / pattern.length);
    double squares = 0;
    for (int k = 0; k < pattern.length; k++) {
      pattern[k] -= mean;
      squares += pattern[k] * pattern[k];
    }
    if (squares < FLAT * FLAT * pattern.length) {
      return false;
    }
    double contrast = Math.sqrt(squares);
    float scale = (float) (1 / contrast);
    float half = (float) (0.5 / contrast);
    float quarter = scale / 4;
    for (int j = 1, k = 0; j <= side; j++) {
      int at = j * n + 1;
      for (int i = 0; i < side; i++, k++, at++) {
        pattern[k] *= scale;
        float twice = 2 * wide[at];
        across[k] = half * (wide[at + 1] - wide[at - 1]);
        down[k] = half * (wide[at + n] - wide[at - n]);
        softer[0][k] = scale * (wide[at + 1] + wide[at - 1] - twice);
        softer[1][k] = scale * (wide[at + n] + wide[at - n] - twice);
        softer[2][k] =
            quarter * (wide[at + n + 1] + wide[at - n - 1] - wide[at - n + 1] - wide[at + n - 1]);
      }
    }
    for (int b = 0; b < BLURS; b++) {
      normalise(b);
    }
    return true;
  }

  /** Takes out of a direction of blur what is a change of brightness, contrast, or another. */
  private void normalise(int blur) {
    float[] own = softer[blur];
    double sum = 0;
    for (float v : own) {
      sum += v;
    }
    float mean = (float) (sum / own.length);
    for (int k = 0; k < own.length; k++) {
      own[k] -= mean;
    }
    takeOut(own, pattern);
    for (int b = 0; b < blur; b++) {
      takeOut(own, softer[b]);
    }
    double squares = dot(own, own);
    float scale = squares > 0 ? (float) (1 / Math.sqrt(squares)) : 0;
    for (int k = 0; k < own.length; k++) {
      own[k] *= scale;
    }
  }

  private static void takeOut(float[] from, float[] unit) {
    float share = (float) dot(from, unit);
    for (int k = 0; k < from.length; k++) {
      from[k] = Math.fma(-share, unit[k], from[k]);
    }
  }

  private static double dot(float[] a, float[] b) {
    double sum = 0;
    for (int k = 0; k < a.length; k++) {
      sum += a[k] * b[k];
    }
    return sum;
  }
}
