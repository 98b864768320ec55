package flarvo.dispatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FrameMap;
import flarvo.convention.RatePolicy;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.format.ReadLimits;
import flarvo.format.SceneFormat;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DispatchTest {

  @TempDir private Path dir;
  private final Shot shot = TestShots.walk(24, 20, 9);

  private static Delivery delivery(Dialect d, String format, Contents c) {
    return new Delivery("d", d, Formats.byId(format), c, "d");
  }

  private FileScene sent(Shot s, Delivery d, String name) {
    Path f = dir.resolve(name);
    Dispatcher.send(s, d, f, Progress.NONE);
    return d.format().read(f, d.dialect(), ReadLimits.USUAL, Progress.NONE);
  }

  // ---- resampling ----

  /** A steady walk and a steady turn, which cubic and shortest arc must reproduce exactly. */
  private static ShotCamera steady() {
    FrameRange r = new FrameRange(0, 48);
    return new ShotCamera(
        "c",
        PoseTrack.of(
            r,
            f ->
                new Pose(
                    new Vec3(0.1 * f, 1, -0.2 * f), Rotation.about(new Vec3(0, 1, 0), 0.02 * f))),
        OpticsTrack.of(r, f -> Optics.centred(30 + f, 36, 24)),
        Optional.empty());
  }

  @Test
  void aSteadyMoveIsResampledExactly() {
    FrameMap m =
        new FrameMap(
            new FrameRange(0, 48), Rate.FPS_24, 100, new Rate(60, 1), RatePolicy.KEEP_SECONDS);
    ShotCamera out = Resampler.onto(steady(), m);
    assertThat(out.frames()).isEqualTo(new FrameRange(100, 220));
    // The cubic leans on a repeated neighbour in the first and last interval.
    for (int f = 103; f <= 217; f++) {
      double p = (f - 100) * 24 / 60.0;
      Pose pose = out.poses().at(f);
      assertThat(pose.position().minus(new Vec3(0.1 * p, 1, -0.2 * p)).length()).isLessThan(1e-12);
      assertThat(pose.rotation().angleTo(Rotation.about(new Vec3(0, 1, 0), 0.02 * p)))
          .isLessThan(1e-12);
      assertThat(out.optics().at(f).focalLengthMm()).isCloseTo(30 + p, within(1e-9));
    }
    assertThat(out.poses().at(100)).isEqualTo(steady().poses().at(0));
    assertThat(out.poses().at(220)).isEqualTo(steady().poses().at(48));
  }

  @Test
  void aCurveIsFollowedMoreCloselyThanByStraightLines() {
    FrameRange r = new FrameRange(0, 30);
    ShotCamera c =
        new ShotCamera(
            "c",
            PoseTrack.of(
                r,
                f ->
                    new Pose(new Vec3(Math.cos(0.2 * f), 0, Math.sin(0.2 * f)), Rotation.IDENTITY)),
            OpticsTrack.constant(r, Optics.centred(35, 36, 24)),
            Optional.empty());
    FrameMap m = new FrameMap(r, Rate.FPS_24, 0, new Rate(48, 1), RatePolicy.KEEP_SECONDS);
    ShotCamera out = Resampler.onto(c, m);
    for (int f = 3; f < 57; f += 2) {
      double at = f / 2.0;
      Vec3 truth = new Vec3(Math.cos(0.2 * at), 0, Math.sin(0.2 * at));
      double cubic = out.poses().at(f).position().minus(truth).length();
      // A chord of 0.2 rad sags by 1 − cos 0.1.
      assertThat(cubic).isLessThan((1 - Math.cos(0.1)) / 10);
    }
  }

  @Test
  void keepingFramesOnlyRenumbers() {
    FrameMap m =
        new FrameMap(new FrameRange(0, 48), Rate.FPS_24, 1001, Rate.FPS_25, RatePolicy.KEEP_FRAMES);
    ShotCamera out = Resampler.onto(steady(), m);
    assertThat(out.frames()).isEqualTo(new FrameRange(1001, 1049));
    assertThat(out.poses().at(1001)).isEqualTo(steady().poses().at(0));
  }

  // ---- what goes along ----

  @Test
  void contentsAreWhatWasAskedFor() {
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    FileScene both = sent(shot, delivery(d, "usd-text", Contents.CAMERA_AND_TRACKERS), "a.usda");
    assertThat(both.cameras()).hasSize(1);
    assertThat(both.trackerCount()).isEqualTo(20);
    FileScene camera = sent(shot, delivery(d, "usd-text", Contents.CAMERA), "b.usda");
    assertThat(camera.trackerCount()).isZero();
    FileScene points = sent(shot, delivery(d, "fbx-text", Contents.TRACKERS), "c.fbx");
    assertThat(points.cameras()).isEmpty();
    assertThat(points.trackers().get(0).names()).isEqualTo(shot.trackers().get(0).names());
  }

  @Test
  void clippingPlanesFitTheSceneWhereNoneCame() {
    ShotCamera open =
        new ShotCamera(
            "c", shot.cameras().get(0).poses(), shot.cameras().get(0).optics(), Optional.empty());
    ClipRange c = ClipFit.around(open, shot.trackers(), shot.picture());
    assertThat(c.near()).isBetween(0.05, 0.5);
    assertThat(c.far()).isBetween(30.0, 80.0);
    assertThat(ClipFit.around(open, List.of(), shot.picture()).far()).isEqualTo(10_000);
  }

  @Test
  void planesLeaveInWhatIsNearestAndFarthestAtAnyFrame() {
    for (int frames : new int[] {1, 2, 31, 32, 33, 150}) {
      Shot walk = flarvo.TestShots.walk(frames, 120, frames);
      ShotCamera c = walk.camera().orElseThrow();
      TrackerSet t = walk.trackers().get(0);
      Pinhole p = new Pinhole(c, walk.picture());
      double[] px = new double[3];
      double near = Double.MAX_VALUE;
      double far = 0;
      for (int f = walk.frames().first(); f <= walk.frames().last(); f++) {
        p.at(f);
        for (int i = 0; i < t.size(); i++) {
          p.project(t, i, px);
          if (px[2] > 1e-3) {
            near = Math.min(near, px[2]);
            far = Math.max(far, px[2]);
          }
        }
      }
      assertThat(ClipFit.around(c, walk.trackers(), walk.picture()))
          .as("%d frames", frames)
          .isEqualTo(new ClipRange(near / 10, far * 10));
    }
  }

  @Test
  void thePlateIsTheUndistortedOneAndItsPathRelative() {
    PlateSequence original =
        new PlateSequence(
            dir.resolve("plates/original"),
            "p.",
            4,
            ".jpg",
            shot.frames(),
            List.of(),
            PictureSize.of(1920, 1080),
            PlateRole.ORIGINAL);
    PlateSequence flat =
        new PlateSequence(
            dir.resolve("plates/flat"),
            "u.",
            4,
            ".jpg",
            shot.frames(),
            List.of(),
            PictureSize.of(1920, 1080),
            PlateRole.UNDISTORTED);
    Shot s = shot.withPlates(List.of(original, flat));
    for (String format : new String[] {"usd-text", "fbx-text"}) {
      String name = "out/d" + Formats.byId(format).extensions().get(0);
      FileScene f =
          sent(
              s,
              delivery(Dialects.shipped().get("comp-yup"), format, Contents.CAMERA_AND_TRACKERS),
              name);
      assertThat(f.plate().orElseThrow().path()).isEqualTo("../plates/flat/u.####.jpg");
      assertThat(f.plate().orElseThrow().role()).isEqualTo(PlateRole.UNDISTORTED);
    }
  }

  @Test
  void aShotWithoutACameraCannotSendOne() {
    Shot none =
        new Shot(
            "n",
            shot.picture(),
            shot.rate(),
            shot.frames(),
            0,
            List.of(),
            shot.trackers(),
            Observations.NONE,
            List.of(),
            shot.level());
    assertThatThrownBy(
            () ->
                sent(
                    none,
                    delivery(Dialects.shipped().get("comp-yup"), "usd-text", Contents.CAMERA),
                    "x.usda"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("no camera");
    assertThat(dir.resolve("x.usda")).doesNotExist();
  }

  @Test
  void lossesAreSaidForThisVeryShot() {
    Dialects all = Dialects.shipped();
    Shot shifted = TestShots.zoom(4, 3, 1);
    assertThat(Losses.of(shifted, Formats.byId("usd-text"), all.get("comp-pixels")))
        .anyMatch(n -> n.where().equals("lens shift") && n.kind() == Note.Kind.LOST)
        .anyMatch(n -> n.where().equals("up axis"));
    assertThat(Losses.of(shot, Formats.byId("usd-text"), all.get("comp-pixels")))
        .noneMatch(n -> n.where().equals("lens shift"));
    assertThat(Losses.of(shot, Formats.byId("usd-text"), all.get("engine-zup-left-cm")))
        .anyMatch(n -> n.where().equals("handedness"));
    Dialect other = all.get("anim-yup-cm");
    assertThat(
            Losses.of(
                shot,
                Formats.byId("usd-text"),
                other.withFrames(other.frames().withRate(Rate.FPS_25))))
        .anyMatch(n -> n.where().equals("rate"));
  }

  /** What came with clipping planes keeps them, or is told that it does not. */
  @Test
  void clippingPlanesAreCarriedOrSaidAsLost() {
    ClipRange planes = new ClipRange(0.25, 640);
    ShotCamera camera = shot.camera().orElseThrow().withClip(planes);
    Shot clipped = shot.withCameras(List.of(camera));
    for (SceneFormat f : Formats.all()) {
      if (!f.writes()) {
        continue;
      }
      Delivery d = delivery(Dialects.shipped().get("anim-yup-cm"), f.id(), Contents.CAMERA);
      FileScene read = sent(clipped, d, "clipped" + f.extensions().get(0));
      boolean lost =
          Losses.of(clipped, d).stream()
              .anyMatch(n -> n.where().equals("clipping planes") && n.kind() == Note.Kind.LOST);
      assertThat(lost).as(f.id()).isEqualTo(read.cameras().get(0).camera().clip().isEmpty());
      assertThat(lost).as(f.id()).isEqualTo(f.id().equals("table"));
      if (!lost) {
        ClipRange there =
            f.nearestSupported(d.dialect())
                .spoken()
                .spaceChange(shot.picture())
                .toCanonical(read.cameras().get(0).camera())
                .clip()
                .orElseThrow();
        assertThat(there.near()).as(f.id()).isCloseTo(planes.near(), within(1e-6));
        assertThat(there.far()).as(f.id()).isCloseTo(planes.far(), within(1e-3));
      }
      Shot without = shot.withCameras(List.of(camera.withoutClip()));
      assertThat(Losses.of(without, d)).noneMatch(n -> n.where().equals("clipping planes"));
    }
  }

  @Test
  void theExtensionFollowsTheFormat() {
    Delivery d =
        new Delivery(
            "d", Dialect.CANONICAL, Formats.byId("usd-text"), Contents.CAMERA, "shot.v2.usda");
    assertThat(d.withFormat(Formats.byId("fbx-text")).fileName()).isEqualTo("shot.v2.fbx");
  }
}
