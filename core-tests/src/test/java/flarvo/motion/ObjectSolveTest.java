package flarvo.motion;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** A world with an object that moves in it, solved twice: on the ground and on the object. */
class ObjectSolveTest {

  private static final FrameRange FRAMES = new FrameRange(1, 30);
  private static final PictureSize PICTURE = PictureSize.of(1920, 1080);

  /** Truth in metres: the camera, the object's motion, points of each. */
  private final PoseTrack camera =
      PoseTrack.of(
          FRAMES,
          f ->
              new Pose(
                  new Vec3(-1 + 0.05 * f, 1.6 + 0.01 * Math.sin(f), 6 - 0.03 * f),
                  Rotation.about(new Vec3(0, 1, 0), 0.01 * f - 0.1)
                      .after(Rotation.about(new Vec3(1, 0, 0), -0.15))));

  private final PoseTrack motion =
      PoseTrack.of(
          FRAMES,
          f ->
              new Pose(
                  new Vec3(-1.2 + 0.08 * f, 0, 0.5 + 0.02 * f),
                  Rotation.about(new Vec3(0, 1, 0), 0.03 * f)));

  private static TrackerSet points(String prefix, Random r, double y) {
    List<String> names = new ArrayList<>();
    double[] xyz = new double[36];
    for (int i = 0; i < 12; i++) {
      names.add(prefix + i);
      xyz[3 * i] = 1.2 * (r.nextDouble() - 0.5);
      xyz[3 * i + 1] = i == 0 ? 0 : y * r.nextDouble();
      xyz[3 * i + 2] = 1.2 * (r.nextDouble() - 0.5);
    }
    return TrackerSet.of("trackers", names, xyz);
  }

  private final TrackerSet ground = points("t", new Random(1), 0.1);
  private final TrackerSet body = points("t", new Random(2), 1.2);

  private static Shot shot(PoseTrack poses, TrackerSet t) {
    return new Shot(
        "s",
        PICTURE,
        Rate.FPS_24,
        FRAMES,
        1,
        List.of(
            new ShotCamera(
                "cam",
                poses,
                OpticsTrack.constant(FRAMES, new Optics(28, 24.576, 13.824, 0.2, -0.1)),
                Optional.empty())),
        List.of(t),
        Observations.NONE,
        List.of(),
        Similarity.IDENTITY);
  }

  /** A solve has an origin, a turn and a scale of its own. */
  private static Shot solved(Shot s, Similarity own) {
    ShotCamera c = s.cameras().get(0);
    return s.withCameras(
            List.of(c.withPoses(PoseTrack.of(c.frames(), f -> own.apply(c.poses().at(f))))))
        .withTrackers(s.trackers().stream().map(t -> t.under(own)).toList());
  }

  private static final Similarity SCENE =
      new Similarity(0.4, Rotation.about(new Vec3(1, 2, 0.5), 0.8), new Vec3(3, -2, 1));

  /** Solved on the ground; its level takes it back to metres. */
  private Shot scene() {
    return solved(shot(camera, ground), SCENE).withLevel(SCENE.inverse());
  }

  /** Solved on the object, at a scale of its own. */
  private Shot object(double scale) {
    PoseTrack seen =
        PoseTrack.of(
            FRAMES,
            f -> {
              Pose g = motion.at(f);
              return new Pose(
                  g.toLocal(camera.at(f).position()),
                  g.rotation().inverse().after(camera.at(f).rotation()));
            });
    return solved(
        shot(seen, body),
        new Similarity(scale, Rotation.about(new Vec3(0, 1, 3), 1.1), new Vec3(-7, 4, 2)));
  }

  private Vec3 truth(int i, int f) {
    return motion.at(f).toWorld(body.position(i));
  }

