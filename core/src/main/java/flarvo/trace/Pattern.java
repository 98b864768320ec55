package flarvo.trace;

import boofcv.struct.image.GrayF32;
import java.util.Arrays;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

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

  /** Of the linear part's diagonal, so that edges do not shear without end. */
  private static final double STIFFNESS = 1e-3;

  /** One less the square of the best correlation that is believed. */
  private static final double LEAST_ERROR = 1e-3;

  /** Sums of floats wander by less, in pixels. */
  static final double MARGIN = 0.01;

  /** Sideways steps of a fit end it when they are smaller, in pixels. */
  private static final double STILL = 0.008;

  /** A fit whose correlation is lower after the first rounds is given up. */
  private static final double HOPELESS = 0.4;

  private static final int FIRST_ROUNDS = 2;

  private static final int PARAMETERS = 6;

  private final int radius;
  private final int side;
  private final PatternImages images;
  private final float[] pattern;
  private final float[] across;
  private final float[] down;
  private final float[] soft0; // blur across, down, and mixed
  private final float[] soft1;
  private final float[] soft2;

  // What of each parameter's steepest descent image is but a change of brightness, contrast, blur.
  private final double[] brightness = new double[PARAMETERS];
  private final double[] along = new double[PARAMETERS];
  private final double[][] softening = new double[PatternImages.BLURS][PARAMETERS];
  private final double[] inverse = new double[PARAMETERS * PARAMETERS];
  private final double[] step = new double[PARAMETERS];
  private final double[] sums = new double[PARAMETERS];
  private final DMatrixRMaj hessian = new DMatrixRMaj(PARAMETERS, PARAMETERS);
  private final DMatrixRMaj stiff = new DMatrixRMaj(PARAMETERS, PARAMETERS);
  private final DMatrixRMaj inverted = new DMatrixRMaj(PARAMETERS, PARAMETERS);
  private final LinearSolverDense<DMatrixRMaj> solver =
      LinearSolverFactory_DDRM.symmPosDef(PARAMETERS);
  private final double[] before = new double[4];
  private final double[] change = new double[ShapeEstimate.SIZE];
  private ShapeEstimate prior; // null where nothing is known before
  private double spread;

  Pattern(int radius) {
    this.radius = radius;
    side = 2 * radius + 1;
    images = new PatternImages(radius);
    pattern = images.pattern;
    across = images.across;
    down = images.down;
    soft0 = images.softer[0];
    soft1 = images.softer[1];
    soft2 = images.softer[2];
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
    if (!images.take(image, x, y)) {
      return false;
    }
    project();
    return hold();
  }

  /**
   * What only changes brightness, contrast or blur must not move anything. The steepest descent
   * images are the gradients, those times u, and those times v, where u and v go from −1 to 1 over
   * the square.
   */
  private void project() {
    Arrays.fill(brightness, 0);
    Arrays.fill(along, 0);
    for (int j = 0, k = 0; j < side; j++) {
      float x = 0;
      float y = 0;
      float xu = 0;
      float yu = 0;
      float px = 0;
      float py = 0;
      float pxu = 0;
      float pyu = 0;
      for (int i = 0; i < side; i++, k++) {
        float u = (float) (i - radius) / radius;
        float gx = across[k];
        float gy = down[k];
        float p = pattern[k];
        x += gx;
        y += gy;
        xu = Math.fma(gx, u, xu);
        yu = Math.fma(gy, u, yu);
        px = Math.fma(gx, p, px);
        py = Math.fma(gy, p, py);
        pxu = Math.fma(gx * u, p, pxu);
        pyu = Math.fma(gy * u, p, pyu);
      }
      double v = (double) (j - radius) / radius;
      add(brightness, x, y, xu, yu, v);
      add(along, px, py, pxu, pyu, v);
    }
    for (int p = 0; p < PARAMETERS; p++) {
      brightness[p] /= side * side;
    }
    for (int b = 0; b < PatternImages.BLURS; b++) {
      project(images.softer[b], softening[b]);
    }
  }

  /** What of each parameter's steepest descent image is one more image. */
  private void project(float[] image, double[] to) {
    Arrays.fill(to, 0);
    for (int j = 0, k = 0; j < side; j++) {
      float x = 0;
      float y = 0;
      float xu = 0;
      float yu = 0;
      for (int i = 0; i < side; i++, k++) {
        float u = (float) (i - radius) / radius;
        float gx = across[k] * image[k];
        float gy = down[k] * image[k];
        x += gx;
        y += gy;
        xu = Math.fma(gx, u, xu);
        yu = Math.fma(gy, u, yu);
      }
      add(to, x, y, xu, yu, (double) (j - radius) / radius);
    }
  }

  /** A row's sums of the gradients, and of those times u, to those of the parameters. */
  private static void add(double[] to, double x, double y, double xu, double yu, double v) {
    to[0] += x;
    to[1] += y;
    to[2] += xu;
    to[3] += x * v;
    to[4] += yu;
    to[5] += y * v;
  }

  private boolean hold() {
    int count = side * side;
    hessian.zero();
    for (int j = 0, k = 0; j < side; j++) {
      float xx = 0;
      float xy = 0;
      float yy = 0;
      float xxu = 0;
      float xyu = 0;
      float yyu = 0;
      float xxuu = 0;
      float xyuu = 0;
      float yyuu = 0;
      for (int i = 0; i < side; i++, k++) {
        float u = (float) (i - radius) / radius;
        float gx = across[k];
        float gy = down[k];
        float gxu = gx * u;
        float gyu = gy * u;
        xx = Math.fma(gx, gx, xx);
        xy = Math.fma(gx, gy, xy);
        yy = Math.fma(gy, gy, yy);
        xxu = Math.fma(gx, gxu, xxu);
        xyu = Math.fma(gx, gyu, xyu);
        yyu = Math.fma(gy, gyu, yyu);
        xxuu = Math.fma(gxu, gxu, xxuu);
        xyuu = Math.fma(gxu, gyu, xyuu);
        yyuu = Math.fma(gyu, gyu, yyuu);
      }
      double v = (double) (j - radius) / radius;
      addBlock(0, 0, xx, xxu, xxuu, v);
      addBlock(0, 1, xy, xyu, xyuu, v);
      addBlock(1, 1, yy, yyu, yyuu, v);
    }
    double largest = 0;
    for (int p = 0; p < PARAMETERS; p++) {
      for (int q = p; q < PARAMETERS; q++) {
        double h =
            hessian.get(p, q)
                - count * brightness[p] * brightness[q]
                - along[p] * along[q]
                - softening[0][p] * softening[0][q]
                - softening[1][p] * softening[1][q]
                - softening[2][p] * softening[2][q];
        hessian.set(p, q, h);
        hessian.set(q, p, h);
      }
      largest = Math.max(largest, hessian.get(p, p));
    }
    if (!invert(STIFFNESS * largest)) {
      return false;
    }
    double a = inverted.get(0, 0);
    double b = inverted.get(0, 1);
    double c = inverted.get(1, 1);
    spread = Math.sqrt((a + c) / 2 + Math.hypot((a - c) / 2, b));
    return true;
  }

  /**
   * A row's sums of the products of two gradients.
   *
   * @param g 0 for the gradient across, 1 down; the first is not below the other
   * @param u sum of the products times u
   */
  private void addBlock(int g, int h, double plain, double u, double uu, double v) {
    int gu = 2 + 2 * g;
    int hu = 2 + 2 * h;
    hessian.add(g, h, plain);
    hessian.add(g, hu, u);
    hessian.add(g, hu + 1, plain * v);
    hessian.add(gu, hu, uu);
    hessian.add(gu, hu + 1, u * v);
    hessian.add(gu + 1, hu + 1, plain * v * v);
    if (g != h) {
      hessian.add(h, gu, u);
      hessian.add(h, gu + 1, plain * v);
      hessian.add(gu + 1, hu, u * v);
    }
  }

  /** With some more on the diagonal of the linear part. */
  private boolean invert(double stiffness) {
    stiff.setTo(hessian);
    for (int p = 2; p < PARAMETERS; p++) {
      stiff.add(p, p, stiffness);
    }
    return invert();
  }

  /** With what is known of the shape. */
  private boolean invert(ShapeEstimate shape) {
    stiff.setTo(hessian);
    for (int p = 0; p < ShapeEstimate.SIZE; p++) {
      for (int q = 0; q < ShapeEstimate.SIZE; q++) {
        stiff.add(2 + p, 2 + q, shape.weight(p, q));
      }
    }
    return invert();
  }

  private boolean invert() {
    if (!solver.setA(stiff)) {
      return false;
    }
    solver.invert(inverted);
    System.arraycopy(inverted.data, 0, inverse, 0, inverse.length);
    return true;
  }

  /**
   * Standard error of the place in its least certain direction by what was left over by a fit, in
   * pixels.
   */
  double errorFromFit(double score) {
    return Math.sqrt(Math.max(0, 1 - score * score)) / side * spread;
  }

  /**
   * Moves a pattern that may be sheared to where it fits best. Its shape is known from the frame
   * before, and changes little by little: without that, what lies beside the centre could pass a
   * change of size for a move.
   *
   * @param warp is changed; its linear part is the shape that is known
   * @param error of a pixel, in the pattern's units, as {@link #error} gives it
   * @param shape how well it is known; is carried on to what it is known by after the fit
   * @param changePx standard deviation of the change of shape, in pixels at the pattern's border
   * @return as the other
   */
  double fit(
      GrayF32 image,
      double[] warp,
      int rounds,
      double error,
      ShapeEstimate shape,
      double changePx) {
    if (!shape.predict(changePx, error) || !invert(shape)) {
      return Double.NaN;
    }
    prior = shape;
    double det = warp[2] * warp[5] - warp[3] * warp[4];
    before[0] = warp[5] / det;
    before[1] = -warp[3] / det;
    before[2] = -warp[4] / det;
    before[3] = warp[2] / det;
    double score = fit(image, warp, rounds);
    prior = null;
    shape.update(inverse, PARAMETERS, 2);
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
    double r = radius;
    double reachX = r * (Math.abs(w[2]) + Math.abs(w[3]));
    double reachY = r * (Math.abs(w[4]) + Math.abs(w[5]));
    if (!(w[0] - reachX >= MARGIN
        && w[1] - reachY >= MARGIN
        && w[0] + reachX < image.width - 1 - MARGIN
        && w[1] + reachY < image.height - 1 - MARGIN)) {
      return Double.NaN;
    }
    float[] data = image.data;
    float sum = 0;
    float squares = 0;
    float cross = 0;
    float blur0 = 0;
    float blur1 = 0;
    float blur2 = 0;
    float s2 = 0;
    float s4 = 0;
    double s0 = 0;
    double s1 = 0;
    double s3 = 0;
    double s5 = 0;
    float stepX = (float) w[2];
    float stepY = (float) w[4];
    float stepU = 1f / radius;
    for (int j = 0, k = 0; j < side; j++) {
      double v = j - radius;
      float x = (float) (w[0] - radius * w[2] + v * w[3]);
      float y = (float) (w[1] - radius * w[4] + v * w[5]);
      float u = -1;
      float rowX = 0;
      float rowY = 0;
      for (int i = 0; i < side; i++, k++) {
        int xi = (int) x;
        int yi = (int) y;
        float fx = x - xi;
        int at = image.startIndex + yi * image.stride + xi;
        float high = Math.fma(fx, data[at + 1] - data[at], data[at]);
        at += image.stride;
        float low = Math.fma(fx, data[at + 1] - data[at], data[at]);
        float value = Math.fma(y - yi, low - high, high);
        float byX = value * across[k];
        float byY = value * down[k];
        sum += value;
        squares = Math.fma(value, value, squares);
        cross = Math.fma(value, pattern[k], cross);
        blur0 = Math.fma(value, soft0[k], blur0);
        blur1 = Math.fma(value, soft1[k], blur1);
        blur2 = Math.fma(value, soft2[k], blur2);
        rowX += byX;
        rowY += byY;
        s2 = Math.fma(byX, u, s2);
        s4 = Math.fma(byY, u, s4);
        x += stepX;
        y += stepY;
        u += stepU;
      }
      s0 += rowX;
      s1 += rowY;
      s3 += v * rowX;
      s5 += v * rowY;
    }
    sums[0] = s0;
    sums[1] = s1;
    sums[2] = s2;
    sums[3] = s3 / radius;
    sums[4] = s4;
    sums[5] = s5 / radius;
    for (int p = 0; p < PARAMETERS; p++) {
      double blurred = softening[0][p] * blur0 + softening[1][p] * blur1 + softening[2][p] * blur2;
      sums[p] = (sums[p] - brightness[p] * sum - blurred) / cross - along[p];
    }
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
    for (int p = 0; p < PARAMETERS; p++) {
      double s = 0;
      for (int q = 0; q < PARAMETERS; q++) {
        s += inverse[p * PARAMETERS + q] * sums[q];
      }
      step[p] = s;
    }
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
