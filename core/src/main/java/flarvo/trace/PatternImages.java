package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * What a pattern is fitted with: the pattern itself, and its steepest descent images, from which
 * changes of brightness, contrast and blur are projected out. It is needed only while a pattern is
 * taken, so each thread has one.
 */
final class PatternImages {

  /** Standard deviation of brightness below which there is nothing to follow. */
  static final double FLAT = 0.7;

  /** Across, down, and the four numbers of the linear part, row by row. */
  static final int DESCENTS = 6;

  /** Numbers of a pixel as they are packed: the pattern's, then those of the descents. */
  static final int PACKED = 1 + DESCENTS;

  /** Directions of blur. */
  private static final int BLURS = 3;

  private static final ThreadLocal<PatternImages[]> OWN =
      ThreadLocal.withInitial(() -> new PatternImages[TraceOptions.LARGEST_RADIUS + 1]);

  private final int radius;
  private final int side;
  private final float[] wide; // with a pixel more on each side, for the derivatives

  /**
   * Orthogonal images of mean zero and length one. The first is the pattern; the others are what
   * blur adds to it: its second derivatives across, down and mixed. A Gaussian of variance t
   * changes a picture by t/2 times its second derivative along the Gaussian, to first order
   * (Koenderink, "The structure of images", 1984); focus changes all directions alike, a fast
   * camera or a ground that is seen steeper only one.
   */
  private final float[][] unmoved;

  /**
   * Steepest descent images: the gradients in the pattern's units, and those times u and v, which
   * go from −1 to 1 over the square.
   */
  private final float[][] descents;

  private double contrast;

  private PatternImages(int radius) {
    this.radius = radius;
    side = 2 * radius + 1;
    wide = new float[(side + 2) * (side + 2)];
    unmoved = new float[1 + BLURS][side * side];
    descents = new float[DESCENTS][side * side];
  }

  /** The one of this thread. */
  static PatternImages of(int radius) {
    PatternImages[] own = OWN.get();
    if (own[radius] == null) {
      own[radius] = new PatternImages(radius);
    }
    return own[radius];
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
   * Takes a square out of a larger pattern.
   *
   * @param packed numbers of the larger one, as {@link #pack} writes them
   * @param large its side
   * @param x column of the square's centre in it; {@code y} its row
   * @param contrast the larger one's
   * @return as the other
   */
  boolean take(float[] packed, int large, int x, int y, double contrast) {
    int n = side + 2;
    float scale = (float) (contrast * large);
    for (int j = 0, k = 0; j < n; j++) {
      int at = PACKED * ((y - radius - 1 + j) * large + x - radius - 1);
      for (int i = 0; i < n; i++, k++, at += PACKED) {
        wide[k] = scale * packed[at];
      }
    }
    return prepare();
  }

  /** Standard deviation of the pattern's brightness. */
  double contrast() {
    return contrast;
  }

  /** Sum of the products of two steepest descent images. */
  double product(int p, int q) {
    return dot(descents[p], descents[q]);
  }

  /** The numbers of each pixel side by side, {@link #PACKED} of them, row by row. */
  void pack(float[] to) {
    for (int k = 0, at = 0; k < side * side; k++) {
      to[at++] = unmoved[0][k];
      for (int p = 0; p < DESCENTS; p++) {
        to[at++] = descents[p][k];
      }
    }
  }

  /**
   * Takes the numbers of a square of a picture, row by row.
   *
   * @param reach pixels to each side of its centre
   * @return false where it leaves the picture
   */
  static boolean sample(GrayF32 image, double x, double y, int reach, float[] square) {
    if (!isIn(image, x, y, reach)) {
      return false;
    }
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
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

  /** Whether a square lies in a picture, so that {@link #sample} can take it. */
  static boolean isIn(GrayF32 image, double x, double y, int reach) {
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    return x0 - reach >= 0
        && y0 - reach >= 0
        && x0 + reach + 1 < image.width
        && y0 + reach + 1 < image.height;
  }

  private boolean prepare() {
    int n = side + 2;
    float[] pattern = unmoved[0];
    for (int j = 1, k = 0; j <= side; j++, k += side) {
      System.arraycopy(wide, j * n + 1, pattern, k, side);
    }
    takeMeanOut(pattern);
    double squares = dot(pattern, pattern);
    if (squares < FLAT * FLAT * pattern.length) {
      return false;
    }
    contrast = Math.sqrt(squares) / side;
    float scale = (float) (1 / Math.sqrt(squares));
    multiply(pattern, scale);
    derivatives(scale);
    for (int b = 1; b < unmoved.length; b++) {
      takeOut(unmoved[b], b);
      double length = Math.sqrt(dot(unmoved[b], unmoved[b]));
      multiply(unmoved[b], length > 0 ? (float) (1 / length) : 0);
    }
    for (float[] d : descents) {
      takeOut(d, unmoved.length);
    }
    return true;
  }

  private void derivatives(float scale) {
    int n = side + 2;
    for (int j = 1, k = 0; j <= side; j++) {
      int at = j * n + 1;
      float v = (float) (j - 1 - radius) / radius;
      for (int i = 0; i < side; i++, k++, at++) {
        float u = (float) (i - radius) / radius;
        float gx = scale / 2 * (wide[at + 1] - wide[at - 1]);
        float gy = scale / 2 * (wide[at + n] - wide[at - n]);
        descents[0][k] = gx;
        descents[1][k] = gy;
        descents[2][k] = gx * u;
        descents[3][k] = gx * v;
        descents[4][k] = gy * u;
        descents[5][k] = gy * v;
        float twice = 2 * wide[at];
        unmoved[1][k] = scale * (wide[at + 1] + wide[at - 1] - twice);
        unmoved[2][k] = scale * (wide[at + n] + wide[at - n] - twice);
        unmoved[3][k] =
            scale / 4 * (wide[at + n + 1] + wide[at - n - 1] - wide[at - n + 1] - wide[at + n - 1]);
      }
    }
  }

  /** Projects brightness and the first of the unmoved images out of an image. */
  private void takeOut(float[] image, int first) {
    takeMeanOut(image);
    for (int b = 0; b < first; b++) {
      float[] unit = unmoved[b];
      float share = (float) dot(image, unit);
      for (int k = 0; k < image.length; k++) {
        image[k] = Math.fma(-share, unit[k], image[k]);
      }
    }
  }

  private static void takeMeanOut(float[] image) {
    double sum = 0;
    for (float v : image) {
      sum += v;
    }
    float mean = (float) (sum / image.length);
    for (int k = 0; k < image.length; k++) {
      image[k] -= mean;
    }
  }

  private static void multiply(float[] image, float by) {
    for (int k = 0; k < image.length; k++) {
      image[k] *= by;
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
