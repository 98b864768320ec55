package flarvo.recipient;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.convention.SceneSetting;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.scene.Optics;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pinhole;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Plain imports whose outcome can be worked out by hand. */
class StandInTest {

  private static final Rate FPS_30 = new Rate(30, 1);

  @TempDir private Path folder;

  private static Dialect dialect(String name) {
    return Dialects.shipped().get(name);
  }

  private static Dialect from(Dialect d, int first) {
    return d.withFrames(
        new FrameNumbering(OptionalInt.of(first), Optional.empty(), RatePolicy.KEEP_FRAMES));
  }

  private static Delivery delivery(Dialect d, String format) {
    return new Delivery("r", d, Formats.byId(format), Contents.CAMERA_AND_TRACKERS, "r");
  }

  private static PlainImport open(Shot shot, Dialect sent, String format, Dialect own) {
    return Foretelling.of(shot, delivery(sent, format), own, Progress.NONE);
  }

  private static Bite only(PlainImport r, Setting s) {
    List<Bite> all = r.bites().stream().filter(b -> b.setting() == s).toList();
    assertThat(all).hasSize(1);
    return all.get(0);
  }

  /** Where the source's camera sees a tracker at a frame between two. */
  private static double[] seen(Shot s, double frame, int tracker) {
    ShotCamera c = s.camera().orElseThrow();
    int a = Math.min((int) Math.floor(frame), c.frames().last());
    double u = frame - a;
    Vec3 at = c.poses().at(a).position();
    var turn = c.poses().at(a).rotation();
    if (u > 1e-12) {
      at = at.times(1 - u).plus(c.poses().at(a + 1).position().times(u));
      turn = turn.slerp(c.poses().at(a + 1).rotation(), u);
    }
    var pose = new flarvo.scene.Pose(at, turn);
    ShotCamera still = c.withPoses(flarvo.scene.PoseTrack.of(c.frames(), f -> pose));
    Pinhole p = new Pinhole(still, s.picture());
    p.at(c.frames().first());
    double[] out = new double[3];
    p.project(s.trackers().get(0), tracker, out);
    return out;
  }

  private static double worst(Shot s, java.util.function.IntToDoubleFunction frameSeen) {
    double worst = 0;
    int first = s.frames().first();
    for (int f = first; f <= s.frames().last(); f++) {
      for (int i = 0; i < s.trackers().get(0).size(); i++) {
        double[] a = seen(s, f, i);
        boolean inside = a[2] > 0 && a[0] >= 0 && a[1] >= 0 && a[0] <= 1920 && a[1] <= 1080;
        double[] b = seen(s, Math.min(s.frames().last(), frameSeen.applyAsDouble(f)), i);
        worst = inside ? Math.max(worst, Math.hypot(a[0] - b[0], a[1] - b[1])) : worst;
      }
    }
    return worst;
  }

  @Test
  void aSceneThatStartsAtOneShowsTheNextFrameOfAFileThatStartsAtZero() {
    Shot shot = TestShots.walk(20, 12, 5).withRate(Rate.FPS_24);
    PlainImport r = open(shot, from(dialect("track-zup"), 0), "usd-text", dialect("track-zup"));
    Bite b = only(r, Setting.FIRST_FRAME);
    assertThat(b.says())
        .isEqualTo(
            "The recipient's scene starts at 1, and this file at 0: its picture would be 1 frame"
                + " late");
    assertThat(b.harms()).isTrue();
    assertThat(b.driftPx().getAsDouble()).isCloseTo(worst(shot, f -> f + 1), within(0.01));
    assertThat(b.ask()).isEqualTo("Lay the first picture of the plate on frame 0");
    Dialect changed = b.change().orElseThrow().dialect();
    assertThat(changed.frames().firstFrame()).hasValue(1);
    assertThat(open(shot, changed, "usd-text", dialect("track-zup")).holds()).isTrue();
  }

  @Test
  void aRecipientThatCountsThePlatesFramesLaysEachPictureOnItsNumber() {
    Shot shot = TestShots.walk(20, 12, 5);
    Bite b =
        only(
            open(shot, from(dialect("comp-yup"), 1000), "usd-text", dialect("comp-yup")),
            Setting.FIRST_FRAME);
    assertThat(b.says()).contains("on its own number, from 1001").contains("1 frame late");
    assertThat(b.change().orElseThrow().dialect().frames().firstFrame()).isEmpty();
  }

