package flarvo.render;

import flarvo.scene.Vec3;

/**
 * How bright each triangle is: Lambert's law with some light from all round. Both sides of a
 * surface are lit alike, by the normal on the side that is seen. Normals are interpolated over
 * triangles whose corners have different ones.
 */
final class Shading {

  /** Share of the light that comes from all round. */
  static final double AMBIENT = 0.35;

  private static final double DARK = 0.35;

  private final FrameTriangles triangles;
  private final Vec3 eye;
  private final Vec3 light;
  private final double[] flat; // brightness of each triangle; NaN where it has to be worked out
  private final boolean[] away; // seen from behind

  /**
   * @param light direction to the light, of length one
   */
  Shading(FrameTriangles triangles, Vec3 eye, Vec3 light) {
    this.triangles = triangles;
    this.eye = eye;
    this.light = light;
    flat = new double[triangles.count()];
    away = new boolean[triangles.count()];
    for (int t = 0; t < flat.length; t++) {
      Vec3 normal = triangles.normal(t);
      away[t] = normal.dot(eye.minus(triangles.corner(t, 0))) < 0;
      flat[t] = triangles.isFlat(t) ? brightness(t, normal.dot(light), away[t]) : Double.NaN;
    }
  }

  private double brightness(int t, double cosine, boolean turned) {
    double lit = Math.max(0, turned ? -cosine : cosine);
    return (AMBIENT + (1 - AMBIENT) * lit) * (triangles.dark()[t] ? DARK : 1);
  }

  /**
   * Brightness where a ray from the eye meets a triangle, or at the nearest edge where it passes
   * by.
   *
   * @param ray of any length, in the world
   */
  double at(int t, double[] ray) {
    if (!Double.isNaN(flat[t])) {
      return flat[t];
    }
    double[] c = triangles.xyz();
    int i = 9 * t;
    double e1x = c[i + 3] - c[i];
    double e1y = c[i + 4] - c[i + 1];
    double e1z = c[i + 5] - c[i + 2];
    double e2x = c[i + 6] - c[i];
    double e2y = c[i + 7] - c[i + 1];
    double e2z = c[i + 8] - c[i + 2];
    double px = ray[1] * e2z - ray[2] * e2y;
    double py = ray[2] * e2x - ray[0] * e2z;
    double pz = ray[0] * e2y - ray[1] * e2x;
    double det = e1x * px + e1y * py + e1z * pz;
    double sx = eye.x() - c[i];
    double sy = eye.y() - c[i + 1];
    double sz = eye.z() - c[i + 2];
    double u = inside((sx * px + sy * py + sz * pz) / det);
    double qx = sy * e1z - sz * e1y;
    double qy = sz * e1x - sx * e1z;
    double qz = sx * e1y - sy * e1x;
    double v = inside((ray[0] * qx + ray[1] * qy + ray[2] * qz) / det);
    double over = Math.max(1, u + v);
    return smooth(t, u / over, v / over);
  }

  private static double inside(double share) {
    return share > 0 ? Math.min(1, share) : 0; // zero where the triangle is seen edge on, too
  }

  private double smooth(int t, double u, double v) {
    double[] n = triangles.normals();
    int i = 9 * t;
    double w = 1 - u - v;
    double x = w * n[i] + u * n[i + 3] + v * n[i + 6];
    double y = w * n[i + 1] + u * n[i + 4] + v * n[i + 7];
    double z = w * n[i + 2] + u * n[i + 5] + v * n[i + 8];
    double length = Math.sqrt(x * x + y * y + z * z);
    if (!(length > 0)) {
      return brightness(t, 0, false);
    }
    Vec3 own = triangles.normal(t);
    // A file's normals may point to the other side than its faces do.
    boolean against = x * own.x() + y * own.y() + z * own.z() < 0;
    double cosine = (x * light.x() + y * light.y() + z * light.z()) / length;
    return brightness(t, cosine, against != away[t]);
  }
}
