package flarvo.scene;

/**
 * Projects world points through a camera at one frame; the only projection there is. What a canvas
 * shows and what a proof measures both come from here.
 *
 * <pre>
 *   c = Rᵀ (p − t)                       camera space, looking along −Z
 *   depth = −c.z
 *   x = W/2 + W · (principalX + f · c.x / depth) / filmWidth
 *   y = H/2 − H · (principalY + f · c.y / depth) / filmHeight
 * </pre>
 *
 * Not safe for use by several threads at once: it is a cursor over one camera.
 */
public final class Pinhole {

  /** Camera-space coordinates are exact to within this share of a point's distance. */
  private static final double ROUNDING = 1e-9;

  private final ShotCamera camera;
  private final PictureSize picture;
  private final double[] t = new double[3];
  private final double[] r = new double[9];
  private final double[] gt = new double[3]; // where the last set that moves is at this frame
  private final double[] gr = new double[9];
  private final double[] rows = new double[9]; // homogeneous x, y and depth by a world direction
  private final double[] groupRows = new double[9]; // by a direction in the last set that moves
  private final double[] middle = new double[3];
  private final double[] one = new double[3];
  private final double[] edges = new double[4]; // lengths of the normals of the picture's edges
  private PoseTrack loaded;
  private int frame;
  private double fx;
  private double fy;
  private double cx;
  private double cy;

  public Pinhole(ShotCamera camera, PictureSize picture) {
    this.camera = camera;
    this.picture = picture;
  }

  /** Moves to a frame of the camera's range. */
  public Pinhole at(int frame) {
    camera.poses().load(frame, t, r);
    this.frame = frame;
    loaded = null;
    PixelIntrinsics k = PixelIntrinsics.of(camera.optics().at(frame), picture);
    fx = k.fx();
    fy = k.fy();
    cx = k.cx();
    cy = k.cy();
    for (int i = 0; i < 3; i++) {
      double depth = -r[3 * i + 2];
      rows[i] = fx * r[3 * i] + cx * depth;
      rows[3 + i] = cy * depth - fy * r[3 * i + 1];
      rows[6 + i] = depth;
    }
    edges[0] = length(fx, cx);
    edges[1] = length(fx, picture.width() - cx);
    edges[2] = length(fy, cy);
    edges[3] = length(fy, picture.height() - cy);
    return this;
  }

  private static double length(double a, double b) {
    return Math.sqrt(a * a + b * b);
  }

  /**
   * Writes x and y in canonical pixels and the depth along the view direction in metres into {@code
   * out[0..2]}. A point at or behind the camera has NaN for x and y.
   */
  public void project(double x, double y, double z, double[] out) {
    double dx = x - t[0];
    double dy = y - t[1];
    double dz = z - t[2];
    double depth = -(r[2] * dx + r[5] * dy + r[8] * dz);
    out[2] = depth;
    if (depth > 0) {
      double near = 1 / depth;
      out[0] = cx + fx * (r[0] * dx + r[3] * dy + r[6] * dz) * near;
      out[1] = cy - fy * (r[1] * dx + r[4] * dy + r[7] * dz) * near;
    } else {
      out[0] = Double.NaN;
      out[1] = Double.NaN;
    }
  }

  /** The same for tracker {@code i} of a set, wherever its group is at this frame. */
  public void project(TrackerSet set, int i, double[] out) {
    double x = set.x(i);
    double y = set.y(i);
    double z = set.z(i);
    PoseTrack motion = set.motion();
    if (motion == null) {
      project(x, y, z, out);
      return;
    }
    load(motion);
    project(
        gt[0] + gr[0] * x + gr[1] * y + gr[2] * z,
        gt[1] + gr[3] * x + gr[4] * y + gr[5] * z,
        gt[2] + gr[6] * x + gr[7] * y + gr[8] * z,
        out);
  }

  /**
   * The same for a block of points at once, in homogeneous pixels:
   *
   * <pre>
   *   depth     = −c.z
   *   x · depth = W/2 · depth + W · (principalX · depth + f · c.x) / filmWidth
   *   y · depth = H/2 · depth − H · (principalY · depth + f · c.y) / filmHeight
   * </pre>
   *
   * Each is a plane through the points: one number for the middle of the block, and three for where
   * a point is from there.
   *
   * @param set whose group the points hang in
   */
  public void project(TrackerSet set, ProjectedBlock block) {
    double[] k = rows;
    double x = block.middle[0];
    double y = block.middle[1];
    double z = block.middle[2];
    if (set.motion() != null) {
      load(set.motion());
      k = groupRows;
      double gx = gt[0] + gr[0] * x + gr[1] * y + gr[2] * z;
      double gy = gt[1] + gr[3] * x + gr[4] * y + gr[5] * z;
      z = gt[2] + gr[6] * x + gr[7] * y + gr[8] * z;
      x = gx;
      y = gy;
    }
    x -= t[0];
    y -= t[1];
    z -= t[2];
    for (int i = 0; i < 3; i++) {
      middle[i] = rows[3 * i] * x + rows[3 * i + 1] * y + rows[3 * i + 2] * z;
    }
    planes(block, middle, k);
  }

