package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * A square of a picture that is looked for in others, moved only, brighter or darker: the inverse
 * compositional algorithm as in {@link Pattern}. Between pixels a picture is bilinear, so that all
 * sums over the square are polynomials of where it lies between four pixels: they are taken once
 * for those four, and a round costs no more than a few multiplications. One object is used again
 * for square after square, and by one thread.
 */
final class MovedPattern {

  /** Standard deviation of brightness below which there is nothing to follow. */
  private static final double FLAT = 0.7;

  /** The place may stray over the edge of the four pixels by so much before others are taken. */
  private static final double STRAY = 0.1;

  /** Steps of a fit end it when they are smaller, in pixels. */
  private static final double STILL = 0.004;

  /** How much more than its own share grain is taken to hold. */
  private static final double GRAIN_COUNTS = 3;

  private static final int PIXELS = 4;

  private final int radius;
  private final int side;
  private final int count;
  private final float[] wide; // with a pixel more on each side, for the gradients
  private final float[] pattern; // of mean zero
  private final float[] across; // gradients
  private final float[] down;
  private double meanAcross;
  private double meanDown;
  private double size; // length of the pattern
  private double alongAcross; // what of a gradient is but a change of contrast
  private double alongDown;
  private double least; // eigenvalues of the structure tensor, in the pattern's units
  private double most;
  private double inverse00;
  private double inverse01;
  private double inverse11;

  // Of the picture in which it is looked for, round a place: sums for each of the four pixels that
  // a pixel of the square lies between, and for each two of them.
  private final double[] withPattern = new double[PIXELS];
  private final double[] withAcross = new double[PIXELS];
  private final double[] withDown = new double[PIXELS];
  private final double[] plain = new double[PIXELS];
  private final double[] products = new double[PIXELS * PIXELS];
  private final double[] share = new double[PIXELS];
  private double x;
  private double y;

  MovedPattern(int radius) {
    this.radius = radius;
    side = 2 * radius + 1;
    count = side * side;
    wide = new float[(side + 2) * (side + 2)];
    pattern = new float[count];
    across = new float[count];
    down = new float[count];
  }

  int radius() {
    return radius;
  }

  /** Where the last fit ended. */
  double x() {
    return x;
  }

  double y() {
    return y;
  }

  /**
   * Takes the square round a place.
   *
   * @return false where it leaves the picture, or has nothing to be recognised by
   */
  boolean take(GrayF32 image, double atX, double atY) {
    return PatternImages.sample(image, atX, atY, radius + 1, wide) && prepare();
  }

  private boolean prepare() {
    int n = side + 2;
    float middle = wide[wide.length / 2]; // so that sums of floats stay small
    float sum = 0;
    float squares = 0;
    float sx = 0;
    float sy = 0;
    float sxx = 0;
    float sxy = 0;
    float syy = 0;
    float px = 0;
    float py = 0;
    for (int j = 1, k = 0; j <= side; j++) {
      int at = j * n + 1;
      for (int i = 0; i < side; i++, k++, at++) {
        float p = wide[at] - middle;
        float gx = 0.5f * (wide[at + 1] - wide[at - 1]);
        float gy = 0.5f * (wide[at + n] - wide[at - n]);
        pattern[k] = p;
        across[k] = gx;
        down[k] = gy;
        sum += p;
        sx += gx;
        sy += gy;
        squares = Math.fma(p, p, squares);
        sxx = Math.fma(gx, gx, sxx);
        sxy = Math.fma(gx, gy, sxy);
        syy = Math.fma(gy, gy, syy);
        px = Math.fma(p, gx, px);
        py = Math.fma(p, gy, py);
      }
    }
    double mean = (double) sum / count;
    double spread = squares - mean * sum;
    if (!(spread >= FLAT * FLAT * count)) {
      return false;
    }
    float m = (float) mean;
    for (int k = 0; k < count; k++) {
      pattern[k] -= m;
    }
    size = Math.sqrt(spread);
    meanAcross = (double) sx / count;
    meanDown = (double) sy / count;
    alongAcross = (px - mean * sx) / spread;
    alongDown = (py - mean * sy) / spread;
    // What only changes brightness or contrast must not move anything.
    double h00 = (sxx - meanAcross * sx) / spread - alongAcross * alongAcross;
    double h01 = (sxy - meanAcross * sy) / spread - alongAcross * alongDown;
    double h11 = (syy - meanDown * sy) / spread - alongDown * alongDown;
    double det = h00 * h11 - h01 * h01;
    double half = (h00 + h11) / 2;
    double root = Math.hypot((h00 - h11) / 2, h01);
    least = half - root;
    most = half + root;
    if (!(least > 0 && det > 0)) {
      return false;
    }
    inverse00 = h11 / det;
    inverse01 = -h01 / det;
    inverse11 = h00 / det;
    return true;
  }

