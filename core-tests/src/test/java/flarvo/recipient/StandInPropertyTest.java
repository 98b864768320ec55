package flarvo.recipient;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.convention.BackPolicy;
import flarvo.convention.CameraAxes;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.convention.FilmConvention;
import flarvo.convention.FilmFit;
import flarvo.convention.FrameNumbering;
import flarvo.convention.LinearUnit;
import flarvo.convention.RatePolicy;
import flarvo.convention.SignedAxis;
import flarvo.convention.WorldAxes;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.scene.Pinhole;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every shipped recipient, every format, and a delivery with one setting wrong: what would be wrong
 * in the recipient's scene, as this test measures it there, is foretold; and the proposed changes
 * remove it.
 */
class StandInPropertyTest {

  /** One of each kind; the others differ in how their bytes are packed. */
  private static final List<String> FORMATS =
      List.of("usd-text", "fbx-binary", "alembic", "gltf-binary", "scene-json", "table");

  private static final WorldAxes X_UP =
      new WorldAxes(SignedAxis.NEGATIVE_Y, SignedAxis.POSITIVE_X, SignedAxis.NEGATIVE_Z);

  private static FrameNumbering numbering(Dialect d, Rate rate, RatePolicy policy) {
    return new FrameNumbering(d.frames().firstFrame(), Optional.of(rate), policy);
  }

  private static Map<String, UnaryOperator<Dialect>> wrong() {
    Map<String, UnaryOperator<Dialect>> m = new LinkedHashMap<>();
    m.put("as the recipient speaks", d -> d);
    m.put("one frame later", d -> d.withFrames(first(d, 1)));
    m.put("a hundred frames earlier", d -> d.withFrames(first(d, -100)));
    m.put("another rate", d -> d.withFrames(numbering(d, new Rate(50, 1), RatePolicy.KEEP_FRAMES)));
    m.put(
        "seconds kept", d -> d.withFrames(numbering(d, new Rate(48, 1), RatePolicy.KEEP_SECONDS)));
    m.put("a unit ten times as large", d -> d.withUnit(times(d.unit(), 10)));
    m.put("feet for what it is", d -> d.withUnit(times(d.unit(), 0.3048)));
    m.put("another axis up", d -> d.withWorld(d.world().equals(X_UP) ? WorldAxes.CANONICAL : X_UP));
    m.put("the other hand", d -> d.withWorld(d.world().mirrored()));
    m.put(
        "cameras that look elsewhere",
        d -> d.withCamera(new CameraAxes(SignedAxis.POSITIVE_Y, SignedAxis.POSITIVE_X)));
    m.put(
        "a film back that nobody keeps",
        d ->
            d.withFilm(
                new FilmConvention(
                    new FilmBack(20, 20),
                    BackPolicy.ALWAYS_ASSUMED,
                    FilmFit.HEIGHT,
                    d.film().shift(),
                    d.film().shiftUnit())));
    return m;
  }

  private static FrameNumbering first(Dialect d, int by) {
    return new FrameNumbering(
        OptionalInt.of(d.frames().firstFrame().orElse(1001) + by),
        d.frames().rate(),
        d.frames().policy());
  }

  private static LinearUnit times(LinearUnit u, double k) {
    return new LinearUnit(u.metresPerUnit() * k);
  }

  static Stream<Arguments> cases() {
    return Dialects.shipped().all().stream()
        .flatMap(d -> wrong().keySet().stream().map(w -> Arguments.of(d.name(), w)));
  }

