package flarvo.desktop.view;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import java.util.Optional;

/** The viewer's own camera in Space: it turns about a target. A camera like any other. */
public final class OrbitEye {

  private static final FrameRange NOW = new FrameRange(0, 0);

  private Vec3 target = new Vec3(0, 0.6, 0);
  private double distance = 9;
  private double yaw = 0.75;
  private double pitch = 0.42;

  /** A long lens from far off, for views along an axis: as good as parallel. */
  private static final double LONG = 40;

  private double lens = 1;

  Vec3 eye() {
    return target.plus(rotation().apply(new Vec3(0, 0, distance * lens)));
  }

  private Rotation rotation() {
    return Rotation.about(new Vec3(0, 1, 0), yaw).after(Rotation.about(new Vec3(1, 0, 0), -pitch));
  }

  /** Looks along an axis, or from anywhere again. */
  void from(SpaceSide side) {
    switch (side) {
      case TOP -> along(0, Math.PI / 2);
      case SIDE -> along(Math.PI / 2, 0);
      case FRONT -> along(0, 0);
      case FREE -> {
        lens = 1;
        yaw = 0.75;
        pitch = 0.42;
      }
    }
  }

  private void along(double y, double p) {
    lens = LONG;
    yaw = y;
    pitch = p;
  }

  /** Projects into a square of {@code size} pixels; the caller centres it. */
  Pinhole pinhole(double size) {
    Rotation r = rotation();
    Vec3 eye = eye();
    ShotCamera c =
        new ShotCamera(
            "viewer",
            PoseTrack.of(NOW, f -> new Pose(eye, r)),
            OpticsTrack.constant(NOW, Optics.centred(35 * lens, 36, 36)),
            Optional.empty());
    return new Pinhole(c, PictureSize.of((int) Math.max(1, size), (int) Math.max(1, size))).at(0);
  }

  void orbit(double dx, double dy) {
    lens = 1;
    yaw -= dx * 0.008;
    pitch = Math.max(-1.55, Math.min(1.55, pitch + dy * 0.008));
  }

  /** Moves the target in the plane of the view, by pixels on a square of {@code size}. */
  void pan(double dx, double dy, double size) {
    Rotation r = rotation();
    double k = distance * 36 / 35 / size;
    target = target.plus(r.apply(new Vec3(-dx * k, dy * k, 0)));
  }

  void zoom(double factor) {
    distance = Math.max(0.05, Math.min(1e6, distance * factor));
  }

  void look(Vec3 at, double reach) {
    target = at;
    distance = Math.max(0.2, reach * 2.4);
  }

  double distance() {
    return distance;
  }

  Vec3 target() {
    return target;
  }
}