  /**
   * Standard error of the place in its least certain direction that grain alone makes, in pixels;
   * infinite where only grain holds it, as along an edge.
   *
   * @param grain standard deviation of a pixel's brightness, in both pictures
   */
  double errorFromGrain(double grain) {
    double share = grain / size;
    // Central differences of grain are gradients too, and hold nothing.
    double held = least - GRAIN_COUNTS * count * share * share / 2;
    return held > 0 ? Math.sqrt(2) * share / Math.sqrt(held) : Double.POSITIVE_INFINITY;
  }

  /** Smaller over larger eigenvalue of the structure tensor: 0 along an edge, 1 for a spot. */
  double cornerness() {
    return least / most;
  }

  /**
   * Looks for the square from a place on; {@link #x} and {@link #y} say where it was found.
   *
   * @return normalised correlation there, −1 to 1; NaN where it left the picture or found nothing
   */
  double fit(GrayF32 image, double fromX, double fromY, int rounds) {
    x = fromX;
    y = fromY;
    int x0 = 0;
    int y0 = 0;
    double score = Double.NaN;
    for (int round = 0; round < rounds; round++) {
      if (!(x - radius >= Pattern.MARGIN
          && y - radius >= Pattern.MARGIN
          && x + radius < image.width - 1 - Pattern.MARGIN
          && y + radius < image.height - 1 - Pattern.MARGIN)) {
        return Double.NaN;
      }
      if (round == 0
          || x - x0 < -STRAY
          || x - x0 > 1 + STRAY
          || y - y0 < -STRAY
          || y - y0 > 1 + STRAY) {
        x0 = (int) x;
        y0 = (int) y;
        sums(image, x0, y0);
      }
      double fx = x - x0;
      double fy = y - y0;
      share[0] = (1 - fx) * (1 - fy);
      share[1] = fx * (1 - fy);
      share[2] = (1 - fx) * fy;
      share[3] = fx * fy;
      double cross = dot(withPattern) / size;
      double sum = dot(plain);
      double spread = squares() - sum * sum / count;
      score = spread > 0.25 * FLAT * FLAT * count ? cross / Math.sqrt(spread) : Double.NaN;
      if (!(score > 0)) {
        return score;
      }
      double sx = (dot(withAcross) - meanAcross * sum) / (size * cross) - alongAcross;
      double sy = (dot(withDown) - meanDown * sum) / (size * cross) - alongDown;
      double dx = inverse00 * sx + inverse01 * sy;
      double dy = inverse01 * sx + inverse11 * sy;
      x -= dx;
      y -= dy;
      double moved = dx * dx + dy * dy;
      if (!(moved < Double.POSITIVE_INFINITY)) {
        return Double.NaN;
      }
      if (moved < STILL * STILL) {
        break;
      }
    }
    return score;
  }

  private double dot(double[] of) {
    return share[0] * of[0] + share[1] * of[1] + share[2] * of[2] + share[3] * of[3];
  }

  private double squares() {
    double s = 0;
    for (int d = 0; d < PIXELS; d++) {
      double row = 0;
      for (int e = 0; e < PIXELS; e++) {
        row += share[e] * products[PIXELS * d + e];
      }
      s += share[d] * row;
    }
    return s;
  }

  /** Sums over the square whose centre lies right of and below a pixel. */
  private void sums(GrayF32 image, int x0, int y0) {
    int first = image.startIndex + (y0 - radius) * image.stride + x0 - radius;
    float middle = image.data[image.startIndex + y0 * image.stride + x0];
    withPattern(image.data, first, image.stride, middle);
    withItself(image.data, first, image.stride, middle);
  }