  @ParameterizedTest(name = "{0}: {1}")
  @MethodSource("cases")
  void whatWouldBeWrongIsForetoldAndTheChangesRemoveIt(String recipient, String setting) {
    Dialect own = Dialects.shipped().get(recipient);
    Shot shot = TestShots.walk(14, 9, 3);
    for (String id : FORMATS) {
      SceneFormat format = Formats.byId(id);
      Delivery d =
          new Delivery(
              "r",
              wrong().get(setting).apply(own),
              format,
              Contents.CAMERA_AND_TRACKERS,
              "r" + format.extensions().get(0));
      String what = recipient + ", " + format.id() + ", " + setting;
      PlainImport now = check(shot, d, own, what);
      for (int i = 0; i < 6 && now.bites().stream().anyMatch(b -> b.change().isPresent()); i++) {
        Bite b = now.bites().stream().filter(x -> x.change().isPresent()).findFirst().orElseThrow();
        d = d.withDialect(b.change().get().dialect());
        PlainImport next = check(shot, d, own, what + ", then " + b.change().get().says());
        assertThat(next.bites())
            .as(what + ": " + b.says())
            .noneMatch(x -> x.setting() == b.setting() && x.harms());
        now = next;
      }
      assertThat(now.bites()).as(what).noneMatch(b -> b.change().isPresent());
    }
  }

  /** What this test finds in the recipient's scene is what the bites say. */
  private static PlainImport check(Shot shot, Delivery d, Dialect own, String what) {
    PlainImport r = Foretelling.of(shot, d, own, Progress.NONE);
    WorldShot source = shot.levelled();
    double px = px(source, r.seen());
    boolean off = px > 0.01 || !(worldOff(source, r.seen()) < 1e-5);
    assertThat(r.holds()).as(what + ": " + px + " px; " + r.bites()).isEqualTo(!off);
    if (r.drift().isPresent() && Double.isFinite(px)) {
      assertThat(r.drift().get().maxPx()).as(what).isCloseTo(px, within(1e-6 + 1e-9 * px));
    }
    for (Bite b : r.bites()) {
      assertThat(b.says()).as(what).isNotBlank();
      assertThat(b.ask()).as(what).isNotBlank();
    }
    return r;
  }

  /** Largest distance of a tracker in the two pictures, over those that the source sees. */
  private static double px(WorldShot a, WorldShot b) {
    Pinhole sent = new Pinhole(a.camera().orElseThrow(), a.picture());
    Pinhole seen = new Pinhole(b.camera().orElseThrow(), a.picture());
    double worst = 0;
    TrackerSet ta = a.trackers().get(0);
    TrackerSet tb = b.trackers().get(0);
    double[] pa = new double[3];
    double[] pb = new double[3];
    for (int f = a.frames().first(); f <= a.frames().last(); f++) {
      sent.at(f);
      seen.at(f);
      for (int i = 0; i < ta.size(); i++) {
        sent.project(ta, i, pa);
        boolean inside = pa[2] > 0 && pa[0] >= 0 && pa[1] >= 0 && pa[0] <= 1920 && pa[1] <= 1080;
        if (inside) {
          seen.project(tb, tb.names().indexOf(ta.names().get(i)), pb);
          double d = Math.hypot(pa[0] - pb[0], pa[1] - pb[1]);
          worst = Double.isNaN(d) ? Double.POSITIVE_INFINITY : Math.max(worst, d);
        }
      }
    }
    return worst;
  }

  /** How far the points stand from where they were meant, as a share of the scene. */
  private static double worldOff(WorldShot a, WorldShot b) {
    TrackerSet ta = a.trackers().get(0);
    TrackerSet tb = b.trackers().get(0);
    double worst = 0;
    for (int i = 0; i < ta.size(); i++) {
      int j = tb.names().indexOf(ta.names().get(i));
      worst = Math.max(worst, ta.position(i).minus(tb.position(j)).length());
    }
    return worst / ta.position(0).minus(ta.position(1)).length();
  }

  @org.junit.jupiter.api.Test
  void everyShippedRecipientTakesItsOwnDialectAsItComes() {
    Shot shot = TestShots.walk(14, 9, 3).withRate(Rate.FPS_24);
    for (Dialect own : Dialects.shipped().all()) {
      Delivery d =
          new Delivery(
              "r", own, Formats.byId("scene-json"), Contents.CAMERA_AND_TRACKERS, "r.json");
      PlainImport r = Foretelling.of(shot, d, own, Progress.NONE);
      assertThat(r.bites()).as(own.name()).noneMatch(Bite::harms);
    }
  }
}
