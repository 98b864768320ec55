package flarvo.trace;

import boofcv.struct.image.GrayF32;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * A square of a picture that is looked for in others, moved and sheared, brighter or darker: the
 * inverse compositional algorithm (Baker and Matthews, "Lucas–Kanade 20 years on", 2004) with gain
 * and offset of brightness projected out of the steepest descent images. One object is used again
 * for pattern after pattern, and by one thread.
 */
final class Pattern {

  /** Of a warp: place of the centre, and the four numbers of the linear part, row by row. */
  static final int WARP = 6;

  /** Standard deviation of brightness below which there is nothing to follow. */
  private static final double FLAT = 0.7;

  /** Of the linear part's diagonal, so that edges do not shear without end. */
  private static final double STIFFNESS = 1e-3;

  /** One less the square of the best correlation that is believed. */
  private static final double LEAST_ERROR = 1e-3;

  /** How much more than its own share grain is taken to hold. */
  private static final double GRAIN_COUNTS = 3;

  /** Sums of floats wander by less, in pixels. */
  private static final double MARGIN = 0.01;

  /** Sideways steps of a fit end it when they are smaller, in pixels. */
  private static final double STILL = 0.004;

  private final int radius;
  private final int side;
  private final boolean affine;
  private final int parameters;
  private final float[] wide; // with a pixel more on each side, for the gradients
  private final float[] pattern; // of mean zero and length one
  private final float[] descent; // parameter after parameter
  private final double[] inverse;
  private final double[] step;
  private final double[] sums;
  private final DMatrixRMaj hessian;
  private final DMatrixRMaj stiff;
  private final DMatrixRMaj inverted;
  private final LinearSolverDense<DMatrixRMaj> solver;
  private final double[] before = new double[4];
  private double prior;
  private double contrast;
  private double spread;
  private double least;
  private double most;

  /**
   * @param affine whether it may be sheared and scaled, and not only moved
   */
  Pattern(int radius, boolean affine) {
    this.radius = radius;
    this.affine = affine;
    side = 2 * radius + 1;
    parameters = affine ? 6 : 2;
    wide = new float[(side + 2) * (side + 2)];
    pattern = new float[side * side];
    descent = new float[parameters * side * side];
    inverse = new double[parameters * parameters];
    step = new double[parameters];
    sums = new double[parameters];
    hessian = new DMatrixRMaj(parameters, parameters);
    stiff = new DMatrixRMaj(parameters, parameters);
    inverted = new DMatrixRMaj(parameters, parameters);
    solver = LinearSolverFactory_DDRM.symmPosDef(parameters);
  }

  int radius() {
    return radius;
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
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    int reach = radius + 1;
    if (x0 - reach < 0
        || y0 - reach < 0
        || x0 + reach + 1 >= image.width
        || y0 + reach + 1 >= image.height) {
      return false;
    }
    sample(image, x0 - reach, y0 - reach, (float) (x - x0), (float) (y - y0));
    return prepare();
  }

  private void sample(GrayF32 image, int left, int top, float fx, float fy) {
    float a = (1 - fx) * (1 - fy);
    float b = fx * (1 - fy);
    float c = (1 - fx) * fy;
    float d = fx * fy;
    float[] data = image.data;
    int n = side + 2;
    for (int j = 0, k = 0; j < n; j++) {
      int row = image.startIndex + (top + j) * image.stride + left;
      int next = row + image.stride;
      for (int i = 0; i < n; i++, k++) {
        wide[k] =
            a * data[row + i] + b * data[row + i + 1] + c * data[next + i] + d * data[next + i + 1];
      }
    }
  }

