package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
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
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Every convention to every other and back, and what a convention means in the first place. */
class ConversionSweepTest {

  private static final PictureSize PICTURE = PictureSize.of(1920, 1080);
  private static final List<LinearUnit> UNITS =
      List.of(LinearUnit.MILLIMETRE, LinearUnit.FOOT, LinearUnit.METRE);
  private static final FrameRange ONE = new FrameRange(0, 0);

  private static Dialect dialect(WorldAxes w, CameraAxes c, RotationOrder order, LinearUnit unit) {
    return Dialect.CANONICAL
        .withWorld(w)
        .withCamera(c)
        .withRotation(order, AngleUnit.DEGREES)
        .withUnit(unit);
  }

  @Test
  void thereAreFortyEightWorldsHalfOfEachHandAndTwentyFourCameras() {
    assertThat(WorldAxes.all()).hasSize(48).doesNotHaveDuplicates();
    assertThat(WorldAxes.all().stream().filter(w -> w.handedness() == Handedness.LEFT)).hasSize(24);
    assertThat(CameraAxes.all()).hasSize(24).doesNotHaveDuplicates();
    assertThat(WorldAxes.CANONICAL.handedness()).isEqualTo(Handedness.RIGHT);
  }

  /**
   * 48 × 48 worlds × 24 camera axes × 6 rotation orders × 3 units: from one dialect through angles
   * and units to the other and back.
   */
  @Test
  void everyPairOfConventionsUndoesItself() {
    Random random = new Random(48);
    List<WorldAxes> worlds = WorldAxes.all();
    List<CameraAxes> cameras = CameraAxes.all();
    double worstPose = 0;
    double worstPixel = 0;
    int n = 0;
    double[] before = new double[3];
    double[] after = new double[3];
    for (WorldAxes from : worlds) {
      for (WorldAxes to : worlds) {
        for (CameraAxes look : cameras) {
          for (RotationOrder order : RotationOrder.values()) {
            for (LinearUnit unit : UNITS) {
              Pose pose = TestShots.randomPose(random);
              Dialect a = dialect(from, cameras.get(n % 24), order, UNITS.get(n % 3));
              Dialect b = dialect(to, look, order, unit);
              Pose back = through(pose, a, b);
              worstPose =
                  Math.max(
                      worstPose,
                      back.position().minus(pose.position()).length()
                          / Math.max(1, pose.position().length()));
              worstPose = Math.max(worstPose, back.rotation().angleTo(pose.rotation()));
              if (n % 37 == 0) {
                // A point in front of the camera, through the same journey as the camera.
                Vec3 p = pose.toWorld(new Vec3(0.4, -0.3, -2));
                Vec3 q = a.spaceChange(PICTURE).toCanonical(a.spaceChange(PICTURE).toDialect(p));
                q = b.spaceChange(PICTURE).toCanonical(b.spaceChange(PICTURE).toDialect(q));
                pinhole(pose).project(p.x(), p.y(), p.z(), before);
                pinhole(back).project(q.x(), q.y(), q.z(), after);
                worstPixel =
                    Math.max(worstPixel, Math.hypot(before[0] - after[0], before[1] - after[1]));
              }
              n++;
            }
          }
        }
      }
    }
    assertThat(n).isEqualTo(48 * 48 * 24 * 6 * 3);
    assertThat(worstPose).isLessThan(1e-12);
    assertThat(worstPixel).isLessThan(1e-9);
  }

  private static Pose through(Pose pose, Dialect a, Dialect b) {
    Pose canonical = viaAngles(pose, a);
    return viaAngles(canonical, b);
  }

  /** Into a dialect, its rotation spelled as three angles and read again, and back. */
  private static Pose viaAngles(Pose pose, Dialect d) {
    SpaceChange change = d.spaceChange(PICTURE);
    Pose there = change.toDialect(pose);
    double[] angles = d.rotationOrder().decompose(there.rotation(), 0);
    Rotation read = d.rotationOrder().compose(angles[0], angles[1], angles[2]);
    return change.toCanonical(new Pose(there.position(), read));
  }