  @Test
  void keysInSecondsRunAtTheScenesRateAndKeysInFramesDoNot() {
    Shot shot = TestShots.walk(20, 12, 5).withRate(Rate.FPS_24);
    Dialect own =
        from(dialect("anim-zup-m"), 0); // below: a scene at 30 from 0 that keeps rate and range
    own =
        DialectJson.read(
            DialectJson.write(own)
                .toString()
                .replace(
                    "\"rate\":\"24\",\"frames\":\"1-250\"", "\"rate\":\"30\",\"frames\":\"0-100\""),
            "test");
    assertThat(own.defaults().rate()).isEqualTo(FPS_30);
    Bite b = only(open(shot, own, "fbx-binary", own), Setting.RATE);
    assertThat(b.harms()).isTrue();
    int first = shot.frames().first();
    double truth = worst(shot, f -> first + (f - first) * 24.0 / 30.0);
    assertThat(b.driftPx().getAsDouble()).isCloseTo(truth, within(0.01));
    assertThat(b.says()).contains("0.8 × as fast");
    assertThat(b.ask()).isEqualTo("Set the scene to 24 before importing");
    Bite still = only(open(shot, own, "usd-text", own), Setting.RATE);
    assertThat(still.harms()).isFalse();
    assertThat(still.says()).contains("1.25 × as fast");
    PlainImport after = open(shot, b.change().orElseThrow().dialect(), "fbx-binary", own);
    assertThat(after.holds()).isTrue();
    assertThat(after.drift().orElseThrow().maxPx()).isLessThan(0.01);
  }

  @Test
  void aUnitThatIsOverlookedIsSaidAsAScale() {
    Shot shot = TestShots.walk(6, 5, 5);
    Dialect own = dialect("anim-zup-cm");
    PlainImport r = open(shot, own.withUnit(LinearUnit.METRE), "fbx-binary", own);
    Bite b = only(r, Setting.UNIT);
    assertThat(b.says()).contains("as 1 cm and this file means 1 m").contains("100 × too small");
    assertThat(b.ask()).isEqualTo("Import at a scale of 100");
    assertThat(r.world().scale()).isCloseTo(0.01, within(1e-12));
    TrackerSet sent = shot.trackers().get(0);
    TrackerSet seen = r.seen().trackers().get(0);
    assertThat(seen.position(0).minus(seen.position(1)).length())
        .isCloseTo(sent.position(0).minus(sent.position(1)).length() / 100, within(1e-6));
    assertThat(r.holds()).isFalse();
    assertThat(r.isOff()).as("no pixel moves").isFalse();
    // One that looks at the unit takes it.
    assertThat(
            open(
                    shot,
                    dialect("anim-yup-cm").withUnit(LinearUnit.METRE),
                    "fbx-binary",
                    dialect("anim-yup-cm"))
                .holds())
        .isTrue();
  }

  @Test
  void aShiftThatIsIgnoredMovesThePictureByWhatIsAsked() {
    Shot plain = TestShots.walk(6, 12, 5);
    ShotCamera c = plain.camera().orElseThrow();
    Optics o = new Optics(24, 24.576, 13.824, 0.5, 0.25);
    Shot shot = plain.withCameras(List.of(c.withOptics(OpticsTrack.constant(c.frames(), o))));
    Dialect own = dialect("previs-yup-foot");
    PlainImport r = open(shot, own, "usd-text", own);
    Bite b = only(r, Setting.SHIFT);
    double right = 0.5 / 24.576 * 1920;
    double up = 0.25 / 13.824 * 1080;
    assertThat(b.ask())
        .isEqualTo(
            String.format(
                java.util.Locale.ROOT,
                "Shift the plate in the view by %.2f, %.2f px (right, up)",
                -right,
                -up));
    assertThat(r.drift().orElseThrow().maxPx()).isCloseTo(Math.hypot(right, up), within(0.01));
    assertThat(b.change()).isEmpty();
  }