  @Test
  void thePictureIsTheSameForEveryScale() {
    ObjectSolve o = ObjectSolve.of(scene(), object(2.3));
    for (double k : new double[] {0.01, 0.5, 1, 3, 40}) {
      Shot both = o.in("cart", k);
      Pinhole hole = new Pinhole(both.cameras().get(0), PICTURE);
      Pinhole real = new Pinhole(shot(camera, body).cameras().get(0), PICTURE);
      double[] p = new double[3];
      double[] q = new double[3];
      for (int f = 1; f <= 30; f++) {
        hole.at(f);
        real.at(f);
        for (int i = 0; i < 12; i++) {
          hole.project(both.trackers().get(1), i, p);
          Vec3 at = truth(i, f);
          real.project(at.x(), at.y(), at.z(), q);
          assertThat(Math.hypot(p[0] - q[0], p[1] - q[1])).isLessThan(1e-7);
        }
      }
    }
  }

  @Test
  void everyStatementSettlesTheScale() {
    ObjectSolve o = ObjectSolve.of(scene(), object(2.3));
    double length = body.position(3).minus(body.position(7)).length();
    double away = truth(4, 12).minus(camera.at(12).position()).length();
    List<ObjectScale> all =
        List.of(
            new ObjectScale.Length("t3", "t7", length),
            new ObjectScale.Away("t4", 12, away),
            new ObjectScale.OnGround("t0", 9), // the one whose height is 0
            new ObjectScale.At("t5", 20, truth(5, 20)));
    for (ObjectScale s : all) {
      Shot both = o.in("cart", s.of(o));
      TrackerSet cart = both.levelled().contents().trackers().get(1);
      for (int f = 1; f <= 30; f += 7) {
        for (int i = 0; i < 12; i++) {
          assertThat(cart.position(i, f).minus(truth(i, f)).length())
              .as(s.words())
              .isLessThan(1e-9);
        }
      }
    }
    double k = new ObjectScale.Factor(0.17).of(o);
    assertThat(k).isEqualTo(0.17);
  }

  @Test
  void namesStayApartAndTheGroupMoves() {
    Shot both = ObjectSolve.of(scene(), object(1)).in("cart", 1);
    assertThat(both.trackers()).hasSize(2);
    assertThat(both.trackers().get(0).names()).contains("t0");
    assertThat(both.trackers().get(1).names()).contains("cart_t0");
    assertThat(both.trackers().get(1).group().map(Group::name)).contains("cart");
    assertThat(both.cameras()).hasSize(1);
    // The group turns about the middle of the object, and not about the origin of its solve.
    Vec3 origin = both.trackers().get(1).group().orElseThrow().at(7).position();
    for (int i = 0; i < 12; i++) {
      assertThat(both.trackers().get(1).position(i, 7).minus(origin).length()).isLessThan(1.2);
    }
    // Held, the cart stands still and the rest takes over.
    Shot held = Held.group("cart", 5).of(both);
    assertThat(held.trackers().get(1).moves()).isFalse();
    assertThat(held.trackers().get(0).moves()).isTrue();
  }

  @Test
  void whatCannotBeSettledIsRefused() {
    ObjectSolve o = ObjectSolve.of(scene(), object(1));
    assertThatThrownBy(() -> new ObjectScale.Length("t3", "nobody", 1).of(o))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no tracker 'nobody'");
    assertThatThrownBy(() -> new ObjectScale.At("t5", 20, new Vec3(0, 1, 99)).of(o))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("behind the camera");
    assertThatThrownBy(() -> o.in("cart", 0)).isInstanceOf(InputError.class);
    Shot bare = scene().withCameras(List.of());
    assertThatThrownBy(() -> ObjectSolve.of(bare, object(1)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("the scene has no camera");
    Shot zoomed =
        object(1)
            .withCameras(
                List.of(
                    object(1)
                        .cameras()
                        .get(0)
                        .withOptics(
                            OpticsTrack.constant(FRAMES, Optics.centred(35, 24.576, 13.824)))));
    assertThatThrownBy(() -> ObjectSolve.of(scene(), zoomed))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("different lenses");
    Shot later = object(1).withCameras(List.of(object(1).cameras().get(0).shifted(100)));
    assertThatThrownBy(() -> ObjectSolve.of(scene(), later))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("frames");
    assertThat(o.frames()).isEqualTo(FRAMES);
    assertThat(o.eye(3).minus(scene().cameras().get(0).poses().at(3).position()).length())
        .isCloseTo(0, within(1e-15));
  }
}
