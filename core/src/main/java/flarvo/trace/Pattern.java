package flarvo.trace;

import boofcv.struct.image.GrayF32;

/**
 * A square of a picture that is looked for in others, moved and sheared, brighter or darker, softer
 * or sharper: the inverse compositional algorithm (Baker and Matthews, "Lucas–Kanade 20 years on",
 * 2004) with gain and offset of brightness and blur projected out of the steepest descent images
 * (Hager and Belhumeur, "Efficient region tracking with parametric models of geometry and
 * illumination", 1998). Without blur, what stands at the square's border draws a pattern aside as
 * soon as the focus changes. One object is used again for pattern after pattern, and by one thread.
 */
final class Pattern {

  /** Of a warp: place of the centre, and the four numbers of the linear part, row by row. */
  static final int WARP = 6;

  /** One less the square of the best correlation that is believed. */
  private static final double LEAST_ERROR = 1e-3;

  /** Sums of floats wander by less, in pixels. */
  static final double MARGIN = 0.01;

  /**
   * Steps of a fit end it when they are smaller, in pixels. Each is less than a fifth of the one
   * before, so what is left is under a hundredth.
   */
  private static final double STILL = 0.03;

  /** A fit whose correlation is lower after the first rounds is given up. */
  private static final double HOPELESS = 0.4;

  private static final int FIRST_ROUNDS = 2;

  /** Parts lie to eight sides of the place. */
  private static final int SIDES = 9;

  private final int radius;
  private final int side;
  private final float[] images; // as PatternImages packs them
  private final PatternEquations equations = new PatternEquations();
  private final double[] step = new double[PatternImages.DESCENTS];
  private final double[] sums = new double[PatternImages.DESCENTS];
  private final double[] before = new double[4];
  private final double[] change = new double[ShapeEstimate.SIZE];
  private ShapeEstimate prior; // null where nothing is known before
  private double contrast;

  // Of a part: where its centre lies beside the place that it is known by, and its size.
  private final int besideX;
  private final int besideY;
  private final double share; // of the whole pattern's radius
  private Pattern[] parts; // null where none is needed yet

  Pattern(int radius) {
    this(radius, 0, 0, 1);
  }

  private Pattern(int radius, int besideX, int besideY, double share) {
    this.radius = radius;
    this.besideX = besideX;
    this.besideY = besideY;
    this.share = share;
    side = 2 * radius + 1;
    images = new float[PatternImages.PACKED * side * side];
  }

  /** A warp that leaves a pattern as it is, at a place. */
  static double[] at(double x, double y) {
    return new double[] {x, y, 1, 0, 0, 1};
  }

  /**
   * Takes the square round a place.
   *
   * @return false where it leaves the picture, or has nothing to be recognised by
   */
  boolean take(GrayF32 image, double x, double y) {
    PatternImages own = PatternImages.of(radius);
    return own.take(image, x, y) && take(own);
  }

  private boolean take(PatternImages own) {
    parts = null;
    contrast = own.contrast();
    own.pack(images);
    return equations.take(own);
  }

  /** Radius of the part of a pattern that is followed on where the whole leaves the picture. */
  static int partRadius(int radius) {
    return Math.max(TraceOptions.SMALLEST_RADIUS, (2 * radius + 1) / 3);
  }

  /**
   * The whole of it where it lies within a rectangle; else a smaller square out of it, off the
   * place and towards the middle of the rectangle, that marks the same place.
   *
   * @param w where it is
   * @return null where no part lies within either
   */
  Pattern within(double[] w, double left, double top, double right, double bottom) {
    if (isWithin(w, left, top, right, bottom)) {
      return this;
    }
    double inX = w[0] - reachX(w) < left ? 1 : w[0] + reachX(w) > right ? -1 : 0;
    double inY = w[1] - reachY(w) < top ? 1 : w[1] + reachY(w) > bottom ? -1 : 0;
    // The same direction in the pattern's own pixels.
    double det = w[2] * w[5] - w[3] * w[4];
    double u = (w[5] * inX - w[3] * inY) / det;
    double v = (w[2] * inY - w[4] * inX) / det;
    double most = Math.max(Math.abs(u), Math.abs(v));
    if (!(most > 0)) {
      return null;
    }
    Pattern p = part((int) Math.rint(u / most), (int) Math.rint(v / most));
    return p != null && p.isWithin(w, left, top, right, bottom) ? p : null;
  }