  private static Pinhole pinhole(Pose pose) {
    return new Pinhole(
            new ShotCamera(
                "c",
                PoseTrack.of(ONE, f -> pose),
                OpticsTrack.constant(ONE, Optics.centred(30, 36, 20.25)),
                Optional.empty()),
            PICTURE)
        .at(0);
  }

  /**
   * The meaning, by another road than the one under test: in the dialect's world the camera's own
   * view, up and right axes must point where the canonical camera's do.
   */
  @Test
  void theCameraLooksAtTheSameThingInEveryConvention() {
    Random random = new Random(24);
    for (WorldAxes w : WorldAxes.all()) {
      for (CameraAxes c : CameraAxes.all()) {
        Dialect d = dialect(w, c, RotationOrder.XYZ, LinearUnit.CENTIMETRE);
        Pose pose = TestShots.randomPose(random);
        Pose there = d.spaceChange(PICTURE).toDialect(pose);
        Vec3 seen = pose.toWorld(new Vec3(0, 0, -1));
        Vec3 above = pose.toWorld(new Vec3(0, 1, 0));
        assertThat(
                there
                    .toWorld(axis(c.view()).times(100))
                    .minus(inWorld(seen, w).times(100))
                    .length())
            .isLessThan(1e-9);
        assertThat(
                there.toWorld(axis(c.up()).times(100)).minus(inWorld(above, w).times(100)).length())
            .isLessThan(1e-9);
      }
    }
  }

  private static Vec3 axis(SignedAxis a) {
    double[] v = new double[3];
    v[a.index()] = a.sign();
    return new Vec3(v[0], v[1], v[2]);
  }

  /** Along right, up and away, as the words say. */
  private static Vec3 inWorld(Vec3 p, WorldAxes w) {
    return axis(w.right())
        .times(p.x())
        .plus(axis(w.up()).times(p.y()))
        .plus(axis(w.away()).times(-p.z()));
  }

  @Test
  void handednessIsWhatTheCrossProductSays() {
    for (WorldAxes w : WorldAxes.all()) {
      Vec3 toward = axis(w.right()).cross(axis(w.up()));
      boolean right = toward.minus(axis(w.away()).times(-1)).length() < 1e-12;
      assertThat(w.handedness()).isEqualTo(right ? Handedness.RIGHT : Handedness.LEFT);
    }
  }

  @Test
  void pixelSpaceSeesAPlaneOneToOneFromItsFocalLengthInPixels() {
    Dialect corner = Dialects.shipped().get("comp-pixels-corner");
    SpaceChange change = corner.spaceChange(PICTURE);
    Pose camera = change.toDialect(Pose.IDENTITY);
    // 30 mm on a 36 mm back of 1920 px is 1600 px; the plane that far away is the picture.
    double focalPx = 30.0 / 36 * 1920;
    Vec3 pixel = new Vec3(123, 456, camera.position().z() + focalPx);
    Vec3 metres = change.toCanonical(pixel);
    double[] px = new double[3];
    pinhole(Pose.IDENTITY).project(metres.x(), metres.y(), metres.z(), px);
    assertThat(px[0]).isCloseTo(123, org.assertj.core.api.Assertions.within(1e-9));
    assertThat(px[1]).isCloseTo(456, org.assertj.core.api.Assertions.within(1e-9));
  }

  @Test
  void scaleNeverTouchesTheLens() {
    ShotCamera c = TestShots.walk(3, 1, 1).cameras().get(0);
    Dialect mm = Dialect.CANONICAL.withUnit(LinearUnit.MILLIMETRE);
    ShotCamera there = mm.spaceChange(PICTURE).toDialect(c);
    assertThat(there.optics()).isEqualTo(c.optics());
    assertThat(there.clip().orElseThrow().near()).isEqualTo(100);
  }
}