  /** Of the pattern and its gradients, with each of the four pixels. */
  private void withPattern(float[] data, int first, int stride, float middle) {
    float p0 = 0;
    float p1 = 0;
    float p2 = 0;
    float p3 = 0;
    float x0 = 0;
    float x1 = 0;
    float x2 = 0;
    float x3 = 0;
    float y0 = 0;
    float y1 = 0;
    float y2 = 0;
    float y3 = 0;
    for (int j = 0, k = 0; j < side; j++) {
      int at = first + j * stride;
      float a = data[at] - middle;
      float c = data[at + stride] - middle;
      for (int i = 0; i < side; i++, k++) {
        at++;
        float b = data[at] - middle;
        float d = data[at + stride] - middle;
        float p = pattern[k];
        float gx = across[k];
        float gy = down[k];
        p0 = Math.fma(a, p, p0);
        p1 = Math.fma(b, p, p1);
        p2 = Math.fma(c, p, p2);
        p3 = Math.fma(d, p, p3);
        x0 = Math.fma(a, gx, x0);
        x1 = Math.fma(b, gx, x1);
        x2 = Math.fma(c, gx, x2);
        x3 = Math.fma(d, gx, x3);
        y0 = Math.fma(a, gy, y0);
        y1 = Math.fma(b, gy, y1);
        y2 = Math.fma(c, gy, y2);
        y3 = Math.fma(d, gy, y3);
        a = b;
        c = d;
      }
    }
    set(withPattern, p0, p1, p2, p3);
    set(withAcross, x0, x1, x2, x3);
    set(withDown, y0, y1, y2, y3);
  }

  private static void set(double[] to, float a, float b, float c, float d) {
    to[0] = a;
    to[1] = b;
    to[2] = c;
    to[3] = d;
  }

  /** Sums over the first of the four pixels; the others' differ by a row and a column. */
  private void withItself(float[] data, int first, int stride, float middle) {
    float sum = 0;
    float square = 0;
    float beside = 0;
    float below = 0;
    float falling = 0;
    float rising = 0;
    for (int j = 0; j < side; j++) {
      int at = first + j * stride;
      float a = data[at] - middle;
      float c = data[at + stride] - middle;
      for (int i = 0; i < side; i++) {
        at++;
        float b = data[at] - middle;
        float d = data[at + stride] - middle;
        sum += a;
        square = Math.fma(a, a, square);
        beside = Math.fma(a, b, beside);
        below = Math.fma(a, c, below);
        falling = Math.fma(a, d, falling);
        rising = Math.fma(b, c, rising);
        a = b;
        c = d;
      }
    }
    double sumRight = sum;
    double sumBelow = sum;
    double squareRight = square;
    double squareBelow = square;
    double besideBelow = beside;
    double belowRight = below;
    int last = first + side * stride;
    for (int i = 0; i < side; i++) {
      int row = first + i * stride;
      float left = data[row] - middle;
      float right = data[row + side] - middle;
      float top = data[first + i] - middle;
      float low = data[last + i] - middle;
      sumRight += right - left;
      squareRight += right * right - left * left;
      sumBelow += low - top;
      squareBelow += low * low - top * top;
      besideBelow += low * (data[last + i + 1] - middle) - top * (data[first + i + 1] - middle);
      belowRight +=
          right * (data[row + stride + side] - middle) - left * (data[row + stride] - middle);
    }
    float topLeft = data[first] - middle;
    float topRight = data[first + side] - middle;
    float lowLeft = data[last] - middle;
    float lowRight = data[last + side] - middle;
    plain[0] = sum;
    plain[1] = sumRight;
    plain[2] = sumBelow;
    // Right and below: both changes, where they meet at the corners made good.
    plain[3] = sumRight + sumBelow - sum + topLeft - topRight - lowLeft + lowRight;
    product(0, 0, square);
    product(1, 1, squareRight);
    product(2, 2, squareBelow);
    product(
        3,
        3,
        squareRight
            + squareBelow
            - square
            + topLeft * topLeft
            - topRight * topRight
            - lowLeft * lowLeft
            + lowRight * lowRight);
    product(0, 1, beside);
    product(2, 3, besideBelow);
    product(0, 2, below);
    product(1, 3, belowRight);
    product(0, 3, falling);
    product(1, 2, rising);
  }

  private void product(int d, int e, double value) {
    products[PIXELS * d + e] = value;
    products[PIXELS * e + d] = value;
  }
}
