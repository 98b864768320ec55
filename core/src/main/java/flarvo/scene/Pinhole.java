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

  private final ShotCamera camera;
  private final PictureSize picture;
  private final double[] t = new double[3];
  private final double[] r = new double[9];
  private final double[] gt = new double[3]; // where the last set that moves is at this frame
  private final double[] gr = new double[9];
  private final double[] one = new double[3];
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
    return this;
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
      out[0] = cx + fx * (r[0] * dx + r[3] * dy + r[6] * dz) / depth;
      out[1] = cy - fy * (r[1] * dx + r[4] * dy + r[7] * dz) / depth;
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
    projectMoving(motion, x, y, z, out, 0);
  }

  /**
   * The same for many points at once, three numbers each in and out.
   *
   * @param set whose group they hang in
   * @param xyz in that group's space; not changed
   * @param first point
   * @param count of points
   * @param out that of the first from 0
   */
  public void project(TrackerSet set, double[] xyz, int first, int count, double[] out) {
    if (set.motion() != null) {
      for (int i = 0, j = 3 * first; i < 3 * count; i += 3, j += 3) {
        projectMoving(set.motion(), xyz[j], xyz[j + 1], xyz[j + 2], out, i);
      }
      return;
    }
    double tx = t[0];
    double ty = t[1];
    double tz = t[2];
    double r0 = r[0];
    double r1 = r[1];
    double r2 = r[2];
    double r3 = r[3];
    double r4 = r[4];
    double r5 = r[5];
    double r6 = r[6];
    double r7 = r[7];
    double r8 = r[8];
    for (int i = 0, j = 3 * first; i < 3 * count; i += 3, j += 3) {
      double dx = xyz[j] - tx;
      double dy = xyz[j + 1] - ty;
      double dz = xyz[j + 2] - tz;
      double depth = -(r2 * dx + r5 * dy + r8 * dz);
      boolean front = depth > 0;
      out[i] = front ? cx + fx * (r0 * dx + r3 * dy + r6 * dz) / depth : Double.NaN;
      out[i + 1] = front ? cy - fy * (r1 * dx + r4 * dy + r7 * dz) / depth : Double.NaN;
      out[i + 2] = depth;
    }
  }

  private void projectMoving(PoseTrack m, double x, double y, double z, double[] out, int at) {
    load(m);
    project(
        gt[0] + gr[0] * x + gr[1] * y + gr[2] * z,
        gt[1] + gr[3] * x + gr[4] * y + gr[5] * z,
        gt[2] + gr[6] * x + gr[7] * y + gr[8] * z,
        one);
    System.arraycopy(one, 0, out, at, 3);
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
      loaded = motion;
    }
  }

  /**
   * Widens a range by the depths of a set's trackers.
   *
   * @param nearest depths up to it do not count
   * @param inside whether only trackers in the picture count
   * @param range the least depth and the largest, in metres
   */
  @SuppressWarnings("ShortCircuitBoolean") // a branch that cannot be guessed costs more
  public void widen(TrackerSet set, double nearest, boolean inside, double[] range) {
    double[] xyz = set.packed();
    double near = range[0];
    double far = range[1];
    boolean moves = set.motion() != null;
    if (moves) {
      load(set.motion());
    }
    for (int i = 0; i < xyz.length; i += 3) {
      double x = xyz[i];
      double y = xyz[i + 1];
      double z = xyz[i + 2];
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
