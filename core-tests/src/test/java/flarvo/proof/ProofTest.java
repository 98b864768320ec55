package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.scene.Observations;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rate;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Every kind of harm done to a good delivery must be found, and by the right check. */
class ProofTest {

  @TempDir private Path dir;
  private final Shot shot = TestShots.walk(24, 30, 5);
  private final Dialect to = Dialects.shipped().get("anim-yup-cm");
  private Path file;

  @BeforeEach
  void send() {
    file = dir.resolve("d.usda");
    deliver(shot, to, file);
  }

  private static void deliver(Shot s, Dialect d, Path f) {
    Dispatcher.send(
        s,
        new Delivery("d", d, Formats.byId("usd-text"), Contents.CAMERA_AND_TRACKERS, "d.usda"),
        f,
        Progress.NONE);
  }

  private ProofReport prove() {
    return Proof.of(shot, file, to, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
  }

  private void change(UnaryOperator<String> edit) throws IOException {
    String before = Files.readString(file);
    String after = edit.apply(before);
    assertThat(after).as("the harm was done").isNotEqualTo(before);
    Files.writeString(file, after);
  }

  private void failsAt(String... checks) {
    ProofReport p = prove();
    assertThat(p.holds()).isFalse();
    assertThat(p.checks().stream().filter(c -> !c.holds()).map(Check::name)).contains(checks);
  }

  private void deliverPart(Shot s, Contents part) {
    Dispatcher.send(
        s, new Delivery("d", to, Formats.byId("usd-text"), part, "d.usda"), file, Progress.NONE);
  }

  private ProofReport prove(Contents part) {
    return Proof.of(shot, file, to, part, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
  }

  @Test
  void aCameraThatIsNotThereIsAFault() {
    deliverPart(shot, Contents.TRACKERS);
    failsAt("camera");
  }

  @Test
  void trackersThatAreNotThereAreAFault() {
    deliverPart(shot, Contents.CAMERA);
    failsAt("trackerCount", "trackerNames");
  }

  @Test
  void trackersSentAloneAreSeenThroughTheSourcesCamera() {
    deliverPart(shot, Contents.TRACKERS);
    ProofReport good = prove(Contents.TRACKERS);
    assertThat(good.holds()).as(good.sentence()).isTrue();
    assertThat(good.drift().orElseThrow().compared()).isPositive();
    Shot moved =
        shot.withTrackers(
            shot.trackers().stream().map(t -> t.map(v -> v.plus(new Vec3(0.001, 0, 0)))).toList());
    deliverPart(moved, Contents.TRACKERS);
    ProofReport bad = prove(Contents.TRACKERS);
    assertThat(bad.driftHolds()).as("a millimetre is seen").isFalse();
    assertThat(bad.checks()).anyMatch(c -> c.name().equals("origin") && !c.holds());
  }

  @Test
  void aCameraSentAloneSeesTheSourcesTrackers() {
    deliverPart(shot, Contents.CAMERA);
    ProofReport good = prove(Contents.CAMERA);
    assertThat(good.holds()).as(good.sentence()).isTrue();
    assertThat(good.drift().orElseThrow().compared()).isPositive();
    ShotCamera c = shot.camera().orElseThrow();
    ShotCamera turned =
        c.withPoses(
            PoseTrack.of(
                c.frames(),
                f ->
                    new Pose(
                        c.poses().at(f).position(),
                        c.poses()
                            .at(f)
                            .rotation()
                            .after(Rotation.about(new Vec3(0, 1, 0), 1e-4)))));
    deliverPart(shot.withCameras(List.of(turned)), Contents.CAMERA);
    assertThat(prove(Contents.CAMERA).driftHolds()).as("0.006° is seen").isFalse();
  }

  @Test
  void aGoodDeliveryHolds() {
    ProofReport p = prove();
    assertThat(p.holds()).isTrue();
    assertThat(p.drift().orElseThrow().maxPx()).isLessThan(1e-4);
    assertThat(p.sentence()).startsWith("holds");
  }

  @Test
  void aWrongUpAxisIsFound() throws IOException {
    change(s -> s.replace("upAxis = \"Y\"", "upAxis = \"Z\""));
    failsAt("upAxis", "origin");
  }

  @Test
  void aWrongUnitIsFoundThoughNoPixelMoves() throws IOException {
    change(s -> s.replace("metersPerUnit = 0.01", "metersPerUnit = 1"));
    failsAt("unit", "origin");
    assertThat(prove().drift().orElseThrow().maxPx()).isLessThan(1e-4);
  }

  @Test
  void aWrongRateIsFound() throws IOException {
    change(s -> s.replace("PerSecond = 23.976023976023978", "PerSecond = 25"));
    failsAt("rate");
  }

  @Test
  void whereNothingMovesNoRateIsAskedForAndTheRecipientIsToldToSetIt() {
    Shot at25 = shot.withRate(new Rate(25, 1));
    Path glb = dir.resolve("points.glb");
    for (Contents part : List.of(Contents.TRACKERS, Contents.CAMERA_AND_TRACKERS)) {
      Dispatcher.send(
          at25, new Delivery("d", to, Formats.byId("gltf-binary"), part, "d"), glb, Progress.NONE);
      ProofReport p = Proof.of(at25, glb, to, part, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
      assertThat(p.holds()).as(p.sentence()).isTrue();
      boolean moves = part.has(Part.CAMERA);
      assertThat(p.checks().stream().anyMatch(c -> c.name().equals("rate"))).isEqualTo(moves);
      assertThat(p.losses().stream().anyMatch(n -> n.toString().contains("set it to 25")))
          .isEqualTo(!moves);
    }
    // With a camera the times of its keys say the rate, and a wrong one is found.
    Shot at24 = shot.withRate(Rate.FPS_24);
    Dispatcher.send(
        at24,
        new Delivery("d", to, Formats.byId("gltf-binary"), Contents.CAMERA_AND_TRACKERS, "d"),
        glb,
        Progress.NONE);
    ProofReport p =
        Proof.of(
            at25, glb, to, Contents.CAMERA_AND_TRACKERS, ProofReport.USUAL_LIMIT_PX, Progress.NONE);
    assertThat(p.checks()).anyMatch(c -> c.name().equals("rate") && !c.holds());
  }

  @Test
  void whatWasLostIsTheSameRightAfterSendingAndLater() {
    int lost = 0;
    for (String format : List.of("usd-text", "fbx-binary", "alembic", "gltf-binary", "table")) {
      Dialect d = Dialects.shipped().get("engine-yup-left-m");
      Delivery delivery =
          new Delivery("d", d, Formats.byId(format), Contents.CAMERA_AND_TRACKERS, "d");
      Path there = dir.resolve("sent" + Formats.byId(format).extensions().get(0));
      Handover h =
          Handover.send(
              Outgoing.of(shot),
              delivery,
              there,
              ProofReport.USUAL_LIMIT_PX,
              List.of(),
              Progress.NONE);
      ProofReport later =
          Handover.prove(
              Outgoing.of(shot),
              delivery,
              there,
              ProofReport.USUAL_LIMIT_PX,
              List.of(),
              Progress.NONE);
      assertThat(h.proof().losses()).as(format).isEqualTo(later.losses());
      lost += later.losses().size();
    }
    assertThat(lost).isGreaterThan(4);
  }

  @Test
  void aSceneRangeLeftAtADefaultIsFound() throws IOException {
    change(s -> s.replace("endTimeCode = 1024", "endTimeCode = 1250"));
    failsAt("sceneRange");
  }

  @Test
  void aLostTrackerIsFoundByName() throws IOException {
    change(s -> s.replace("userProperties:name = \"trk 7\"", "userProperties:name = \"other\""));
    ProofReport p = prove();
    assertThat(p.holds()).isFalse();
    assertThat(p.checks())
        .anyMatch(c -> c.name().equals("trackerNames") && c.found().contains("trk 7"));
  }

  @Test
  void anotherFilmBackIsFoundThoughTheRatioStands() throws IOException {
    change(
        s ->
            s.replace("float focalLength = 24", "float focalLength = 48")
                .replace("float horizontalAperture = 24.576", "float horizontalAperture = 49.152")
                .replace("float verticalAperture = 13.824", "float verticalAperture = 27.648"));
    failsAt("filmBack");
    assertThat(prove().drift().orElseThrow().maxPx()).isLessThan(1e-3);
  }

  @Test
  void aMissingKeyIsFound() throws IOException {
    change(s -> s.replaceAll("            1007: \\([^)]*\\),\n", ""));
    failsAt("keysPerFrame");
  }

  @Test
  void oneFrameOfShiftIsFound() {
    Dialect later = to.withFrames(to.frames().withFirstFrame(1002));
    deliver(shot, later, file);
    failsAt("firstFrame", "lastFrame");
  }

  @Test
  void anotherPictureSizeIsFound() throws IOException {
    change(s -> s.replace("(1920, 1080)", "(1280, 720)"));
    failsAt("pictureSize");
  }

  @Test
  void aCameraMovedAloneShowsAsDriftWithFrameAndTracker() {
    ShotCamera c = shot.cameras().get(0);
    ShotCamera bumped =
        c.withPoses(
            PoseTrack.of(
                c.frames(),
                f -> {
                  Pose p = c.poses().at(f);
                  return f != 1010
                      ? p
                      : new Pose(
                          p.position(),
                          p.rotation().after(Rotation.about(new Vec3(0, 1, 0), 1e-3)));
                }));
    Shot harmed =
        new Shot(
            shot.name(),
            shot.picture(),
            shot.rate(),
            shot.frames(),
            1001,
            List.of(bumped),
            shot.trackers(),
            shot.observations(),
            shot.plates(),
            shot.level());
    deliver(harmed, to, file);
    DriftReport d = prove().drift().orElseThrow();
    assertThat(d.worstFrame()).isEqualTo(1010);
    assertThat(d.worstTracker()).startsWith("trk");
    // A milliradian at 24/24.576 × 1920 = 1875 px of focal length is nearly two pixels.
    assertThat(d.maxPx()).isCloseTo(1.9, within(0.3));
    assertThat(d.maxPx(1009)).isLessThan(1e-4);
    assertThat(prove().holds()).isFalse();
  }

  @Test
  void onlyObservedTrackersCountWhereThereAreTracks() {
    Observations one = new Observations.Builder().add("trk 3", 1005, 1, 1).build();
    Shot seen =
        new Shot(
            shot.name(),
            shot.picture(),
            shot.rate(),
            shot.frames(),
            1001,
            shot.cameras(),
            shot.trackers(),
            one,
            shot.plates(),
            shot.level());
    ProofReport p = Proof.of(seen, file, to, 0.01, Progress.NONE);
    assertThat(p.drift().orElseThrow().compared()).isEqualTo(1);
    assertThat(p.drift().orElseThrow().maxPx(1004)).isNaN();
  }

  @Test
  void nothingToCompareDoesNotHold() throws IOException {
    change(s -> s.replace("def Xform \"trk", "def BasisCurves \"trk"));
    ProofReport p = prove();
    assertThat(p.holds()).isFalse();
    assertThat(p.drift().orElseThrow().compared()).isZero();
  }

  @Test
  void keepingSecondsStaysWithinWhatResamplingCosts() {
    Dialect thirty =
        to.withFrames(
            new flarvo.convention.FrameNumbering(
                java.util.OptionalInt.of(1),
                java.util.Optional.of(new flarvo.scene.Rate(48, 1)),
                flarvo.convention.RatePolicy.KEEP_SECONDS));
    deliver(shot, thirty, file);
    ProofReport p = Proof.of(shot, file, thirty, 0.5, Progress.NONE);
    assertThat(p.drift().orElseThrow().compared()).isPositive();
    assertThat(p.drift().orElseThrow().maxPx()).isLessThan(0.5);
    assertThat(p.losses()).anyMatch(n -> n.text().contains("resampled"));
  }

  @Test
  void whatARecipientIgnoresIsListedAndShowsAsDrift() {
    Shot shifted = TestShots.zoom(5, 10, 2);
    Dialect deaf = Dialects.shipped().get("comp-pixels");
    deliver(shifted, deaf, file);
    ProofReport p = Proof.of(shifted, file, deaf, 0.01, Progress.NONE);
    assertThat(p.losses()).anyMatch(n -> n.where().equals("lens shift"));
    assertThat(p.drift().orElseThrow().maxPx()).isGreaterThan(10);
  }

  @Test
  void whatATableCannotSayIsSaidInItsPlace() throws IOException {
    Path table = dir.resolve("t.csv");
    Dialect comp = Dialects.shipped().get("comp-pixels");
    Dispatcher.send(
        shot,
        new Delivery("t", comp, Formats.byId("table"), Contents.CAMERA_AND_TRACKERS, "t.csv"),
        table,
        Progress.NONE);
    Files.writeString(table, Files.readString(table).replaceAll("# rate.*\n", ""));
    ProofReport p = Proof.of(shot, table, comp, 0.01, Progress.NONE);
    assertThat(p.losses())
        .anyMatch(n -> n.where().equals("rate") && n.text().contains("24000/1001"))
        .noneMatch(n -> n.where().equals("unit"));
  }

  @Test
  void theMeasureIsZeroOnItself() {
    List<TrackerSet> same = shot.trackers();
    DriftReport d =
        new DriftMeter(shot.levelled()).measure(shot.cameras().get(0), same, Progress.NONE);
    assertThat(d.maxPx()).isZero();
    assertThat(d.compared()).isPositive();
  }
}
