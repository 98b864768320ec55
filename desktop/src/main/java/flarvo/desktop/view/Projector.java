package flarvo.desktop.view;

import flarvo.scene.Pinhole;
import flarvo.scene.Vec3;

/**
 * A pinhole into a view: world to the view's pixels.
 *
 * @param eye in the world
 * @param left of the picture in the view
 * @param scale view's pixels for one of the picture's
 */
public record Projector(Pinhole pinhole, Vec3 eye, double left, double top, double scale) {

  /** x and y in the view, and the depth; NaN behind the eye. */
  public void project(double x, double y, double z, double[] out) {
    pinhole.project(x, y, z, out);
    out[0] = left + out[0] * scale;
    out[1] = top + out[1] * scale;
  }

  public void project(Vec3 v, double[] out) {
    project(v.x(), v.y(), v.z(), out);
  }

  /** Unit direction of the ray through a place of the view. */
  public Vec3 ray(double x, double y) {
    return pinhole.ray((x - left) / scale, (y - top) / scale);
  }

  /** Where a ray meets the plane at a height; null where it never does. */
  public Vec3 onLevel(double x, double y, double height) {
    Vec3 d = ray(x, y);
    double t = (height - eye.y()) / d.y();
    return t > 0 && Double.isFinite(t) && t < 1e7 ? eye.plus(d.times(t)) : null;
  }
}
