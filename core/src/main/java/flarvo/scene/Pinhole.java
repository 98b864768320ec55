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
  @SuppressWarnings("ReferenceEquality") // a cache of what was loaded last
  public void project(TrackerSet set, int i, double[] out) {
    double x = set.x(i);
    double y = set.y(i);
    double z = set.z(i);
    PoseTrack motion = set.motion();
    if (motion == null) {
      project(x, y, z, out);
      return;
    }
    if (motion != loaded) {
      motion.load(motion.frames().clamp(frame), gt, gr);
      loaded = motion;
    }
    project(
        gt[0] + gr[0] * x + gr[1] * y + gr[2] * z,
        gt[1] + gr[3] * x + gr[4] * y + gr[5] * z,
        gt[2] + gr[6] * x + gr[7] * y + gr[8] * z,
        out);
  }

  /** The depth that {@link #project(TrackerSet, int, double[])} writes, alone. */
  @SuppressWarnings("ReferenceEquality") // a cache of what was loaded last
  public double depth(TrackerSet set, int i) {
    double x = set.x(i);
    double y = set.y(i);
    double z = set.z(i);
    PoseTrack motion = set.motion();
    if (motion != null) {
      if (motion != loaded) {
        motion.load(motion.frames().clamp(frame), gt, gr);
        loaded = motion;
      }
      double gx = gt[0] + gr[0] * x + gr[1] * y + gr[2] * z;
      double gy = gt[1] + gr[3] * x + gr[4] * y + gr[5] * z;
      z = gt[2] + gr[6] * x + gr[7] * y + gr[8] * z;
      x = gx;
      y = gy;
    }
    return -(r[2] * (x - t[0]) + r[5] * (y - t[1]) + r[8] * (z - t[2]));
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
