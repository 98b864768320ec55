package flarvo.trace;

import boofcv.struct.image.GrayF32;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.Vec3;

/**
 * Finds a place of one picture in another that the camera's move blurs. What is around the place is
 * taken for a plane at the place's depth, seen as the cameras stand; each picture is blurred as the
 * other one is, after which both show the same; what is left is a shift, found by Gauss and
 * Newton's method. A cursor with scratch of its own; not for several threads.
 */
final class BlurredPatch {

  /** Of the square around the place, in pixels of each level. */
  private static final int RADIUS = 14;

  /** How far the second picture reaches beyond it. */
  private static final int MARGIN = 8;

  private static final int COARSE = 1; // the level to begin with
  private static final int ROUNDS = 15;
  private static final double STILL = 0.005;

  /** Between samples along a blur. */
  private static final double SAMPLE_PX = 1.5;

  /** Samples along a blur, at most. */
  private static final int MOST_SAMPLES = 16;

  /** Pixels that say the same, since noise is as wide as the blur is. */
  private static final double ALIKE = 20;

  private static final int SIDE = 2 * RADIUS + 1;
  private static final int WIDE = 2 * (RADIUS + MARGIN) + 1;
  private static final double NEAREST = 1e-6;

  /**
   * A picture, the camera that took it, and where the camera was a frame before and is a frame
   * after.
   */
  record View(Levels picture, Pose pose, Pose before, Pose after) {}

  /** Where the place was found, in pixels. */
  final double[] at = new double[2];

  /** Standard error of the place along the blur, in pixels. */
  double errorPx;

  /** Of both squares, −1 to 1. */
  double correlation;

  private final PixelIntrinsics k;
  private final double shutter;
  private final float[] pattern = new float[SIDE * SIDE];
  private final float[] across = new float[SIDE * SIDE];
  private final float[] down = new float[SIDE * SIDE];
  private final float[] framed = new float[(SIDE + 2) * (SIDE + 2)];
  private final float[] seen = new float[WIDE * WIDE];
  private final double[] pixel = new double[2];
  private final double[] affine = new double[4];
  private final double[] fromBlur = new double[2];
  private final double[] toBlur = new double[2];

  /**
   * @param k of both cameras; the pictures show what a pinhole sees
   * @param shutter the share of a frame for which it is open
   */
  BlurredPatch(PixelIntrinsics k, double shutter) {
    this.k = k;
    this.shutter = shutter;
  }

  /**
   * Looks for a place.
   *
   * @param x of the place in the first picture, in pixels
   * @param depth of the place before the first camera
   * @param mostPx how far from where the cameras see it the place may be found
   * @return false where it is not in both pictures, or is not found
   */
  boolean find(View from, View to, double x, double y, double depth, double mostPx) {
    Vec3 place = world(from.pose(), x, y, depth);
    if (!pixel(to.pose(), place)) {
      return false;
    }
    double toX = pixel[0];
    double toY = pixel[1];
    if (!warp(from.pose(), to.pose(), x, y, depth)
        || !blur(from, place, fromBlur)
        || !blur(to, place, toBlur)) {
      return false;
    }
    double det = affine[0] * affine[3] - affine[1] * affine[2];
    if (!(det > 0.1)) {
      return false;
    }
    // The blur of each in the pixels of the other.
    double u = (affine[3] * toBlur[0] - affine[1] * toBlur[1]) / det;
    double v = (affine[0] * toBlur[1] - affine[2] * toBlur[0]) / det;
    double p = affine[0] * fromBlur[0] + affine[1] * fromBlur[1];
    double q = affine[2] * fromBlur[0] + affine[3] * fromBlur[1];
    double shiftX = 0; // in pixels of the first picture
    double shiftY = 0;
    for (int level = Math.min(COARSE, from.picture().count() - 1); level >= 0; level--) {
      double size = 1 << level;
      GrayF32 a = from.picture().at().get(level);
      GrayF32 b = to.picture().at().get(level);
      if (!pattern(a, (x - 0.5) / size, (y - 0.5) / size, u / size, v / size)
          || !seen(
              b,
              (toX - 0.5 + affine[0] * shiftX + affine[1] * shiftY) / size,
              (toY - 0.5 + affine[2] * shiftX + affine[3] * shiftY) / size,
              p / size,
              q / size)
          || !shift(size)) {
        return false;
      }
      shiftX += at[0] * size;
      shiftY += at[1] * size;
    }
    at[0] = toX + affine[0] * shiftX + affine[1] * shiftY;
    at[1] = toY + affine[2] * shiftX + affine[3] * shiftY;
    return Math.hypot(at[0] - toX, at[1] - toY) <= mostPx;
  }

