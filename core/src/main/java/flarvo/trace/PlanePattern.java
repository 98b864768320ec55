package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.scene.Luma;
import java.util.Arrays;
import java.util.Map;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.CommonOps_DDRM;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * What a flat part of a picture looks like, to be found in other frames as a whole: the inverse
 * compositional algorithm (Baker and Matthews, "Lucas–Kanade 20 years on", 2004) for a homography,
 * with gain and offset of brightness and with weights, so that what passes before it counts for
 * little. In cells: one whose pattern is not there counts for nothing in the last steps.
 *
 * <p>A homography here maps places of the frame that the pattern was taken from to places of
 * another, centres of pixels at whole numbers.
 */
final class PlanePattern {

  private static final int MOST_SAMPLES = 60_000;
  private static final int PARAMETERS = 8;
  private static final int AFFINE = 6;
  private static final int ROUNDS = 20;
  private static final double SETTLED_PX = 0.005;

  /** Brightness in which nothing differs shows nothing, of 255. */
  private static final double FLAT = 1.2;

  /** Samples that may hold a plane. */
  private static final int FEWEST = 48;

  /** What differs by more from the pattern is something else, of 255. */
  private static final double OTHER = 16;

  private static final double[] ONE = {1, 0};

  private static final int ASKED_FOR_SPREAD = 3000;

  /** What a fit leaves over is alike from pixel to pixel: its errors are larger by so much. */
  private static final double UNDERSTATED = 2;

  /** Median absolute deviation to standard deviation. */
  private static final double MAD = 1.4826;

  private final Quad quad;
  private final double cx;
  private final double cy;
  private final double size; // half of the larger side; parameters are in units of it
  private final Level[] levels;
  private final PlaneCells cells;
  private final DMatrixRMaj information =
      new DMatrixRMaj(PARAMETERS, PARAMETERS); // of the last fit
  private double variance; // of a sample, in the last fit
  private final LinearSolverDense<DMatrixRMaj> solver =
      LinearSolverFactory_DDRM.symmPosDef(PARAMETERS);

  /** One level's samples. */
  private record Level(
      double scale, int n, float[] x, float[] y, float[] value, float[] descent, int[] cell) {}

  /**
   * How a fit went.
   *
   * @param seen share of the cells that show the pattern
   * @param score mean correlation of these cells with it
   * @param cells that are seen, or show nothing
   * @param covariance of the corners in the frame, x and y of each in order, square pixels; null
   *     where it is not known
   */
  record Fit(Homography map, double seen, double score, boolean[] cells, double[] covariance) {}

  private PlanePattern(
      Quad quad, double cx, double cy, double size, Level[] levels, PlaneCells cells) {
    this.quad = quad;
    this.cx = cx;
    this.cy = cy;
    this.size = size;
    this.levels = levels;
    this.cells = cells;
  }

  /** The corners in the frame that it was taken from. */
  Quad quad() {
    return quad;
  }

