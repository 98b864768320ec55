package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Extract;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.scene.Pinhole;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Deliveries of some of a shot's frames, and of a solve that is not levelled. */
class ExtractDeliveryTest {

  private static final Similarity LEVEL =
      new Similarity(3, Rotation.about(new Vec3(0.3, 1, 0.1), 0.4), new Vec3(5, -2, 1));

  @TempDir private Path dir;

  private static Shot shot() {
    return TestShots.walkFrom(1001, 24, 30, 5).withLevel(LEVEL);
  }

  private static Stream<SceneFormat> formats() {
    return Formats.all().stream().filter(SceneFormat::writes);
  }

  private ProofReport sent(Delivery d, Path file) {
    return Handover.send(
            Outgoing.of(shot()), d, file, ProofReport.USUAL_LIMIT_PX, List.of(), Progress.NONE)
        .proof();
  }

  @ParameterizedTest
  @MethodSource("formats")
  void handlesAreLeftOffAndTheRestStaysOnItsPixels(SceneFormat format) {
    for (String name : List.of("anim-yup-cm", "comp-yup", "track-ydown-mm")) {
      Dialect dialect = Dialects.shipped().get(name);
      Contents what = format.id().equals("table") ? Contents.CAMERA : Contents.CAMERA_AND_TRACKERS;
      Delivery d =
          new Delivery("d", dialect, format, what, "d").withExtract(Extract.WHOLE.leavingOff(3, 5));
      Path file = dir.resolve(name + format.extensions().get(0));
      ProofReport proof = sent(d, file);
      assertThat(proof.holds()).as(proof.sentence()).isTrue();

      // Read by itself, and laid on the source's own frames by counting from the fourth.
      ReceivedFile read = ReceivedFile.read(file, java.util.Optional.of(dialect), Progress.NONE);
      ShotCamera camera =
          read.cameras(TestShots.HD, IntakeOptions.NONE.withSize(TestShots.HD)).get(0).inFile();
      assertThat(camera.frames().count()).isEqualTo(16);
      WorldShot world = shot().levelled();
      TrackerSet points = world.trackers().get(0);
      Pinhole of = new Pinhole(world.cameras().get(0), TestShots.HD);
      Pinhole to = new Pinhole(camera, TestShots.HD);
      double[] a = new double[3];
      double[] b = new double[3];
      for (int k = 0; k < 16; k++) {
        of.at(1004 + k);
        to.at(camera.frames().first() + k);
        for (int i = 0; i < points.size(); i++) {
          of.project(points, i, a);
          to.project(points, i, b);
          assertThat(b[0]).isCloseTo(a[0], within(0.05));
          assertThat(b[1]).isCloseTo(a[1], within(0.05));
        }
      }
    }
  }

  /** The proof's source is cut the same way; a file that is cut otherwise must not pass. */
  @Test
  void otherFramesDoNotPass() {
    Delivery d =
        new Delivery(
                "d",
                Dialects.shipped().get("comp-yup"),
                Formats.byId("usd-text"),
                Contents.CAMERA_AND_TRACKERS,
                "d")
            .withExtract(Extract.WHOLE.leavingOff(3, 5));
    Path file = dir.resolve("a.usda");
    sent(d, file);
    for (int[] off : new int[][] {{2, 6}, {4, 4}, {3, 4}, {0, 0}}) {
      ProofReport other =
          Handover.prove(
              Outgoing.of(shot()),
              d.withExtract(Extract.WHOLE.leavingOff(off[0], off[1])),
              file,
              ProofReport.USUAL_LIMIT_PX,
              List.of(),
              Progress.NONE);
      assertThat(other.holds()).as(off[0] + " " + off[1]).isFalse();
    }
  }

  @Test
  void withoutLevelItIsTheSolveItself() {
    Dialect dialect = Dialects.shipped().get("comp-yup");
    Delivery d =
        new Delivery("d", dialect, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "d")
            .withExtract(Extract.WHOLE.levelled(false));
    Path file = dir.resolve("b.usda");
    ProofReport proof = sent(d, file);
    assertThat(proof.holds()).as(proof.sentence()).isTrue();
    ReceivedFile read = ReceivedFile.read(file, java.util.Optional.of(dialect), Progress.NONE);
    TrackerSet points = read.trackers(TestShots.HD, IntakeOptions.NONE).get(0).inFile();
    TrackerSet solve = shot().trackers().get(0);
    for (int i = 0; i < points.size(); i++) {
      int same = solve.names().indexOf(points.names().get(i));
      assertThat(points.position(i).minus(solve.position(same)).length()).isLessThan(1e-5);
    }
    // A levelled file is not passed off as the solve.
    ProofReport other =
        Handover.prove(
            Outgoing.of(shot()),
            d.withExtract(Extract.WHOLE),
            file,
            ProofReport.USUAL_LIMIT_PX,
            List.of(),
            Progress.NONE);
    assertThat(other.holds()).isFalse();
  }

  @Test
  void aShotThatIsAllHandles() {
    assertThatThrownBy(() -> Extract.WHOLE.leavingOff(12, 12).of(shot()))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("leave none of 24");
  }
}
