package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.lens.Lens;
import flarvo.lens.LensMapper;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.ejml.data.DMatrixRMaj;
import org.ejml.dense.row.factory.LinearSolverFactory_DDRM;
import org.ejml.interfaces.linsol.LinearSolverDense;

/**
 * Rotation of a camera between two pictures, measured on the pictures as a whole: the rotation
 * under which they agree best, by Gauss and Newton's method from the smallest pictures to larger
 * ones. Brightness and contrast are free. Parallax is not modelled.
 */
final class PictureTurn {

  /** A picture as large as this is large enough, in pixels across. */
  private static final int LARGEST = 320;

  private static final int ROUNDS = 20;

  /** Steps that move the picture by less end the search, in pixels of the level. */
  private static final double STILL = 0.01;

  /** Share of the picture that both have to show. */
  private static final double LEAST_SHARED = 0.25;

  private static final int TURN = 3;
  private static final int PARAMETERS = TURN + 2; // and contrast and brightness

  /**
   * What was found.
   *
   * @param turn takes directions in the first camera to directions in the second
   * @param correlation of what both pictures show then, −1 to 1
   */
  record Found(Rotation turn, double correlation) {}

  private final Levels from;
  private final Levels to;
  private final PixelIntrinsics first;
  private final PixelIntrinsics second;
  private final Optional<LensMapper> firstLens;
  private final Optional<LensMapper> secondLens;
  private final double[] point = new double[2];
  private final double[] row = new double[PARAMETERS];
  private final DMatrixRMaj normal = new DMatrixRMaj(PARAMETERS, PARAMETERS);
  private final DMatrixRMaj right = new DMatrixRMaj(PARAMETERS, 1);
  private final DMatrixRMaj step = new DMatrixRMaj(PARAMETERS, 1);
  private final LinearSolverDense<DMatrixRMaj> solver =
      LinearSolverFactory_DDRM.symmPosDef(PARAMETERS);

  /**
   * A picture and how it was taken.
   *
   * @param size of the picture; all of it is what the film back holds
   * @param lens of an original plate; empty for an undistorted one
   */
  record View(Levels picture, PictureSize size, Optics optics, Optional<Lens> lens) {}

  private PictureTurn(View a, View b) {
    from = a.picture();
    to = b.picture();
    first = PixelIntrinsics.of(a.optics(), a.size());
    second = PixelIntrinsics.of(b.optics(), b.size());
    firstLens = a.lens().map(l -> l.on(a.size()));
    secondLens = b.lens().map(l -> l.on(b.size()));
  }

  /**
   * The turn from one picture to another of the same size.
   *
   * @param guesses to start from, besides the shift of the picture as a whole
   */
  static Found between(View a, View b, List<Rotation> guesses) {
    return new PictureTurn(a, b).found(guesses);
  }

  private Found found(List<Rotation> guesses) {
    List<Rotation> starts = new ArrayList<>(guesses);
    starts.add(shifted());
    int level = from.count() - 1;
    Found f = new Found(Rotation.IDENTITY, -1);
    for (Rotation start : starts) {
      Found other = found(level, start);
      f = other.correlation() > f.correlation() ? other : f;
    }
    while (level > 0 && from.at().get(level).width < LARGEST) {
      f = found(--level, f.turn());
    }
    return f;
  }

  private Rotation shifted() {
    GlobalShift.Shift s = GlobalShift.between(from, to);
    GrayF32 whole = from.whole();
    double x = (whole.width - s.dx()) / 2;
    double y = (whole.height - s.dy()) / 2;
    return Rotation.between(
        ray(first, firstLens, x, y), ray(second, secondLens, x + s.dx(), y + s.dy()));
  }

  /** Direction of a pixel of a plate in its camera, which looks along −z. */
  private Vec3 ray(PixelIntrinsics k, Optional<LensMapper> lens, double x, double y) {
    point[0] = x;
    point[1] = y;
    if (lens.isPresent() && !lens.get().toUndistorted(x, y, point)) {
      return new Vec3(Double.NaN, Double.NaN, Double.NaN);
    }
    return new Vec3((point[0] - k.cx()) / k.fx(), (k.cy() - point[1]) / k.fy(), -1);
  }