  /** The same, of a picture, with a pixel to spare. */
  Pattern within(double[] w, GrayF32 image) {
    return within(w, 1, 1, image.width - 2, image.height - 2);
  }

  /** The part to a side; null where it has nothing to be recognised by. */
  private Pattern part(int sideX, int sideY) {
    int small = partRadius(radius);
    int off = radius - 1 - small; // a pixel is left for its derivatives
    if (off < 1) {
      return null;
    }
    if (parts == null) {
      parts = new Pattern[SIDES];
    }
    int k = 3 * (sideY + 1) + sideX + 1;
    if (parts[k] == null) {
      Pattern p = new Pattern(small, off * sideX, off * sideY, (double) small / radius);
      PatternImages own = PatternImages.of(small);
      boolean taken =
          own.take(images, side, radius + p.besideX, radius + p.besideY, contrast) && p.take(own);
      parts[k] = taken ? p : this; // as a mark that there is none
    }
    return parts[k] == this ? null : parts[k];
  }

  private double reachX(double[] w) {
    return radius * (Math.abs(w[2]) + Math.abs(w[3])) + MARGIN;
  }

  private double reachY(double[] w) {
    return radius * (Math.abs(w[4]) + Math.abs(w[5])) + MARGIN;
  }

  private boolean isWithin(double[] w, double left, double top, double right, double bottom) {
    double x = w[0] + besideX * w[2] + besideY * w[3];
    double y = w[1] + besideX * w[4] + besideY * w[5];
    double reachX = reachX(w);
    double reachY = reachY(w);
    return x - reachX >= left && y - reachY >= top && x + reachX < right && y + reachY < bottom;
  }

  /**
   * Standard error of the place in its least certain direction by what was left over by a fit, in
   * pixels; of a part, that of its centre.
   */
  double errorFromFit(double score) {
    return Math.sqrt(Math.max(0, 1 - score * score)) / side * equations.placeSpread();
  }

  /**
   * Moves a pattern that may be sheared to where it fits best. Its shape is known from the frame
   * before, and changes little by little: without that, what lies beside the centre could pass a
   * change of size for a move.
   *
   * @param warp is changed; its linear part is the shape that is known
   * @param error of a pixel, in the pattern's units, as {@link #error} gives it
   * @param shape how well it is known, at the whole pattern's border; is carried on to what it is
   *     known by after the fit
   * @param changePx standard deviation of the change of shape, in pixels at the whole pattern's
   *     border
   * @return as the other
   */
  double fit(
      GrayF32 image,
      double[] warp,
      int rounds,
      double error,
      ShapeEstimate shape,
      double changePx) {
    if (share < 1) {
      shape.scale(share);
    }
    if (!shape.predict(share * changePx, error) || !equations.prepare(shape)) {
      return Double.NaN;
    }
    prior = shape;
    double det = warp[2] * warp[5] - warp[3] * warp[4];
    before[0] = warp[5] / det;
    before[1] = -warp[3] / det;
    before[2] = -warp[4] / det;
    before[3] = warp[2] / det;
    double score = search(image, warp, rounds);
    prior = null;
    equations.update(shape);
    if (share < 1) {
      shape.scale(1 / share);
    }
    return score;
  }

  /** What a pixel differs by where a fit came to a correlation, in the pattern's units. */
  double error(double score) {
    return Math.sqrt(Math.max(LEAST_ERROR, 1 - score * score)) / side;
  }

  /**
   * Moves a warp to where the pattern fits best, from where it is.
   *
   * @param warp is changed
   * @return normalised correlation there, −1 to 1; NaN where it left the picture or found nothing
   */
  double fit(GrayF32 image, double[] warp, int rounds) {
    equations.prepare();
    return search(image, warp, rounds);
  }

  private double search(GrayF32 image, double[] warp, int rounds) {
    moveToCentre(warp, 1);
    double score = searchCentre(image, warp, rounds);
    moveToCentre(warp, -1);
    return score;
  }

  private void moveToCentre(double[] w, int times) {
    w[0] += times * (besideX * w[2] + besideY * w[3]);
    w[1] += times * (besideX * w[4] + besideY * w[5]);
  }