  /** Takes a pattern; null where there is nothing to follow. */
  static PlanePattern of(Levels frame, Quad quad) {
    double left = Double.POSITIVE_INFINITY;
    double right = Double.NEGATIVE_INFINITY;
    double top = Double.POSITIVE_INFINITY;
    double bottom = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < Quad.CORNERS; i++) {
      left = Math.min(left, quad.x(i));
      right = Math.max(right, quad.x(i));
      top = Math.min(top, quad.y(i));
      bottom = Math.max(bottom, quad.y(i));
    }
    double size = Math.max(right - left, bottom - top) / 2;
    double cx = (left + right) / 2;
    double cy = (top + bottom) / 2;
    PlaneCells cells =
        new PlaneCells(left, right, top, bottom, Math.min(quad.area(), MOST_SAMPLES));
    Level[] levels = new Level[frame.count()];
    int n = 0;
    for (int k = 0; k < frame.count(); k++) {
      Level l =
          level(
              frame.at().get(k),
              1 << k,
              quad,
              new double[] {left, right, top, bottom},
              cx,
              cy,
              size,
              cells);
      if (l == null) {
        break;
      }
      levels[n++] = l;
    }
    return n == 0 ? null : new PlanePattern(quad, cx, cy, size, Arrays.copyOf(levels, n), cells);
  }

  private static Level level(
      GrayF32 image,
      double scale,
      Quad quad,
      double[] box,
      double cx,
      double cy,
      double size,
      PlaneCells cells) {
    double area = quad.area() / (scale * scale);
    int step = Math.max(1, (int) Math.ceil(Math.sqrt(area / MOST_SAMPLES)));
    int most = (int) (area / (step * step) * 1.3) + 64;
    float[] x = new float[most];
    float[] y = new float[most];
    float[] value = new float[most];
    float[] descent = new float[PARAMETERS * most];
    int[] cell = new int[most];
    int n = 0;
    int x0 = (int) Math.ceil(Math.max(1, box[0] / scale));
    int x1 = (int) Math.floor(Math.min(image.width - 2.0, box[1] / scale));
    int y0 = (int) Math.ceil(Math.max(1, box[2] / scale));
    int y1 = (int) Math.floor(Math.min(image.height - 2.0, box[3] / scale));
    double sum = 0;
    double squares = 0;
    for (int py = y0; py <= y1; py += step) {
      for (int px = x0; px <= x1 && n < most; px += step) {
        if (!inside(quad, px * scale, py * scale)) {
          continue;
        }
        int at = image.startIndex + py * image.stride + px;
        double v = image.data[at];
        double gx = (image.data[at + 1] - image.data[at - 1]) / 2 * size / scale;
        double gy =
            (image.data[at + image.stride] - image.data[at - image.stride]) / 2 * size / scale;
        double u = (px * scale - cx) / size;
        double w = (py * scale - cy) / size;
        x[n] = (float) u;
        y[n] = (float) w;
        value[n] = (float) v;
        int d = PARAMETERS * n;
        descent[d] = (float) gx;
        descent[d + 1] = (float) gy;
        descent[d + 2] = (float) (gx * u);
        descent[d + 3] = (float) (gx * w);
        descent[d + 4] = (float) (gy * u);
        descent[d + 5] = (float) (gy * w);
        descent[d + 6] = (float) (-u * (gx * u + gy * w));
        descent[d + 7] = (float) (-w * (gx * u + gy * w));
        cell[n] = cells.at(px * scale, py * scale);
        sum += v;
        squares += v * v;
        n++;
      }
    }
    boolean flat = n < FEWEST || squares / n - sum / n * sum / n < FLAT * FLAT;
    return flat ? null : new Level(scale, n, x, y, value, descent, cell);
  }

  private static boolean inside(Quad q, double x, double y) {
    boolean in = false;
    for (int i = 0, j = Quad.CORNERS - 1; i < Quad.CORNERS; j = i++) {
      if (q.y(i) > y != q.y(j) > y
          && x < q.x(i) + (y - q.y(i)) / (q.y(j) - q.y(i)) * (q.x(j) - q.x(i))) {
        in = !in;
      }
    }
    return in;
  }

  /**
   * Finds the pattern in a frame from a guess, from a small picture to the large one.
   *
   * @param top level to begin with; the smaller the picture, the farther the guess may be off, and
   *     the more harm does what hides a part
   */
  Fit find(Levels frame, Homography guess, int top) {
    Homography h = guess;
    boolean[] seen = new boolean[cells.count()];
    for (int k = Math.min(top, Math.min(levels.length, frame.count()) - 1); k >= 0; k--) {
      GrayF32 image = frame.at().get(k);
      boolean told = k == 0 && top > 0 && levels.length > 1;
      h = fit(levels[k], image, h, k > 1 ? AFFINE : PARAMETERS, told ? seen : null);
      if (k <= 1) {
        look(levels[k], image, h, seen);
        h = fit(levels[k], image, h, PARAMETERS, seen);
      }
    }
    double[] told = look(levels[0], frame.whole(), h, seen);
    return new Fit(h, told[0], told[1], seen, covariance(h));
  }

  /** Of the corners where the pattern is, by the last fit. */
  private double[] covariance(Homography h) {
    Homography n = normalised(h);
    DMatrixRMaj corners = new DMatrixRMaj(2 * Quad.CORNERS, PARAMETERS);
    for (int c = 0; c < Quad.CORNERS; c++) {
      double u = (quad.x(c) - cx) / size;
      double v = (quad.y(c) - cy) / size;
      double[] slopes = n.slopes(u, v);
      double[][] moves = {
        {1, 0, u, v, 0, 0, -u * u, -u * v}, {0, 1, 0, 0, u, v, -u * v, -v * v},
      };
      for (int p = 0; p < PARAMETERS; p++) {
        corners.set(2 * c, p, slopes[0] * moves[0][p] + slopes[1] * moves[1][p]);
        corners.set(2 * c + 1, p, slopes[2] * moves[0][p] + slopes[3] * moves[1][p]);
      }
    }
    DMatrixRMaj own = information.copy();
    if (!(variance > 0) || !CommonOps_DDRM.invert(own)) {
      return null;
    }
    CommonOps_DDRM.scale(UNDERSTATED * UNDERSTATED * variance, own);
    DMatrixRMaj half = new DMatrixRMaj(2 * Quad.CORNERS, PARAMETERS);
    CommonOps_DDRM.mult(corners, own, half);
    DMatrixRMaj out = new DMatrixRMaj(2 * Quad.CORNERS, 2 * Quad.CORNERS);
    CommonOps_DDRM.multTransB(half, corners, out);
    return out.data;
  }

  /**
   * The pattern without most of its grain: the mean of what it looks like in several frames.
   *
   * @param own the frame that it was taken from
   * @param others frames, and where it is in each
   */
  PlanePattern averaged(Levels own, Map<Levels, Fit> others) {
    Level l = levels[0];
    float[] sum = l.value.clone();
    int[] count = new int[l.n];
    Arrays.fill(count, 1);
    float[] now = new float[l.n];
    others.forEach(
        (frame, fit) -> {
          sample(l, frame.whole(), normalised(fit.map), now, fit.cells);
          double[] light = light(l, now, new double[l.n], Double.POSITIVE_INFINITY, ONE);
          for (int i = 0; i < l.n; i++) {
            double v = (now[i] - light[1]) / light[0];
            if (Math.abs(v - l.value[i]) < OTHER) { // neither hidden nor outside
              sum[i] += (float) v;
              count[i]++;
            }
          }
        });
    GrayF32 image = own.whole();
    float[] mean = new float[image.width * image.height];
    for (int y = 0; y < image.height; y++) {
      System.arraycopy(
          image.data, image.startIndex + y * image.stride, mean, y * image.width, image.width);
    }
    for (int i = 0; i < l.n; i++) {
      int px = (int) Math.round(l.x[i] * size + cx);
      int py = (int) Math.round(l.y[i] * size + cy);
      mean[py * image.width + px] = sum[i] / count[i];
    }
    PlanePattern out = of(Levels.of(own.frame(), new Luma(image.width, image.height, mean)), quad);
    return out == null ? this : out;
  }

  /** From normalised places of the pattern's frame to places of another. */
  private Homography normalised(Homography h) {
    return h.after(new Homography(new double[] {size, 0, cx, 0, size, cy, 0, 0, 1}));
  }

  private Homography fit(Level l, GrayF32 image, Homography guess, int parameters, boolean[] seen) {
    Homography h = normalised(guess);
    float[] now = new float[l.n];
    double[] error = new double[l.n];
    double[] sorted = new double[l.n];
    DMatrixRMaj normal = new DMatrixRMaj(parameters, parameters);
    DMatrixRMaj right = new DMatrixRMaj(parameters, 1);
    DMatrixRMaj step = new DMatrixRMaj(parameters, 1);
    double[] light = ONE;
    double sigma = Double.POSITIVE_INFINITY;
    for (int round = 0; round < ROUNDS; round++) {
      int there = sample(l, image, h, now, seen);
      if (there < FEWEST) {
        return guess;
      }
      light = light(l, now, error, round == 0 ? Double.POSITIVE_INFINITY : sigma, light);
      int n = 0;
      int every = 1 + l.n / ASKED_FOR_SPREAD;
      for (int i = 0; i < l.n; i++) {
        if (!Float.isNaN(now[i])) {
          error[i] = (now[i] - light[1]) / light[0] - l.value[i];
          if (i % every == 0) {
            sorted[n++] = Math.abs(error[i]);
          }
        }
      }
      Arrays.sort(sorted, 0, n);
      sigma = Math.max(0.5, MAD * (n == 0 ? 0 : sorted[n / 2]));
      normal.zero();
      right.zero();
      double k = 1 / (4 * sigma * sigma);
      for (int i = 0; i < l.n; i++) {
        if (Float.isNaN(now[i])) {
          continue;
        }
        double w = 1 + error[i] * error[i] * k;
        w = 1 / (w * w); // Geman and McClure
        int d = PARAMETERS * i;
        for (int a = 0; a < parameters; a++) {
          double da = w * l.descent[d + a];
          right.data[a] += da * error[i];
          for (int b = a; b < parameters; b++) {
            normal.data[a * parameters + b] += da * l.descent[d + b];
          }
        }
      }
      for (int a = 0; a < parameters; a++) {
        for (int b = 0; b < a; b++) {
          normal.data[a * parameters + b] = normal.data[b * parameters + a];
        }
        normal.data[a * parameters + a] *= 1 + 1e-9;
      }
      variance = parameters == PARAMETERS ? sigma * sigma : 0;
      information.setTo(normal);
      if (!solver.setA(normal)) {
        return guess;
      }
      solver.solve(right, step);
      double[] p = Arrays.copyOf(step.data, PARAMETERS);
      Homography w =
          new Homography(new double[] {1 + p[2], p[3], p[0], p[4], 1 + p[5], p[1], p[6], p[7], 1});
      Homography next = h.after(w.inverse());
      double moved = 0;
      for (int c = 0; c < Quad.CORNERS; c++) {
        double u = (quad.x(c) - cx) / size;
        double v = (quad.y(c) - cy) / size;
        moved = Math.max(moved, Math.hypot(next.x(u, v) - h.x(u, v), next.y(u, v) - h.y(u, v)));
      }
      if (!(moved < 4 * size)) {
        return guess; // ran away
      }
      h = next;
      if (moved < SETTLED_PX * l.scale) {
        break;
      }
    }
    return h.after(
        new Homography(new double[] {1 / size, 0, -cx / size, 0, 1 / size, -cy / size, 0, 0, 1}));
  }

  /** Brightness where the samples are; NaN outside the picture and in cells that are not seen. */
  private static int sample(Level l, GrayF32 image, Homography h, float[] now, boolean[] seen) {
    int n = 0;
    for (int i = 0; i < l.n; i++) {
      double x = h.x(l.x[i], l.y[i]) / l.scale;
      double y = h.y(l.x[i], l.y[i]) / l.scale;
      boolean there =
          (seen == null || seen[l.cell[i]])
              && x >= 1
              && y >= 1
              && x < image.width - 2
              && y < image.height - 2;
      now[i] = there ? cubic(image, x, y) : Float.NaN;
      n += there ? 1 : 0;
    }
    return n;
  }

  /** Catmull and Rom's cubic, whose slopes are those that the gradients have. */
  private static float cubic(GrayF32 image, double x, double y) {
    int ix = (int) x;
    int iy = (int) y;
    double fx = x - ix;
    double fy = y - iy;
    double sum = 0;
    for (int r = -1; r <= 2; r++) {
      int at = image.startIndex + (iy + r) * image.stride + ix;
      double row =
          weight(fx, -1) * image.data[at - 1]
              + weight(fx, 0) * image.data[at]
              + weight(fx, 1) * image.data[at + 1]
              + weight(fx, 2) * image.data[at + 2];
      sum += weight(fy, r) * row;
    }
    return (float) sum;
  }

  private static double weight(double t, int tap) {
    return switch (tap) {
      case -1 -> ((-0.5 * t + 1) * t - 0.5) * t;
      case 0 -> (1.5 * t - 2.5) * t * t + 1;
      case 1 -> ((-1.5 * t + 2) * t + 0.5) * t;
      default -> (0.5 * t - 0.5) * t * t;
    };
  }

  /** Gain and offset of the brightness, by what fitted the time before. */
  private static double[] light(
      Level l, float[] now, double[] error, double sigma, double[] before) {
    double k = Double.isInfinite(sigma) ? 0 : 1 / (4 * sigma * sigma);
    double sw = 0;
    double sx = 0;
    double sy = 0;
    double sxx = 0;
    double sxy = 0;
    for (int i = 0; i < l.n; i++) {
      if (Float.isNaN(now[i])) {
        continue;
      }
      double w = 1 + error[i] * error[i] * k;
      w = k == 0 ? 1 : 1 / (w * w);
      sw += w;
      sx += w * l.value[i];
      sy += w * now[i];
      sxx += w * l.value[i] * l.value[i];
      sxy += w * l.value[i] * now[i];
    }
    double det = sw * sxx - sx * sx;
    double gain = det > 0 ? (sw * sxy - sx * sy) / det : 1;
    // What passes before it must not turn the pattern into its negative.
    return gain > 0.2 && gain < 5 ? new double[] {gain, (sy - gain * sx) / sw} : before;
  }

  /** As {@link PlaneCells#look} has it. */
  private double[] look(Level l, GrayF32 image, Homography map, boolean[] seen) {
    float[] now = new float[l.n];
    sample(l, image, normalised(map), now, null);
    return cells.look(l.cell, l.value, now, seen);
  }
}
