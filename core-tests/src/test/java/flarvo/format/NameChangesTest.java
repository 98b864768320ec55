package flarvo.format;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.proof.Handover;
import flarvo.proof.ProofReport;
import flarvo.report.Note;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a format does not allow as a name is told with what it became, and comes back as it was. */
class NameChangesTest {

  @TempDir private Path dir;

  private static Shot shot(String camera, String... trackers) {
    FrameRange frames = new FrameRange(1, 3);
    double[] xyz = new double[3 * trackers.length];
    for (int i = 0; i < trackers.length; i++) {
      xyz[3 * i] = 0.2 * i;
      xyz[3 * i + 2] = -5;
    }
    return new Shot(
        "s",
        PictureSize.of(1920, 1080),
        Rate.FPS_24,
        frames,
        1,
        List.of(
            new ShotCamera(
                camera,
                PoseTrack.of(frames, f -> new Pose(new Vec3(0.01 * f, 0, 0), Rotation.IDENTITY)),
                OpticsTrack.constant(frames, Optics.centred(30, 24.576, 13.824)),
                Optional.empty())),
        List.of(TrackerSet.of("points", List.of(trackers), xyz)),
        Observations.NONE,
        List.of(),
        List.of(),
        Similarity.IDENTITY);
  }

  private Delivery delivery(String format) {
    return new Delivery(
        "d",
        Dialects.shipped().get("anim-yup-m"),
        Formats.byId(format),
        Contents.CAMERA_AND_TRACKERS,
        "d" + Formats.byId(format).extensions().get(0));
  }

  private static List<String> names(List<Note> notes) {
    return notes.stream()
        .map(Note::toString)
        .filter(n -> n.contains("names") && n.contains("→"))
        .toList();
  }

  @Test
  void everyNameIsToldWithWhatItBecame() {
    Shot s = shot("kamera ä", "1st", "a/b", "fine", "a b");
    for (String f : List.of("usd-text", "usd-crate", "usd-package")) {
      Path file = dir.resolve("d" + Formats.byId(f).extensions().get(0));
      ProofReport r =
          Handover.send(Outgoing.of(s), delivery(f), file, 0.01, List.of(), Progress.NONE).proof();
      assertThat(r.holds()).as(f + r.sentence()).isTrue();
      assertThat(names(r.losses()))
          .singleElement()
          .asString()
          .contains("4 names were", "kamera ä → kamera__", "1st → _1st", "a/b → a_b", "a b → a_b_2")
          .doesNotContain("fine");
    }
    assertThat(names(Dispatcher.losses(s, delivery("alembic"), dir.resolve("d.abc"))))
        .singleElement()
        .asString()
        .contains("1 name was", "a/b → a_b");
    assertThat(names(Dispatcher.losses(s, delivery("fbx-binary"), dir.resolve("d.fbx")))).isEmpty();
  }

  @Test
  void manyAreCountedAndAFewListed() {
    String[] all = new String[5000];
    for (int i = 0; i < all.length; i++) {
      all[i] = "t " + i;
    }
    assertThat(
            names(
                Dispatcher.losses(shot("cam", all), delivery("usd-crate"), dir.resolve("d.usdc"))))
        .singleElement()
        .asString()
        .contains("5000 names were", "t 0 → t_0", "t 39 → t_39", "and 4960 more")
        .doesNotContain("t 40 →");
    assertThat(new NameChanges().notes()).isEmpty();
  }
}