  /** In a loop that asks nothing: that is what the compiler turns into vector instructions. */
  private static void planes(ProjectedBlock b, double[] middle, double[] k) {
    double[] px = b.px;
    double[] py = b.py;
    double[] pz = b.pz;
    double[] x = b.x;
    double[] y = b.y;
    double[] depth = b.depth;
    double xm = middle[0];
    double ym = middle[1];
    double dm = middle[2];
    double xx = k[0];
    double xy = k[1];
    double xz = k[2];
    double yx = k[3];
    double yy = k[4];
    double yz = k[5];
    double dx = k[6];
    double dy = k[7];
    double dz = k[8];
    for (int i = 0; i < PointBlocks.SIZE; i++) {
      x[i] = xm + xx * px[i] + xy * py[i] + xz * pz[i];
      y[i] = ym + yx * px[i] + yy * py[i] + yz * pz[i];
      depth[i] = dm + dx * px[i] + dy * py[i] + dz * pz[i];
    }
  }

  /** Whether a point is in the picture, its edges included; nothing is divided by its depth. */
  @SuppressWarnings("ShortCircuitBoolean") // a branch that cannot be guessed costs more
  private boolean sees(double x, double y, double z, double depth) {
    double dx = x - t[0];
    double dy = y - t[1];
    double dz = z - t[2];
    double across = fx * (r[0] * dx + r[3] * dy + r[6] * dz);
    double up = fy * (r[1] * dx + r[4] * dy + r[7] * dz);
    return across >= -cx * depth
        & across <= (picture.width() - cx) * depth
        & up <= cy * depth
        & up >= (cy - picture.height()) * depth;
  }

  @SuppressWarnings("ReferenceEquality") // a cache of what was loaded last
  private void load(PoseTrack motion) {
    if (motion != loaded) {
      motion.load(motion.frames().clamp(frame), gt, gr);
      for (int i = 0; i < 9; i += 3) {
        for (int j = 0; j < 3; j++) {
          groupRows[i + j] = rows[i] * gr[j] + rows[i + 1] * gr[3 + j] + rows[i + 2] * gr[6 + j];
        }
      }
      loaded = motion;
    }
  }

  /**
   * How much of a block is in the picture. Never says more than is so: a block that lies just
   * inside or just beside it may be {@link Sight#SOME}.
   *
   * @param set whose group the points hang in
   */
  public Sight sight(TrackerSet set, PointBlocks points, int block) {
    double radius = ball(set, points.balls(), block);
    if (one[2] < -radius || beside(radius)) {
      return Sight.NONE;
    }
    return one[2] > radius && within(radius) ? Sight.ALL : Sight.SOME;
  }

  /**
   * Whether all points of a block are in front of the camera. May be false for one that just is.
   *
   * @param set whose group the points hang in
   */
  public boolean faces(TrackerSet set, PointBlocks points, int block) {
    double radius = ball(set, points.balls(), block);
    return one[2] > radius;
  }

  /**
   * Brings the centre of a ball into the camera's space, into {@code one}: across, up and depth.
   *
   * @return its radius, with what rounding may take
   */
  private double ball(TrackerSet set, double[] balls, int ball) {
    int at = 4 * ball;
    double x = balls[at];
    double y = balls[at + 1];
    double z = balls[at + 2];
    if (set.motion() != null) {
      load(set.motion());
      double gx = gt[0] + gr[0] * x + gr[1] * y + gr[2] * z;
      double gy = gt[1] + gr[3] * x + gr[4] * y + gr[5] * z;
      z = gt[2] + gr[6] * x + gr[7] * y + gr[8] * z;
      x = gx;
      y = gy;
    }
    double dx = x - t[0];
    double dy = y - t[1];
    double dz = z - t[2];
    one[0] = r[0] * dx + r[3] * dy + r[6] * dz;
    one[1] = r[1] * dx + r[4] * dy + r[7] * dz;
    one[2] = -(r[2] * dx + r[5] * dy + r[8] * dz);
    return balls[at + 3] + ROUNDING * (Math.abs(dx) + Math.abs(dy) + Math.abs(dz));
  }

