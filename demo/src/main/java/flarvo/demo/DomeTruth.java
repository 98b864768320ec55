package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.Vec3;

/** Shot {@code mer_020_dome}: a tripod by the wall pans over the dome; nothing moves in depth. */
final class DomeTruth extends ShotTruth {

  static final DomeTruth SHOT = new DomeTruth();

  private static final FrameRange FRAMES = new FrameRange(0, 71);
  private static final Vec3 TRIPOD = new Vec3(0.9, 1.58, -2.55);

  private DomeTruth() {}

  @Override
  String name() {
    return "mer_020_dome";
  }

  @Override
  FrameRange frames() {
    return FRAMES;
  }

  @Override
  Rate rate() {
    return Rate.FPS_25;
  }

  @Override
  Optics optics() {
    return Optics.centred(24, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  @Override
  Lens lens() {
    return new Lens(0.021, 0.004);
  }

  @Override
  Pose poseAt(double frame) {
    double s = frame / (FRAMES.count() - 1);
    double eased = s * s * (3 - 2 * s);
    double pan = -0.16 + 0.62 * eased + 0.0012 * wave(frame, 11, 0.4);
    double tilt = 0.10 + 0.16 * eased + 0.0009 * wave(frame, 7, 1.3);
    Vec3 way =
        new Vec3(
            StrictMath.sin(pan) * StrictMath.cos(tilt),
            StrictMath.sin(tilt),
            -StrictMath.cos(pan) * StrictMath.cos(tilt));
    return new Pose(TRIPOD, lookAt(TRIPOD, TRIPOD.plus(way), 0.004));
  }
}
