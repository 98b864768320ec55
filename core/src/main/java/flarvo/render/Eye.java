package flarvo.render;

import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PixelIntrinsics;
import flarvo.scene.Pose;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;

/** A camera at one frame: the projection, and rays of depth one through pixels. */
final class Eye {

  private final Pinhole pinhole;
  private final PixelIntrinsics k;
  private final Vec3 at;
  private final Vec3 right;
  private final Vec3 up;
  private final Vec3 view;

  /**
   * @param camera canonical, in metres
   */
  Eye(ShotCamera camera, PictureSize picture, int frame) {
    Pose pose = camera.poses().at(frame);
    pinhole = new Pinhole(camera, picture).at(frame);
    k = PixelIntrinsics.of(camera.optics().at(frame), picture);
    at = pose.position();
    right = pose.rotation().apply(new Vec3(1, 0, 0));
    up = pose.rotation().apply(new Vec3(0, 1, 0));
    view = pose.rotation().apply(new Vec3(0, 0, -1));
  }

  Vec3 at() {
    return at;
  }

  Pinhole pinhole() {
    return pinhole;
  }

  double depth(double x, double y, double z) {
    return (x - at.x()) * view.x() + (y - at.y()) * view.y() + (z - at.z()) * view.z();
  }

  /** From the eye to depth one behind a pixel, in the world. */
  void ray(double px, double py, double[] out) {
    double lx = (px - k.cx()) / k.fx();
    double ly = -(py - k.cy()) / k.fy();
    out[0] = view.x() + lx * right.x() + ly * up.x();
    out[1] = view.y() + lx * right.y() + ly * up.y();
    out[2] = view.z() + lx * right.z() + ly * up.z();
  }
}
