package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.List;

/**
 * Shot {@code mer_050_carts}: a camera travels along the terrace while two carts roll, each its own
 * way. Three solves are made of it: on the terrace, and on either cart.
 */
final class CartsTruth extends ShotTruth {

  /** What one of the solves is made on. */
  enum On {
    TERRACE,
    NEAR_CART,
    FAR_CART
  }

  static final CartsTruth SHOT = new CartsTruth(On.TERRACE);
  static final CartsTruth NEAR = new CartsTruth(On.NEAR_CART);
  static final CartsTruth FAR = new CartsTruth(On.FAR_CART);

  private static final FrameRange FRAMES = new FrameRange(1001, 1024);

  private final On on;

  private CartsTruth(On on) {
    this.on = on;
  }

  @Override
  String name() {
    return "mer_050_carts";
  }

  @Override
  FrameRange frames() {
    return FRAMES;
  }

  @Override
  Rate rate() {
    return Rate.FPS_24;
  }

  @Override
  Optics optics() {
    return Optics.centred(24, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  @Override
  Lens lens() {
    return new Lens(0, 0);
  }

  private static double along(double frame) {
    return (frame - FRAMES.first()) / (FRAMES.count() - 1);
  }

  @Override
  Pose poseAt(double frame) {
    double s = along(frame);
    Vec3 eye =
        new Vec3(-0.9 + 1.3 * s, 1.66 - 0.12 * s + 0.01 * wave(frame, 17, 0.4), 4.7 - 0.35 * s);
    return new Pose(
        eye, lookAt(eye, new Vec3(-0.1 + 0.25 * s, 0.5, -0.2), 0.006 * wave(frame, 21, 1)));
  }

  /** The nearer one rolls to the right, the farther one towards the camera and to the left. */
  @Override
  List<Pose> cartsAt(double frame) {
    double s = along(frame);
    Rotation a = Rotation.about(new Vec3(0, 1, 0), -0.22 + 0.3 * s);
    Rotation b = Rotation.about(new Vec3(0, 1, 0), Math.PI + 0.75 - 0.35 * s);
    return List.of(
        new Pose(new Vec3(-1.35 + 1.05 * s, 0, 1.35 + 0.1 * s), a),
        new Pose(new Vec3(1.75 - 0.75 * s, 0, -0.95 + 0.4 * s * s), b));
  }

  @Override
  Pose featuresAt(double frame) {
    return switch (on) {
      case TERRACE -> Pose.IDENTITY;
      case NEAR_CART -> cartsAt(frame).get(0);
      case FAR_CART -> cartsAt(frame).get(1);
    };
  }
}