  private boolean prepare() {
    int n = side + 2;
    int count = side * side;
    double sum = 0;
    for (int j = 1, k = 0; j <= side; j++) {
      for (int i = 1; i <= side; i++, k++) {
        pattern[k] = wide[j * n + i];
        sum += pattern[k];
      }
    }
    float mean = (float) (sum / count);
    double squares = 0;
    for (int k = 0; k < count; k++) {
      pattern[k] -= mean;
      squares += pattern[k] * pattern[k];
    }
    if (squares < FLAT * FLAT * count) {
      return false;
    }
    float size = (float) Math.sqrt(squares);
    contrast = size;
    float half = 0.5f / size;
    for (int k = 0; k < count; k++) {
      pattern[k] /= size;
    }
    for (int j = 1, k = 0; j <= side; j++) {
      float v = (float) (j - 1 - radius) / radius;
      for (int i = 1; i <= side; i++, k++) {
        int at = j * n + i;
        float gx = half * (wide[at + 1] - wide[at - 1]);
        float gy = half * (wide[at + n] - wide[at - n]);
        descent[k] = gx;
        descent[count + k] = gy;
        if (affine) {
          float u = (float) (i - 1 - radius) / radius;
          descent[2 * count + k] = gx * u;
          descent[3 * count + k] = gx * v;
          descent[4 * count + k] = gy * u;
          descent[5 * count + k] = gy * v;
        }
      }
    }
    project();
    return hold();
  }

  /** What only changes brightness or contrast must not move anything. */
  private void project() {
    int count = side * side;
    for (int p = 0; p < parameters; p++) {
      int from = p * count;
      float sum = 0;
      float along = 0;
      for (int k = 0; k < count; k++) {
        sum += descent[from + k];
        along += descent[from + k] * pattern[k];
      }
      float mean = sum / count;
      for (int k = 0; k < count; k++) {
        descent[from + k] -= mean + along * pattern[k];
      }
    }
  }