  @Test
  void aShotThatIsPassedOnIsMeasuredAtEveryHop() {
    Shot shot = TestShots.walk(20, 12, 5).withRate(Rate.FPS_24);
    Dialect a = dialect("anim-zup-cm"); // keeps its range and its unit
    Dialect sent = a.withUnit(LinearUnit.METRE);
    Path file = folder.resolve("a.fbx");
    Dispatcher.send(shot, delivery(sent, "fbx-binary"), file, Progress.NONE);
    List<ImportChain.Step> steps =
        ImportChain.through(
            ReceivedFile.read(file, Optional.of(sent), Progress.NONE),
            a,
            Meant.by(shot.levelled(), sent),
            List.of(
                new ImportChain.Hop(dialect("engine-zup-left-cm"), Formats.byId("fbx-binary")),
                new ImportChain.Hop(dialect("track-zup"), Formats.byId("usd-text"))),
            Progress.NONE);
    assertThat(steps).hasSize(3);
    assertThat(steps.get(0).totalScale()).isCloseTo(0.01, within(1e-12));
    assertThat(steps.get(0).totalPx()).isLessThan(0.01);
    assertThat(steps.get(0).notSaved()).isEmpty();
    // The second takes the unit that the first one states, wrong as it is.
    assertThat(steps.get(1).imported().world().scale()).isEqualTo(1);
    assertThat(steps.get(1).totalScale()).isCloseTo(0.01, within(1e-12));
    assertThat(steps.get(1).totalPx()).isLessThan(0.01);
    // The last starts its scene at 1, and the engine saved from 0.
    PlainImport last = steps.get(2).imported();
    assertThat(only(last, Setting.FIRST_FRAME).harms()).isTrue();
    assertThat(steps.get(2).totalPx()).isCloseTo(worst(shot, f -> f + 1), within(0.05));
    assertThat(last.drift().orElseThrow().maxPx()).isCloseTo(steps.get(2).totalPx(), within(0.05));
  }

  @Test
  void aCameraAloneIsMeasuredOnPointsPlacedInItsView() {
    Shot shot = TestShots.walk(20, 12, 5).withRate(Rate.FPS_24);
    Dialect a = dialect("anim-zup-cm");
    Path file = folder.resolve("alone.fbx");
    Delivery d = delivery(a, "fbx-binary").withContents(Contents.CAMERA);
    Dispatcher.send(shot, d, file, Progress.NONE);
    List<ImportChain.Step> steps =
        ImportChain.through(
            ReceivedFile.read(file, Optional.of(a), Progress.NONE),
            a,
            Meant.by(shot.withTrackers(List.of()).levelled(), a),
            List.of(
                new ImportChain.Hop(dialect("engine-zup-left-cm"), Formats.byId("fbx-binary")),
                new ImportChain.Hop(dialect("track-zup"), Formats.byId("usd-text"))),
            Progress.NONE);
    assertThat(steps.get(1).totalPx()).isLessThan(0.01);
    assertThat(steps.get(2).totalPx()).isGreaterThan(1);
    assertThat(steps.get(2).imported().drift().orElseThrow().maxPx())
        .isCloseTo(steps.get(2).totalPx(), within(0.05));
  }

  @Test
  void whatARecipientDoesNotSaveIsSaid() {
    Shot shot = TestShots.walk(140, 6, 5).withRate(Rate.FPS_24);
    Dialect a = dialect("anim-zup-cm"); // its scene plays 0-100
    Path file = folder.resolve("a.usda");
    Dispatcher.send(shot, delivery(a, "usd-text"), file, Progress.NONE);
    List<ImportChain.Step> steps =
        ImportChain.through(
            ReceivedFile.read(file, Optional.of(a), Progress.NONE),
            a,
            Meant.by(shot.levelled(), a),
            List.of(new ImportChain.Hop(dialect("engine-yup-m"), Formats.byId("usd-text"))),
            Progress.NONE);
    assertThat(steps.get(0).notSaved().map(Object::toString)).contains("101-139");
    assertThat(steps.get(1).totalPx()).as("the camera is held").isGreaterThan(10);
  }

