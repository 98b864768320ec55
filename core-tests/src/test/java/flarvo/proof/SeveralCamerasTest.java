package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A shot with a main camera and a witness camera beside it. */
class SeveralCamerasTest {

  @TempDir private Path dir;

  private static ShotCamera witness(double focal, FrameRange frames) {
    return new ShotCamera(
        "witness",
        PoseTrack.of(
            frames,
            f ->
                new Pose(
                    new Vec3(1.2, 0.8 + 0.004 * (f - 1001), 0.5),
                    Rotation.about(new Vec3(0.1, 1, 0), 0.1 + 0.002 * (f - 1001)))),
        OpticsTrack.constant(frames, Optics.centred(focal, 36, 20.25)),
        Optional.empty());
  }

  private static Shot shot(ShotCamera second) {
    Shot s = CartShot.shot();
    return s.withCameras(List.of(s.camera().orElseThrow(), second));
  }

  private Path send(Shot shot, SceneFormat f, Dialect d) {
    Path file = dir.resolve(f.id() + f.extensions().get(0));
    Dispatcher.send(
        shot,
        new Delivery("x", d, f, Contents.WITH_GEOMETRY, file.getFileName().toString()),
        file,
        Progress.NONE);
    return file;
  }

  private static List<SceneFormat> carriers() {
    return Formats.all().stream()
        .filter(f -> f.writes() && !f.cannotCarry().contains(SceneFormat.MORE_CAMERAS))
        .toList();
  }

  @Test
  void everyCameraIsSentAndProven() {
    Shot both = shot(witness(32, CartShot.FRAMES));
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    for (SceneFormat f : carriers()) {
      Path file = send(both, f, d);
      ProofReport proof = Proof.of(both, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE);
      assertThat(proof.checks()).as(f.id()).allMatch(Check::holds);
      assertThat(proof.checks()).as(f.id()).extracting(Check::name).contains("camera witness");
      Shot back =
          ShotIntake.of(List.of(file), Progress.NONE)
              .shot("back", IntakeOptions.NONE.withSize(both.picture()));
      assertThat(back.cameras())
          .as(f.id())
          .extracting(ShotCamera::name)
          .containsExactly("shotcam", "witness");
      Shot one =
          ShotIntake.of(List.of(file), Progress.NONE)
              .shot("one", IntakeOptions.NONE.withSize(both.picture()).withCamera("witness"));
      assertThat(one.cameras()).as(f.id()).extracting(ShotCamera::name).containsExactly("witness");
    }
  }

  /** A lens that differs by a thousandth, a camera that is late, a camera that is not there. */
  @Test
  void aFaultOfTheSecondCameraIsSeen() {
    Shot both = shot(witness(32, CartShot.FRAMES));
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    ShotCamera late = witness(32, CartShot.FRAMES);
    ShotCamera shifted =
        late.withPoses(
            PoseTrack.of(late.frames(), f -> late.poses().at(late.frames().clamp(f + 1))));
    for (SceneFormat f : carriers()) {
      for (ShotCamera wrong : List.of(witness(32.032, CartShot.FRAMES), shifted)) {
        Path file = send(shot(wrong), f, d);
        assertThat(Proof.of(both, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).checks())
            .as(f.id())
            .filteredOn(c -> !c.holds())
            .extracting(Check::name)
            .containsExactly("camera witness");
      }
      Path file = send(CartShot.shot(), f, d);
      assertThat(Proof.of(both, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).checks())
          .as(f.id())
          .filteredOn(c -> !c.holds())
          .extracting(Check::name)
          .containsExactly("cameras");
    }
  }

  /** It is held on the frames that it lacks, and that is said. */
  @Test
  void aCameraThatEndsBeforeTheShotIsHeld() {
    Shot both = shot(witness(32, new FrameRange(1001, 1040)));
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    for (SceneFormat f : carriers()) {
      Path file = dir.resolve("held" + f.id() + f.extensions().get(0));
      Dispatcher.Sent sent =
          Dispatcher.send(
              both,
              new Delivery("x", d, f, Contents.WITH_GEOMETRY, file.getFileName().toString()),
              file,
              Progress.NONE);
      assertThat(sent.notes())
          .as(f.id())
          .extracting(Object::toString)
          .anyMatch(n -> n.contains("witness") && n.contains("1001-1040"));
      assertThat(Proof.of(both, file, d, Contents.WITH_GEOMETRY, 0.01, Progress.NONE).checks())
          .as(f.id())
          .allMatch(Check::holds);
    }
  }

  @Test
  void aTableHoldsOneAndSaysSo() {
    Shot both = shot(witness(32, CartShot.FRAMES));
    Dialect d = Dialects.shipped().get("anim-yup-cm");
    Path file = dir.resolve("t.csv");
    Dispatcher.Sent sent =
        Dispatcher.send(
            both,
            new Delivery("x", d, Formats.byId("table"), Contents.CAMERA_AND_TRACKERS, "t.csv"),
            file,
            Progress.NONE);
    assertThat(sent.notes())
        .extracting(Object::toString)
        .anyMatch(n -> n.contains("only 'shotcam' of 2"));
    assertThat(Proof.of(both, file, d, Contents.CAMERA_AND_TRACKERS, 0.01, Progress.NONE).checks())
        .allMatch(Check::holds);
  }
}