  private boolean hold() {
    int count = side * side;
    double largest = 0;
    for (int p = 0; p < parameters; p++) {
      for (int q = p; q < parameters; q++) {
        float dot = 0;
        int a = p * count;
        int b = q * count;
        for (int k = 0; k < count; k++) {
          dot += descent[a + k] * descent[b + k];
        }
        hessian.set(p, q, dot);
        hessian.set(q, p, dot);
      }
      largest = Math.max(largest, hessian.get(p, p));
    }
    double middle = (hessian.get(0, 0) + hessian.get(1, 1)) / 2;
    double root = Math.hypot((hessian.get(0, 0) - hessian.get(1, 1)) / 2, hessian.get(0, 1));
    least = middle - root;
    most = middle + root;
    if (!(least > 0)) {
      return false;
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

  /** With some more on the diagonal: of the linear part, else of the place. */
  private boolean invert(double stiffness) {
    stiff.setTo(hessian);
    for (int p = affine ? 2 : 0; p < parameters; p++) {
      stiff.add(p, p, stiffness);
    }
    if (!solver.setA(stiff)) {
      return false;
    }
    solver.invert(inverted);
    System.arraycopy(inverted.data, 0, inverse, 0, inverse.length);
    return true;
  }

  /**
   * Standard error of the place in its least certain direction that grain alone makes, in pixels;
   * infinite where only grain holds it, as along an edge.
   *
   * @param grain standard deviation of a pixel's brightness, in both pictures
   */
  double errorFromGrain(double grain) {
    double share = grain / contrast;
    // Central differences of grain are gradients too, and hold nothing.
    double held = least - GRAIN_COUNTS * side * side * share * share / 2;
    return held > 0 ? Math.sqrt(2) * share / Math.sqrt(held) : Double.POSITIVE_INFINITY;
  }

  /** Smaller over larger eigenvalue of the structure tensor: 0 along an edge, 1 for a spot. */
  double cornerness() {
    return least / most;
  }

  /** The same from what was left over by a fit. */
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
   * @param changePx standard deviation of the change of shape, in pixels at the pattern's border
   * @return as the other
   */
  double fit(GrayF32 image, double[] warp, int rounds, double error, double changePx) {
    double weight = error * error / (changePx * changePx);
    if (!invert(weight)) {
      return Double.NaN;
    }
    prior = weight;
    double det = warp[2] * warp[5] - warp[3] * warp[4];
    before[0] = warp[5] / det;
    before[1] = -warp[3] / det;
    before[2] = -warp[4] / det;
    before[3] = warp[2] / det;
    double score = fit(image, warp, rounds);
    prior = 0;
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
      if (!(score > 0)) {
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
    return affine ? measureAffine(image, w) : measureMoved(image, w);
  }

  private double measureMoved(GrayF32 image, double[] w) {
    int count = side * side;
    int x0 = (int) Math.floor(w[0]);
    int y0 = (int) Math.floor(w[1]);
    float fx = (float) (w[0] - x0);
    float fy = (float) (w[1] - y0);
    float a = (1 - fx) * (1 - fy);
    float b = fx * (1 - fy);
    float c = (1 - fx) * fy;
    float d = fx * fy;
    float[] data = image.data;
    float sum = 0;
    float squares = 0;
    float cross = 0;
    float sx = 0;
    float sy = 0;
    for (int j = 0, k = 0; j < side; j++) {
      int row = image.startIndex + (y0 - radius + j) * image.stride + x0 - radius;
      int next = row + image.stride;
      for (int i = 0; i < side; i++, k++) {
        float v =
            a * data[row + i] + b * data[row + i + 1] + c * data[next + i] + d * data[next + i + 1];
        sum += v;
        squares += v * v;
        cross += v * pattern[k];
        sx += v * descent[k];
        sy += v * descent[count + k];
      }
    }
    sums[0] = sx / cross;
    sums[1] = sy / cross;
    return correlation(sum, squares, cross);
  }

  private double measureAffine(GrayF32 image, double[] w) {
    int count = side * side;
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
    for (int j = 0, k = 0; j < side; j++) {
      double v = j - radius;
      float x = (float) (w[0] - radius * w[2] + v * w[3]);
      float y = (float) (w[1] - radius * w[4] + v * w[5]);
      for (int i = 0; i < side; i++, k++) {
        int xi = (int) x;
        int yi = (int) y;
        float fx = x - xi;
        float fy = y - yi;
        int at = image.startIndex + yi * image.stride + xi;
        float top = data[at] + fx * (data[at + 1] - data[at]);
        at += image.stride;
        float low = data[at] + fx * (data[at + 1] - data[at]);
        float value = top + fy * (low - top);
        sum += value;
        squares += value * value;
        cross += value * pattern[k];
        s0 += value * descent[k];
        s1 += value * descent[count + k];
        s2 += value * descent[2 * count + k];
        s3 += value * descent[3 * count + k];
        s4 += value * descent[4 * count + k];
        s5 += value * descent[5 * count + k];
        x += (float) w[2];
        y += (float) w[4];
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
    return spread > 0.25 * FLAT * FLAT * side * side ? cross / Math.sqrt(spread) : Double.NaN;
  }

  /** One step of the inverse compositional algorithm; how far the centre moved, in pixels. */
  private double compose(double[] w) {
    if (prior > 0) {
      sums[2] += prior * radius * (before[0] * w[2] + before[1] * w[4] - 1);
      sums[3] += prior * radius * (before[0] * w[3] + before[1] * w[5]);
      sums[4] += prior * radius * (before[2] * w[2] + before[3] * w[4]);
      sums[5] += prior * radius * (before[2] * w[3] + before[3] * w[5] - 1);
    }
    for (int p = 0; p < parameters; p++) {
      double s = 0;
      for (int q = 0; q < parameters; q++) {
        s += inverse[p * parameters + q] * sums[q];
      }
      step[p] = s;
    }
    if (!affine) {
      w[0] -= step[0];
      w[1] -= step[1];
      return Math.hypot(step[0], step[1]);
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
