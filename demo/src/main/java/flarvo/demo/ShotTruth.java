package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.Optional;

/**
 * A shot of the production as it really was, on the hill-top whose origin is the sundial's foot.
 */
abstract class ShotTruth {

  static final PictureSize PICTURE = PictureSize.of(960, 540);
  static final double FILM_WIDTH_MM = 23.76;
  static final double FILM_HEIGHT_MM = 13.365;

  /** As files and the project call it. */
  abstract String name();

  abstract FrameRange frames();

  abstract Rate rate();

  abstract Optics optics();

  /** The optics at any moment; only a zoom's change. */
  Optics opticsAt(double frame) {
    return optics();
  }

  abstract Lens lens();

  /** The camera in the world at any moment; {@code frame} may lie between frames. */
  abstract Pose poseAt(double frame);

  /** Where the instrument cart stands, in the shots that have it. */
  Optional<Pose> cartAt(double frame) {
    return Optional.empty();
  }

  /** Where the instrument carts stand, in shots that have any. */
  List<Pose> cartsAt(double frame) {
    return cartAt(frame).stream().toList();
  }

  /** What the features belong to: the world, or the cart. */
  Pose featuresAt(double frame) {
    return cartAt(frame).orElse(Pose.IDENTITY);
  }

  /** The camera as it is solved: seen from what the features belong to. */
  final ShotCamera solvedCamera() {
    return new ShotCamera(
        name().substring(8) + "_cam",
        PoseTrack.of(frames(), f -> seenFrom(featuresAt(f), poseAt(f))),
        OpticsTrack.of(frames(), this::opticsAt),
        Optional.empty());
  }

  private static Pose seenFrom(Pose base, Pose pose) {
    return new Pose(
        base.toLocal(pose.position()), base.rotation().inverse().after(pose.rotation()));
  }

  static double wave(double frame, double period, double phase) {
    return StrictMath.sin(2 * Math.PI * frame / period + phase);
  }

  static Rotation lookAt(Vec3 eye, Vec3 target, double roll) {
    Vec3 back = eye.minus(target).normalized();
    Vec3 flat = new Vec3(0, 1, 0).cross(back).normalized();
    Vec3 upright = back.cross(flat);
    Vec3 right = flat.times(StrictMath.cos(roll)).plus(upright.times(StrictMath.sin(roll)));
    Vec3 up = back.cross(right);
    return Rotation.fromRows(
        right.x(), up.x(), back.x(), right.y(), up.y(), back.y(), right.z(), up.z(), back.z());
  }
}