  private double searchCentre(GrayF32 image, double[] warp, int rounds) {
    double score = Double.NaN;
    for (int round = 0; round < rounds; round++) {
      score = measure(image, warp);
      if (!(score > (round < FIRST_ROUNDS ? 0 : HOPELESS))) {
        return score;
      }
      double moved = compose(warp);
      if (!Double.isFinite(moved)) {
        return Double.NaN;
      }
      if (moved < STILL) {
        break;
      }
    }
    return score;
  }

  /** Correlation of the pattern with the picture under a warp; leaves the sums for a step. */
  private double measure(GrayF32 image, double[] w) {
    double reachX = reachX(w);
    double reachY = reachY(w);
    if (!(w[0] - reachX >= 0
        && w[1] - reachY >= 0
        && w[0] + reachX < image.width - 1
        && w[1] + reachY < image.height - 1)) {
      return Double.NaN;
    }
    float[] data = image.data;
    float sum = 0;
    float squares = 0;
    float cross = 0;
    float s0 = 0;
    float s1 = 0;
    float s2 = 0;
    float s3 = 0;
    float s4 = 0;
    float s5 = 0;
    float stepX = (float) w[2];
    float stepY = (float) w[4];
    for (int j = 0, k = 0; j < side; j++) {
      double v = j - radius;
      float x = (float) (w[0] - radius * w[2] + v * w[3]);
      float y = (float) (w[1] - radius * w[4] + v * w[5]);
      for (int i = 0; i < side; i++, k += PatternImages.PACKED) {
        int xi = (int) x;
        int yi = (int) y;
        float fx = x - xi;
        int at = image.startIndex + yi * image.stride + xi;
        float high = Math.fma(fx, data[at + 1] - data[at], data[at]);
        at += image.stride;
        float low = Math.fma(fx, data[at + 1] - data[at], data[at]);
        float value = Math.fma(y - yi, low - high, high);
        sum += value;
        squares = Math.fma(value, value, squares);
        cross = Math.fma(value, images[k], cross);
        s0 = Math.fma(value, images[k + 1], s0);
        s1 = Math.fma(value, images[k + 2], s1);
        s2 = Math.fma(value, images[k + 3], s2);
        s3 = Math.fma(value, images[k + 4], s3);
        s4 = Math.fma(value, images[k + 5], s4);
        s5 = Math.fma(value, images[k + 6], s5);
        x += stepX;
        y += stepY;
      }
    }
    sums[0] = s0 / cross;
    sums[1] = s1 / cross;
    sums[2] = s2 / cross;
    sums[3] = s3 / cross;
    sums[4] = s4 / cross;
    sums[5] = s5 / cross;
    return correlation(sum, squares, cross);
  }

  private double correlation(double sum, double squares, double cross) {
    double spread = squares - sum * sum / (side * side);
    return spread > 0.25 * PatternImages.FLAT * PatternImages.FLAT * side * side
        ? cross / Math.sqrt(spread)
        : Double.NaN;
  }

  /** One step of the inverse compositional algorithm; how far the centre moved, in pixels. */
  private double compose(double[] w) {
    if (prior != null) {
      change[0] = radius * (before[0] * w[2] + before[1] * w[4] - 1);
      change[1] = radius * (before[0] * w[3] + before[1] * w[5]);
      change[2] = radius * (before[2] * w[2] + before[3] * w[4]);
      change[3] = radius * (before[2] * w[3] + before[3] * w[5] - 1);
      for (int p = 0; p < ShapeEstimate.SIZE; p++) {
        for (int q = 0; q < ShapeEstimate.SIZE; q++) {
          sums[2 + p] += prior.weight(p, q) * change[q];
        }
      }
    }
    equations.solve(sums, step);
    double a = 1 + step[2] / radius;
    double b = step[3] / radius;
    double c = step[4] / radius;
    double d = 1 + step[5] / radius;
    double det = a * d - b * c;
    double m0 = (w[2] * d - w[3] * c) / det;
    double m1 = (w[3] * a - w[2] * b) / det;
    double m2 = (w[4] * d - w[5] * c) / det;
    double m3 = (w[5] * a - w[4] * b) / det;
    double dx = m0 * step[0] + m1 * step[1];
    double dy = m2 * step[0] + m3 * step[1];
    w[0] -= dx;
    w[1] -= dy;
    w[2] = m0;
    w[3] = m1;
    w[4] = m2;
    w[5] = m3;
    return Math.hypot(dx, dy);
  }
}
