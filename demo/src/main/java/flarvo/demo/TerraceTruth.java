package flarvo.demo;

import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.Rate;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;

/** Shot {@code mer_010_terrace}: a hand-held walk round the stone sundial. */
public final class TerraceTruth extends ShotTruth {

  static final TerraceTruth SHOT = new TerraceTruth();

  public static final FrameRange FRAMES = new FrameRange(1001, 1096);
  public static final PictureSize PICTURE = ShotTruth.PICTURE;

  /** Side of a flagstone, joint included. */
  public static final double FLAGSTONE_METRES = 0.6;

  /** Height of the sundial's stone, on which the brass lies. */
  public static final double SUNDIAL_METRES = 1.01;

  static final Lens LENS = new Lens(0.062, 0.014);

  private static final double WALK_RADIUS = 3.1;
  private static final double EYE_HEIGHT = 1.62;

  private TerraceTruth() {}

  public static ShotCamera camera() {
    return SHOT.solvedCamera();
  }

  @Override
  String name() {
    return "mer_010_terrace";
  }

  @Override
  FrameRange frames() {
    return FRAMES;
  }

  @Override
  Rate rate() {
    return Rate.NTSC_24;
  }

  @Override
  Optics optics() {
    return Optics.centred(17.5, FILM_WIDTH_MM, FILM_HEIGHT_MM);
  }

  @Override
  Lens lens() {
    return LENS;
  }

  @Override
  Pose poseAt(double frame) {
    double s = (frame - FRAMES.first()) / (FRAMES.count() - 1);
    double angle = -0.62 + 1.15 * s + 0.04 * wave(frame, 31, 0.3);
    double radius = WALK_RADIUS - 0.35 * s + 0.05 * wave(frame, 43, 1.1);
    Vec3 eye =
        new Vec3(
            radius * StrictMath.sin(angle),
            // Steps bob the camera twice a second; breathing sways it.
            EYE_HEIGHT + 0.022 * wave(frame, 12.4, 0) + 0.015 * wave(frame, 57, 2.0),
            radius * StrictMath.cos(angle) + 0.012 * wave(frame, 24.8, 0.9));
    Vec3 target =
        new Vec3(
            0.05 * wave(frame, 37, 0.4) + 0.012 * wave(frame, 7.3, 1.7),
            0.78 + 0.03 * wave(frame, 29, 2.2) + 0.010 * wave(frame, 6.1, 0.2),
            -0.25);
    double roll = 0.008 * wave(frame, 33, 0.7) + 0.003 * wave(frame, 8.9, 2.9);
    return new Pose(eye, lookAt(eye, target, roll));
  }
}
