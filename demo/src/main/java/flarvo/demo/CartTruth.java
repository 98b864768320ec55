package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.Optional;

/**
 * Shot {@code mer_030_cart}: an instrument cart rolls past a camera that stands still. It is solved
 * on the cart's features, as if the camera moved round a cart at rest.
 */
final class CartTruth extends ShotTruth {

  static final CartTruth SHOT = new CartTruth();

  private static final FrameRange FRAMES = new FrameRange(1, 60);
  private static final Vec3 EYE = new Vec3(-0.35, 1.28, 4.1);
  private static final Pose STANDING = new Pose(EYE, lookAt(EYE, new Vec3(-0.1, 0.52, 0.6), 0));

  private CartTruth() {}

  @Override
  String name() {
    return "mer_030_cart";
  }

  @Override
  FrameRange frames() {
    return FRAMES;
  }

  @Override
  Rate rate() {
    return Rate.NTSC_30;
  }

  @Override
  Optics optics() {
    return Optics.centred(32, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  /** A long lens, of which nobody sees that it bends anything. */
  @Override
  Lens lens() {
    return new Lens(0, 0);
  }

  @Override
  Pose poseAt(double frame) {
    return STANDING;
  }

  @Override
  Optional<Pose> cartAt(double frame) {
    double s = (frame - FRAMES.first()) / (FRAMES.count() - 1);
    double along = -1.15 + 2.1 * s - 0.12 * s * s;
    double yaw = -0.34 + 0.62 * s;
    return Optional.of(
        new Pose(
            new Vec3(along, 0, 0.85 + 0.35 * s - 0.2 * s * s),
            Rotation.about(new Vec3(0, 1, 0), yaw)));
  }
}