  /** Whether the ball that was brought into the camera's space is beyond an edge of the picture. */
  private boolean beside(double radius) {
    double left = fx * one[0] + cx * one[2];
    double right = (picture.width() - cx) * one[2] - fx * one[0];
    double top = cy * one[2] - fy * one[1];
    double bottom = fy * one[1] + (picture.height() - cy) * one[2];
    return left < -radius * edges[0]
        || right < -radius * edges[1]
        || top < -radius * edges[2]
        || bottom < -radius * edges[3];
  }

  /** Whether that ball is inside every edge of the picture. */
  private boolean within(double radius) {
    double left = fx * one[0] + cx * one[2];
    double right = (picture.width() - cx) * one[2] - fx * one[0];
    double top = cy * one[2] - fy * one[1];
    double bottom = fy * one[1] + (picture.height() - cy) * one[2];
    return left > radius * edges[0]
        && right > radius * edges[1]
        && top > radius * edges[2]
        && bottom > radius * edges[3];
  }

  /**
   * Widens a range by the depths of a set's trackers.
   *
   * @param nearest depths up to it do not count
   * @param inside whether only trackers in the picture count
   * @param range the least depth and the largest, in metres
   */
  public void widen(TrackerSet set, double nearest, boolean inside, double[] range) {
    PointBlocks points = set.blocks();
    for (int first = 0; first < points.count(); first += PointBlocks.WIDE) {
      if (mayWiden(set, points.wide(), first / PointBlocks.WIDE, nearest, inside, range)) {
        int end = Math.min(points.count(), first + PointBlocks.WIDE);
        for (int b = first; b < end; b++) {
          if (mayWiden(set, points.balls(), b, nearest, inside, range)) {
            widen(set, points, b, nearest, inside, range);
          }
        }
      }
    }
  }

  /** Whether what is in a ball could widen a range. */
  private boolean mayWiden(
      TrackerSet set, double[] balls, int ball, double nearest, boolean inside, double[] range) {
    double radius = ball(set, balls, ball);
    boolean within = one[2] - radius >= range[0] && one[2] + radius <= range[1];
    return !within && !(one[2] + radius <= nearest) && !(inside && beside(radius));
  }

  @SuppressWarnings("ShortCircuitBoolean") // a branch that cannot be guessed costs more
  private void widen(
      TrackerSet set,
      PointBlocks points,
      int block,
      double nearest,
      boolean inside,
      double[] range) {
    double[] xs = points.x(block);
    double[] ys = points.y(block);
    double[] zs = points.z(block);
    double near = range[0];
    double far = range[1];
    boolean moves = set.motion() != null;
    for (int i = 0; i < points.size(block); i++) {
      double x = xs[i];
      double y = ys[i];
      double z = zs[i];
      if (moves) {
        double gx = gt[0] + gr[0] * x + gr[1] * y + gr[2] * z;
        double gy = gt[1] + gr[3] * x + gr[4] * y + gr[5] * z;
        z = gt[2] + gr[6] * x + gr[7] * y + gr[8] * z;
        x = gx;
        y = gy;
      }
      double depth = -(r[2] * (x - t[0]) + r[5] * (y - t[1]) + r[8] * (z - t[2]));
      // Few are further out than all before: only of those it is asked where they are seen.
      if (depth > nearest & (depth < near | depth > far) && (!inside || sees(x, y, z, depth))) {
        near = Math.min(near, depth);
        far = Math.max(far, depth);
      }
    }
    range[0] = near;
    range[1] = far;
  }

  /**
   * Projects like {@link #project(double, double, double, double[])} and writes how x (first three)
   * and y (last three) change with the point, in pixels a metre, into {@code by[0..5]}. Behind the
   * camera x and y are NaN.
   */
  public void derive(double x, double y, double z, double[] out, double[] by) {
    project(x, y, z, out);
    double w = 1 / out[2];
    double nx = (out[0] - cx) / fx;
    double ny = (cy - out[1]) / fy;
    for (int k = 0; k < 3; k++) {
      by[k] = fx * w * (r[3 * k] + nx * r[3 * k + 2]);
      by[3 + k] = -fy * w * (r[3 * k + 1] + ny * r[3 * k + 2]);
    }
  }

  /** Unit direction in the world of the ray through a pixel. */
  public Vec3 ray(double px, double py) {
    double lx = (px - cx) / fx;
    double ly = -(py - cy) / fy;
    return new Vec3(
            r[0] * lx + r[1] * ly - r[2],
            r[3] * lx + r[4] * ly - r[5],
            r[6] * lx + r[7] * ly - r[8])
        .normalized();
  }

  /** Focal length in pixels, horizontally: what one radian near the axis covers. */
  public double focalPixels() {
    return fx;
  }
}
