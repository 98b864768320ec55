package flarvo.convention;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.scene.FrameRange;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.Random;
import java.util.function.IntFunction;
import org.joml.Matrix3d;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class EulerTrackTest {

  private static final FrameRange FRAMES = new FrameRange(0, 72);
  private static final Vec3[] AXES = {new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)};

  private static EulerTrack track(IntFunction<Rotation> at, RotationOrder order) {
    return EulerTrack.of(PoseTrack.of(FRAMES, f -> new Pose(Vec3.ZERO, at.apply(f))), order);
  }

  /** A camera that turns about each axis by 10° a frame, twice round: through every pole. */
  @ParameterizedTest
  @EnumSource(RotationOrder.class)
  void noAngleJumpsThroughThePolesAndPastHalfTurns(RotationOrder order) {
    for (Vec3 axis : AXES) {
      double step = Math.toRadians(10);
      EulerTrack t = track(f -> Rotation.about(axis, (f - 9) * step), order);
      for (int f = 1; f <= 72; f++) {
        for (int i = 0; i < 3; i++) {
          assertThat(Math.abs(t.radians(f, i) - t.radians(f - 1, i)))
              .as("%s about %s, frame %d, angle %d", order, axis, f, i)
              .isLessThanOrEqualTo(step + 1e-9);
        }
      }
    }
  }

  /** Tilting up over the zenith and on, after a pan: straight up, straight down, ±180°. */
  @ParameterizedTest
  @EnumSource(RotationOrder.class)
  void aTiltOverTheZenithKeepsItsPan(RotationOrder order) {
    int tilt = order.second;
    int pan = order.third;
    double step = Math.toRadians(5);
    EulerTrack t =
        track(
            f -> Rotation.about(AXES[pan], 0.6).after(Rotation.about(AXES[tilt], f * step)), order);
    for (int f = 1; f <= 72; f++) {
      for (int i = 0; i < 3; i++) {
        assertThat(Math.abs(t.radians(f, i) - t.radians(f - 1, i)))
            .isLessThanOrEqualTo(step + 1e-9);
      }
    }
    assertThat(t.radians(72, tilt)).isCloseTo(2 * Math.PI, within(1e-9));
  }

  /** A track that begins at the pole takes its free angle from what follows. */
  @Test
  void beginsAtThePoleWithoutAJump() {
    EulerTrack t =
        track(
            f ->
                Rotation.about(AXES[2], 1.1).after(Rotation.about(AXES[1], Math.PI / 2 - f * 0.01)),
            RotationOrder.XYZ);
    for (int i = 0; i < 3; i++) {
      assertThat(Math.abs(t.radians(1, i) - t.radians(0, i))).isLessThan(0.0101);
    }
  }

  @ParameterizedTest
  @EnumSource(RotationOrder.class)
  void theAnglesGiveTheRotationInAnIndependentLibrary(RotationOrder order) {
    Random random = new Random(4);
    EulerTrack t = track(f -> TestShots.randomRotation(random), order);
    Random again = new Random(4);
    for (int f = 0; f <= 72; f++) {
      Rotation r = TestShots.randomRotation(again);
      Matrix3d m = new Matrix3d();
      // On column vectors the last turn stands leftmost.
      for (int k : new int[] {order.third, order.second, order.first}) {
        double a = t.radians(f, k);
        if (k == 0) {
          m.rotateX(a);
        } else if (k == 1) {
          m.rotateY(a);
        } else {
          m.rotateZ(a);
        }
      }
      double[] rows = r.toRows();
      assertThat(m.m00).isCloseTo(rows[0], within(1e-12));
      assertThat(m.m10).isCloseTo(rows[1], within(1e-12)); // column 1, row 0
      assertThat(m.m21).isCloseTo(rows[5], within(1e-12)); // column 2, row 1
    }
  }

  @Test
  void isContinuousOnARandomSmoothMove() {
    for (RotationOrder order : RotationOrder.values()) {
      EulerTrack t =
          track(
              f ->
                  Rotation.about(new Vec3(0.3, 1, 0.2), f * 0.15)
                      .after(Rotation.about(new Vec3(1, 0, 0), 0.4 * Math.sin(f * 0.2))),
              order);
      for (int f = 1; f <= 72; f++) {
        for (int i = 0; i < 3; i++) {
          assertThat(Math.abs(t.radians(f, i) - t.radians(f - 1, i))).isLessThan(Math.PI / 2);
        }
      }
    }
  }
}
