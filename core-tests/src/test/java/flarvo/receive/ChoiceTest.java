package flarvo.receive;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.FileCamera;
import flarvo.format.FileScene;
import flarvo.format.Formats;
import flarvo.scene.Optics;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Several cameras, several takes, an angle without a film back: what is proposed, and why. */
class ChoiceTest {

  private static final Shot TRUTH = TestShots.walk(30, 25, 5);

  @TempDir private Path dir;

  private Path sent(
      ShotCamera camera, Contents contents, String dialect, String format, String name) {
    Shot shot =
        new Shot(
            "s",
            TRUTH.picture(),
            TRUTH.rate(),
            TRUTH.frames(),
            0,
            List.of(camera),
            TRUTH.trackers(),
            TRUTH.observations(),
            List.of(),
            TRUTH.level());
    Path file = dir.resolve(name);
    Dispatcher.send(
        shot,
        new Delivery("c", Dialects.shipped().get(dialect), Formats.byId(format), contents, name),
        file,
        Progress.NONE);
    return file;
  }

  private ReceivedFile read(ShotCamera camera, String name) {
    Path file = sent(camera, Contents.CAMERA_AND_TRACKERS, "anim-yup-m", "fbx-text", name);
    return ReceivedFile.read(file, Optional.empty(), Progress.NONE);
  }

  private Path tracks() throws IOException {
    return Files.writeString(dir.resolve("tracks.csv"), TestShots.tracksTable(TRUTH));
  }

  private static ReceivedSet intake(Path... files) {
    ShotIntake in = new ShotIntake();
    for (Path f : files) {
      in.add(f, IntakeOptions.NONE, Progress.NONE);
    }
    return in.received(IntakeOptions.NONE);
  }

  private static ShotCamera still(String name) {
    return new ShotCamera(
        name,
        PoseTrack.of(
            TRUTH.frames(),
            f -> new Pose(new Vec3(0, 40, 0), Rotation.about(new Vec3(1, 0, 0), -1.5))),
        TRUTH.camera().orElseThrow().optics(),
        Optional.empty());
  }

  @Test
  void ofSeveralCamerasTheOneThatFitsTheTracksIsProposed() throws IOException {
    ShotCamera own = TRUTH.camera().orElseThrow();
    // The view from above comes first and would be taken by whoever takes the first.
    ReceivedSet set =
        intake(
            sent(still("top_view"), Contents.CAMERA, "anim-yup-m", "usd-text", "a.usda"),
            sent(own, Contents.CAMERA_AND_TRACKERS, "anim-yup-m", "usd-text", "b.usda"),
            tracks());
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    Conflict c = l.conflict(Fact.CAMERA).orElseThrow();
    assertThat(c.proposal()).isEqualTo(own.name());
    assertThat(c.evidence()).hasSize(2);
    assertThat(c.evidence().get(0).errorPx()).isLessThan(0.01);
    assertThat(c.evidence().get(1).errorPx()).isGreaterThan(10);
    Shot ruled = set.shot("s", l.proposals());
    assertThat(ruled.cameras()).extracting(ShotCamera::name).containsExactly(own.name());
    Shot other = set.shot("s", Rulings.NONE.with(Fact.CAMERA, "top_view"));
    assertThat(other.camera().orElseThrow().name()).isEqualTo("top_view");
  }

  @Test
  void ofSeveralTakesTheOneThatFitsTheTracksIsProposed() throws IOException {
    ShotCamera own = TRUTH.camera().orElseThrow();
    ReceivedFile good = read(own, "good.fbx");
    ReceivedFile bad = read(still(own.name()), "bad.fbx");
    Map<String, FileScene> takes = new LinkedHashMap<>();
    takes.put("rehearsal", bad.scene());
    takes.put("final", good.scene());
    ReceivedFile both =
        new ReceivedFile(
            bad.path(), bad.format(), bad.scene(), Optional.empty(), takes, Optional.empty());
    ReceivedFile seen = ReceivedFile.read(tracks(), Optional.empty(), Progress.NONE);
    ReceivedSet set =
        new ReceivedSet(
            List.of(both, seen),
            List.of(),
            List.of(),
            List.of(),
            List.of(),
            IntakeOptions.NONE,
            List.of());
    Ledger l = LedgerMaker.of(set, Rulings.NONE);
    assertThat(l.conflict(Fact.TAKE).orElseThrow().proposal()).isEqualTo("final");
    assertThat(set.shot("s", l.proposals()).camera().orElseThrow().poses().at(1010).position())
        .isNotEqualTo(new Vec3(0, 40, 0));
    assertThat(set.shot("s", Rulings.NONE).camera().orElseThrow().poses().at(1010).position().y())
        .isCloseTo(40, within(1e-6));
  }

  /** A ruled film back may not change what an angle of view says. */
  @Test
  void anAngleOfViewStaysWhateverTheFilmBack() {
    Path file =
        sent(TRUTH.camera().orElseThrow(), Contents.CAMERA, "engine-yup-m", "gltf-binary", "c.glb");
    ReceivedSet set = intake(file);
    FileCamera c = set.files().get(0).scene().cameras().get(0);
    assertThat(c.verticalAngleOnly()).isTrue();
    Rulings size = Rulings.NONE.with(Fact.PICTURE_SIZE, TRUTH.picture().toString());
    Optics free = optics(set.shot("s", size));
    for (FilmBack b : List.of(new FilmBack(36, 24), new FilmBack(10, 11))) {
      Optics ruled = optics(set.shot("s", size.with(Fact.FILM_BACK, FilmBacks.exact(b))));
      assertThat(ruled.filmWidthMm()).isCloseTo(b.widthMm(), within(1e-9));
      assertThat(ruled.focalLengthMm() / ruled.filmWidthMm())
          .isCloseTo(free.focalLengthMm() / free.filmWidthMm(), within(1e-12));
    }
  }

  private static Optics optics(Shot s) {
    return s.camera().orElseThrow().optics().at(s.frames().first());
  }

  /** A camera that only turns fits in any unit; then the log counts, and it is said. */
  @Test
  void whereTheTracksCannotTellTheLogDoes() throws IOException {
    Path meridian = Path.of("../demo/meridian/mer_020_dome/incoming");
    ReceivedSet set = intake(meridian, meridian.resolveSibling("plates"));
    Conflict unit = LedgerMaker.of(set, Rulings.NONE).conflict(Fact.UNIT).orElseThrow();
    assertThat(unit.proposal()).isEqualTo("mm");
    assertThat(unit.reason()).contains("the log states it").contains("equally well");
    double best = unit.evidence().get(0).errorPx();
    assertThat(unit.evidence())
        .allSatisfy(e -> assertThat(e.errorPx()).isCloseTo(best, within(0.01)));
  }
}