  private Vec3 world(Pose pose, double x, double y, double depth) {
    Vec3 ray = new Vec3((x - k.cx()) / k.fx(), (k.cy() - y) / k.fy(), -1);
    return pose.rotation().apply(ray.times(depth)).plus(pose.position());
  }

  private boolean pixel(Pose pose, Vec3 world) {
    Vec3 c = pose.rotation().inverse().apply(world.minus(pose.position()));
    pixel[0] = k.cx() - k.fx() * c.x() / c.z();
    pixel[1] = k.cy() + k.fy() * c.y() / c.z();
    return c.z() < -NEAREST;
  }

  /** How the square lies in the second picture, by its four sides' middles. */
  private boolean warp(Pose from, Pose to, double x, double y, double depth) {
    for (int axis = 0; axis < 2; axis++) {
      for (int side = -1; side <= 1; side += 2) {
        double dx = axis == 0 ? side * RADIUS : 0;
        double dy = axis == 0 ? 0 : side * RADIUS;
        if (!pixel(to, world(from, x + dx, y + dy, depth))) {
          return false;
        }
        affine[axis] = (side < 0 ? 0 : affine[axis]) + side * pixel[0] / (2.0 * RADIUS);
        affine[2 + axis] = (side < 0 ? 0 : affine[2 + axis]) + side * pixel[1] / (2.0 * RADIUS);
      }
    }
    return true;
  }

  /** What the place moves by while the shutter is open. */
  private boolean blur(View v, Vec3 place, double[] out) {
    if (!pixel(v.before(), place)) {
      return false;
    }
    double x = pixel[0];
    double y = pixel[1];
    if (!pixel(v.after(), place)) {
      return false;
    }
    out[0] = shutter * (pixel[0] - x) / 2;
    out[1] = shutter * (pixel[1] - y) / 2;
    return true;
  }

  private boolean pattern(GrayF32 a, double x, double y, double blurX, double blurY) {
    int wide = SIDE + 2;
    if (!sample(a, x, y, 1, 0, 0, 1, blurX, blurY, RADIUS + 1, framed)) {
      return false;
    }
    double mean = 0;
    double meanAcross = 0;
    double meanDown = 0;
    for (int j = 0, m = 0; j < SIDE; j++) {
      for (int i = 0; i < SIDE; i++, m++) {
        int f = (j + 1) * wide + i + 1;
        pattern[m] = framed[f];
        across[m] = (framed[f + 1] - framed[f - 1]) / 2;
        down[m] = (framed[f + wide] - framed[f - wide]) / 2;
        mean += pattern[m];
        meanAcross += across[m];
        meanDown += down[m];
      }
    }
    for (int m = 0; m < pattern.length; m++) {
      pattern[m] -= (float) (mean / pattern.length);
      across[m] -= (float) (meanAcross / pattern.length);
      down[m] -= (float) (meanDown / pattern.length);
    }
    return true;
  }

  private boolean seen(GrayF32 b, double x, double y, double blurX, double blurY) {
    return sample(
        b, x, y, affine[0], affine[1], affine[2], affine[3], blurX, blurY, RADIUS + MARGIN, seen);
  }