  private Found found(int level, Rotation start) {
    GrayF32 a = from.at().get(level);
    double size = 1 << level;
    Vec3[] rays = new Vec3[a.width * a.height];
    for (int y = 0, k = 0; y < a.height; y++) {
      for (int x = 0; x < a.width; x++, k++) {
        rays[k] = ray(first, firstLens, size * x + 0.5, size * y + 0.5);
      }
    }
    Rotation turn = start;
    double score = -1;
    for (int round = 0; round < ROUNDS; round++) {
      score = measure(level, rays, turn);
      if (Double.isNaN(score) || !solver.setA(normal)) {
        return new Found(start, -1);
      }
      solver.solve(right, step);
      // The turn comes multiplied with the contrast.
      Vec3 by = new Vec3(step.get(0), step.get(1), step.get(2)).times(1 / step.get(TURN));
      double angle = by.length();
      if (!(step.get(TURN) > 0 && angle < 1)) {
        return new Found(start, -1);
      }
      turn = angle > 0 ? Rotation.about(by, angle).after(turn) : turn;
      if (angle * second.fx() / size < STILL) {
        break;
      }
    }
    return new Found(turn, score);
  }

  /** Correlation of what both pictures show under a turn; leaves the normal equations of a step. */
  private double measure(int level, Vec3[] rays, Rotation turn) {
    GrayF32 a = from.at().get(level);
    GrayF32 b = to.at().get(level);
    double size = 1 << level;
    double[] m = turn.toRows();
    double sa = 0;
    double sb = 0;
    double aa = 0;
    double ab = 0;
    double bb = 0;
    int n = 0;
    normal.zero();
    right.zero();
    for (int y = 0, k = 0; y < a.height; y++) {
      int at = a.startIndex + y * a.stride;
      for (int x = 0; x < a.width; x++, k++, at++) {
        Vec3 r = rays[k];
        double vx = m[0] * r.x() + m[1] * r.y() + m[2] * r.z();
        double vy = m[3] * r.x() + m[4] * r.y() + m[5] * r.z();
        double z = -(m[6] * r.x() + m[7] * r.y() + m[8] * r.z());
        if (!(z > 0)) {
          continue;
        }
        double u = vx / z;
        double v = vy / z;
        double px = second.cx() + second.fx() * u;
        double py = second.cy() - second.fy() * v;
        if (secondLens.isPresent()) {
          if (!secondLens.get().toOriginal(px, py, point)) {
            continue;
          }
          px = point[0];
          py = point[1];
        }
        px = (px - 0.5) / size;
        py = (py - 0.5) / size;
        if (!(px >= 0 && py >= 0 && px < b.width - 1 && py < b.height - 1)) {
          continue;
        }
        int xi = (int) px;
        int yi = (int) py;
        double fx = px - xi;
        double fy = py - yi;
        int i = b.startIndex + yi * b.stride + xi;
        double p = b.data[i];
        double q = b.data[i + 1];
        double s = b.data[i + b.stride];
        double t = b.data[i + b.stride + 1];
        double across = ((q - p) * (1 - fy) + (t - s) * fy) * second.fx() / size;
        double down = ((s - p) * (1 - fx) + (t - q) * fx) * second.fy() / size;
        double value = (p + fx * (q - p)) * (1 - fy) + (s + fx * (t - s)) * fy;
        // A small turn w moves the direction (u, v, −1) by w × it, and the pixel by that on z = −1.
        row[0] = across * u * v - down * (1 + v * v);
        row[1] = -across * (1 + u * u) + down * u * v;
        row[2] = -across * v - down * u;
        row[3] = value;
        row[4] = 1;
        double own = a.data[at];
        add(own);
        sa += own;
        sb += value;
        aa += own * own;
        ab += own * value;
        bb += value * value;
        n++;
      }
    }
    if (n < LEAST_SHARED * rays.length) {
      return Double.NaN;
    }
    double spread = (aa - sa * sa / n) * (bb - sb * sb / n);
    return spread > 0 ? (ab - sa * sb / n) / Math.sqrt(spread) : Double.NaN;
  }

  private void add(double own) {
    for (int p = 0; p < PARAMETERS; p++) {
      for (int q = 0; q < PARAMETERS; q++) {
        normal.data[PARAMETERS * p + q] += row[p] * row[q];
      }
      right.data[p] += row[p] * own;
    }
  }
}
