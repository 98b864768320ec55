package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import java.util.Optional;
import java.util.Random;
import org.joml.Matrix4d;
import org.joml.Vector4d;
import org.junit.jupiter.api.Test;

class PinholeTest {

  private static final FrameRange ONE = new FrameRange(7, 7);
  private static final PictureSize PICTURE = PictureSize.of(2048, 858);

  private static Pinhole pinhole(Pose pose, Optics optics) {
    return new Pinhole(
            new ShotCamera(
                "c",
                PoseTrack.of(ONE, f -> pose),
                OpticsTrack.constant(ONE, optics),
                Optional.empty()),
            PICTURE)
        .at(7);
  }

  @Test
  void manyAtOnceAreTheSameInGroupsThatMoveToo() {
    Shot still = flarvo.TestShots.walk(8, 150, 11);
    FrameRange frames = still.frames();
    Group moving =
        new Group(
            "g",
            Optional.empty(),
            Optional.of(
                PoseTrack.of(
                    frames,
                    f ->
                        new Pose(
                            new Vec3(0.1 * f, 1, -2),
                            Rotation.about(new Vec3(0, 1, 1), 0.1 * f)))));
    TrackerSet set = still.trackers().get(0);
    Pinhole p = new Pinhole(still.camera().orElseThrow(), still.picture());
    Pinhole q = new Pinhole(still.camera().orElseThrow(), still.picture());
    double[] out = new double[3];
    int some = 0;
    for (int f = frames.first(); f <= frames.last(); f++) {
      p.at(f);
      q.at(f);
      for (TrackerSet t : java.util.List.of(set, set.inGroup(Optional.of(moving)))) {
        PointBlocks blocks = t.blocks();
        ProjectedBlock block = new ProjectedBlock();
        for (int b = 0; b < blocks.count(); b++) {
          block.load(blocks, b);
          q.project(t, block);
          for (int i = 0; i < blocks.size(b); i++) {
            p.project(t, blocks.original(b, i), out);
            double depth = block.depth[i];
            assertThat(depth).isCloseTo(out[2], within(1e-13 * Math.abs(out[2]) + 1e-14));
            if (out[2] > 0) {
              double x = out[0] * out[2];
              double y = out[1] * out[2];
              assertThat(block.x[i]).isCloseTo(x, within(1e-10 + 1e-14 * Math.abs(x)));
              assertThat(block.y[i]).isCloseTo(y, within(1e-10 + 1e-14 * Math.abs(y)));
            }
          }
        }
        double[] range = {Double.MAX_VALUE, 0};
        double[] inside = {Double.MAX_VALUE, 0};
        for (int i = 0; i < t.size(); i++) {
          p.project(t, i, out);
          if (out[2] > 1) {
            range[0] = Math.min(range[0], out[2]);
            range[1] = Math.max(range[1], out[2]);
            if (out[0] >= 0 && out[0] <= 1920 && out[1] >= 0 && out[1] <= 1080) {
              inside[0] = Math.min(inside[0], out[2]);
              inside[1] = Math.max(inside[1], out[2]);
            }
          }
        }
        double[] wide = {Double.MAX_VALUE, 0};
        q.widen(t, 1, false, wide);
        assertThat(wide).isEqualTo(range);
        double[] seen = {Double.MAX_VALUE, 0};
        q.widen(t, 1, true, seen);
        assertThat(seen).isEqualTo(inside);
        some += inside[1] > 0 ? 1 : 0;
      }
    }
    assertThat(some).isGreaterThan(4);
  }

  @Test
  void looksAlongMinusZ() {
    Pinhole p = pinhole(Pose.IDENTITY, Optics.centred(50, 40, 40.0 * 858 / 2048));
    double[] px = new double[3];
    p.project(0, 0, -10, px);
    assertThat(px).containsExactly(1024, 429, 10);
    p.project(1, 2, -10, px);
    // 50 mm over 40 mm of film on 2048 px: 2560 px of focal length.
    assertThat(px[0]).isCloseTo(1024 + 256, within(1e-9));
    assertThat(px[1]).isCloseTo(429 - 512, within(1e-9));
    p.project(0, 0, 10, px);
    assertThat(px[0]).isNaN();
    assertThat(px[2]).isEqualTo(-10);
  }

  /** The same picture out of a projection matrix that a graphics library builds. */
  @Test
  void agreesWithAFrustumMatrix() {
    Random r = new Random(2);
    double[] px = new double[3];
    for (int i = 0; i < 500; i++) {
      Optics o = new Optics(20 + 60 * r.nextDouble(), 36, 18, r.nextGaussian(), r.nextGaussian());
      Pose pose = TestShots.randomPose(r);
      // The window of the film, seen from behind the lens, lies opposite to the principal point.
      double near = 0.1;
      double k = near / o.focalLengthMm();
      double left = (-18 - o.principalXMm()) * k;
      double right = (18 - o.principalXMm()) * k;
      double bottom = (-9 - o.principalYMm()) * k;
      double top = (9 - o.principalYMm()) * k;
      double[] m = pose.rotation().toRows();
      Matrix4d world =
          new Matrix4d(
              m[0],
              m[3],
              m[6],
              0,
              m[1],
              m[4],
              m[7],
              0,
              m[2],
              m[5],
              m[8],
              0,
              pose.position().x(),
              pose.position().y(),
              pose.position().z(),
              1);
      Vector4d v = new Vector4d(r.nextGaussian(), r.nextGaussian(), r.nextGaussian(), 1);
      Pinhole p = pinhole(pose, o);
      p.project(v.x, v.y, v.z, px);
      new Matrix4d().frustum(left, right, bottom, top, near, 100).mul(world.invert()).transform(v);
      if (v.w > 0.05) {
        assertThat(px[0]).isCloseTo((v.x / v.w * 0.5 + 0.5) * 2048, within(1e-6));
        assertThat(px[1]).isCloseTo((0.5 - v.y / v.w * 0.5) * 858, within(1e-6));
        assertThat(px[2]).isCloseTo(v.w, within(1e-9));
      } else {
        assertThat(px[2]).isLessThan(0.06);
      }
    }
  }

  @Test
  void aRayGoesThroughItsPixel() {
    Random r = new Random(3);
    double[] px = new double[3];
    for (int i = 0; i < 200; i++) {
      Pose pose = TestShots.randomPose(r);
      Pinhole p = pinhole(pose, new Optics(35, 36, 18, 0.4, -0.7));
      double x = 2048 * r.nextDouble();
      double y = 858 * r.nextDouble();
      Vec3 at = pose.position().plus(p.ray(x, y).times(3.7));
      p.project(at.x(), at.y(), at.z(), px);
      assertThat(px[0]).isCloseTo(x, within(1e-9));
      assertThat(px[1]).isCloseTo(y, within(1e-9));
    }
  }

  @Test
  void aLevelNeverChangesAPixel() {
    Random r = new Random(9);
    for (int i = 0; i < 20; i++) {
      Shot s = TestShots.walk(12, 30, i);
      Shot levelled =
          s.withLevel(
                  new Similarity(
                      Math.exp(2 * r.nextGaussian()),
                      TestShots.randomRotation(r),
                      new Vec3(10 * r.nextGaussian(), r.nextGaussian(), 10 * r.nextGaussian())))
              .levelled()
              .contents();
      assertThat(
              TestShots.worstPixel(
                  s.cameras().get(0),
                  s.trackers(),
                  levelled.cameras().get(0),
                  levelled.trackers(),
                  s.picture()))
          .isLessThan(1e-9);
    }
  }
}