  /** A square of a picture, warped, each pixel the mean of what is along the blur. */
  private static boolean sample(
      GrayF32 g,
      double x,
      double y,
      double xx,
      double xy,
      double yx,
      double yy,
      double blurX,
      double blurY,
      int radius,
      float[] out) {
    double wide = (Math.abs(xx) + Math.abs(xy)) * radius + Math.abs(blurX) / 2;
    double high = (Math.abs(yx) + Math.abs(yy)) * radius + Math.abs(blurY) / 2;
    if (!(x - wide >= 0 && y - high >= 0 && x + wide < g.width - 1 && y + high < g.height - 1)) {
      return false;
    }
    int n = (int) Math.min(MOST_SAMPLES, 1 + Math.ceil(Math.hypot(blurX, blurY) / SAMPLE_PX));
    for (int j = -radius, m = 0; j <= radius; j++) {
      for (int i = -radius; i <= radius; i++, m++) {
        double px = x + xx * i + xy * j;
        double py = y + yx * i + yy * j;
        double sum = 0;
        for (int s = 0; s < n; s++) {
          double t = (s + 0.5) / n - 0.5;
          sum += Bilinear.at(g, px + t * blurX, py + t * blurY);
        }
        out[m] = (float) (sum / n);
      }
    }
    return true;
  }

  /**
   * Leaves the shift in {@link #at}, in pixels of the level and of the first picture.
   *
   * @param size pixels of the whole picture in one of the level
   */
  private boolean shift(double size) {
    double aa = 0;
    double xx = 0;
    double xy = 0;
    double yy = 0;
    double ax = 0;
    double ay = 0;
    for (int m = 0; m < pattern.length; m++) {
      aa += pattern[m] * pattern[m];
      xx += across[m] * across[m];
      xy += across[m] * down[m];
      yy += down[m] * down[m];
      ax += across[m] * pattern[m];
      ay += down[m] * pattern[m];
    }
    double det = xx * yy - xy * xy;
    if (!(det > 1e-6 * xx * yy)) {
      return false;
    }
    double x = 0;
    double y = 0;
    for (int round = 0; round < ROUNDS; round++) {
      if (!(Math.abs(x) < MARGIN && Math.abs(y) < MARGIN)) {
        return false;
      }
      int xi = (int) Math.floor(x);
      int yi = (int) Math.floor(y);
      float fx = (float) (x - xi);
      float fy = (float) (y - yi);
      double sum = 0;
      double bb = 0;
      double ab = 0;
      double bx = 0;
      double by = 0;
      for (int j = 0, m = 0; j < SIDE; j++) {
        int row = (j + MARGIN + yi) * WIDE + MARGIN + xi;
        for (int i = 0; i < SIDE; i++, m++, row++) {
          float top = seen[row] + fx * (seen[row + 1] - seen[row]);
          float low = seen[row + WIDE] + fx * (seen[row + WIDE + 1] - seen[row + WIDE]);
          double b = top + fy * (low - top);
          sum += b;
          bb += b * b;
          // The pattern and its slopes have no mean, so that of b drops out.
          ab += pattern[m] * b;
          bx += across[m] * b;
          by += down[m] * b;
        }
      }
      bb -= sum * sum / pattern.length;
      double ex = ax - bx;
      double ey = ay - by;
      double dx = (yy * ex - xy * ey) / det;
      double dy = (xx * ey - xy * ex) / det;
      x += dx;
      y += dy;
      correlation = ab / Math.sqrt(aa * bb);
      double left = Math.max(0, aa + bb - 2 * ab) / pattern.length;
      double half = (xx + yy) / 2;
      double least = half - Math.sqrt(Math.max(0, half * half - det));
      errorPx = size * Math.sqrt(ALIKE * left / least);
      if (Math.hypot(dx, dy) < STILL) {
        break;
      }
    }
    at[0] = x;
    at[1] = y;
    return correlation > 0;
  }
}