  @Test
  void whatADialectIgnoresIsReadAndWritten() {
    Dialect d = dialect("anim-zup-m");
    assertThat(d.defaults().ignores()).isEqualTo(Set.of(SceneSetting.RATE, SceneSetting.RANGE));
    assertThat(DialectJson.read(DialectJson.write(d), "test")).isEqualTo(d);
    assertThatThrownBy(
            () ->
                DialectJson.read(
                    "{\"name\":\"x\",\"defaults\":{\"ignores\":[\"colour\"]}}", "x.json"))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("defaults.ignores")
        .hasMessageContaining("colour");
    assertThatThrownBy(
            () -> DialectJson.read("{\"name\":\"x\",\"defaults\":{\"ignores\":\"rate\"}}", "x"))
        .isInstanceOf(InputError.class);
  }

  private static Dialect renders(Dialect d, String size) {
    String text = DialectJson.write(d).toString();
    String changed = text.replaceFirst("\"picture\":\"[0-9x]+\"", "\"picture\":\"" + size + "\"");
    assertThat(changed).contains("\"picture\":\"" + size + "\"");
    return DialectJson.read(changed, "test");
  }

  @Test
  void anotherRenderSizeOfTheSameAspectIsASettingAndNoFault() {
    Shot shot = TestShots.walk(10, 20, 1);
    Dialect sent = dialect("anim-yup-cm");
    PlainImport r = open(shot, sent, "usd-text", renders(sent, "1280x720"));
    Bite b = only(r, Setting.PICTURE);
    assertThat(b.harms()).isFalse();
    assertThat(b.says())
        .isEqualTo(
            "The recipient's scene renders 1280 × 720 and the plate is 1920 × 1080:"
                + " the same view in other pixels");
    assertThat(b.ask()).isEqualTo("Set the render size to 1920 × 1080");
    assertThat(r.drift().orElseThrow().maxPx()).isLessThan(1e-3);
    assertThat(open(shot, sent, "usd-text", renders(sent, "1920x1080")).bites())
        .noneMatch(x -> x.setting() == Setting.PICTURE);
  }

  @Test
  void aSquarerPictureFittedByWidthShowsMoreAndMovesNothing() {
    Shot shot = TestShots.walk(10, 20, 1);
    Dialect sent = dialect("anim-yup-cm");
    PlainImport r = open(shot, sent, "fbx-binary", renders(sent, "1440x1080"));
    Bite b = only(r, Setting.PICTURE);
    assertThat(b.harms()).isFalse();
    assertThat(b.says()).endsWith("it would show more above and below");
    assertThat(r.drift().orElseThrow().maxPx()).isLessThan(1e-3);
  }

  /** Fitted by height, a picture of 4:3 spans three quarters of the width of one of 16:9. */
  @Test
  void aSquarerPictureFittedByHeightEnlargesEverything() {
    Shot shot = TestShots.walk(10, 20, 1);
    Dialect sent = dialect("engine-yup-m");
    PlainImport r = open(shot, sent, "usd-text", renders(sent, "1440x1080"));
    Bite b = only(r, Setting.PICTURE);
    assertThat(b.harms()).isTrue();
    assertThat(b.says()).contains("fits the film back by height");
    double far = 0;
    double[] at = new double[3];
    Pinhole h = new Pinhole(shot.camera().orElseThrow(), shot.picture());
    for (int f = shot.frames().first(); f <= shot.frames().last(); f++) {
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          h.at(f).project(t, i, at);
          // Everything stands a third further from the middle.
          far = at[2] > 0 ? Math.max(far, Math.hypot(at[0] - 960, at[1] - 540) / 3) : far;
        }
      }
    }
    assertThat(b.driftPx().orElseThrow()).isCloseTo(far, within(0.01));
    assertThat(r.drift().orElseThrow().maxPx()).isCloseTo(far, within(0.01));
    assertThat(r.holds()).isFalse();
  }

  @Test
  void aStatedPictureSizeIsKept() {
    Shot shot = TestShots.walk(10, 20, 1);
    Dialect sent = dialect("engine-yup-m");
    assertThat(open(shot, sent, "scene-json", renders(sent, "1440x1080")).bites())
        .noneMatch(x -> x.setting() == Setting.PICTURE);
  }
}
