package flarvo.proof;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Against drift that is measured here one point after the other, over many points and sets. */
class DriftMeterTest {

  private record Seen(TrackerSet set, int at) {}

  private static Group moving(Shot s, double speed) {
    return new Group(
        "g" + speed,
        Optional.empty(),
        Optional.of(
            PoseTrack.of(
                s.frames(),
                f ->
                    new Pose(
                        new Vec3(speed * (f - s.frames().first()), 0.01, 0),
                        Rotation.about(new Vec3(0, 1, 0), 0.002 * f)))));
  }

  /**
   * Farther than the camera's way, and out of reach of it, where points are to lie all round it.
   */
  private static Vec3 around(Vec3 p, double spread) {
    return spread == 1 ? p : p.times(spread).plus(p.normalized().times(8));
  }

  private static TrackerSet part(String name, TrackerSet all, List<Integer> which, Vec3 by) {
    double[] xyz = new double[3 * which.size()];
    List<String> names = new ArrayList<>();
    for (int i : which) {
      Vec3 p = all.position(i).plus(by.times(i % 7));
      xyz[3 * names.size()] = p.x();
      xyz[3 * names.size() + 1] = p.y();
      xyz[3 * names.size() + 2] = p.z();
      names.add(all.names().get(i));
    }
    return TrackerSet.of(name, names, xyz);
  }

  private static List<Integer> range(int from, int to) {
    List<Integer> out = new ArrayList<>();
    for (int i = from; i < to; i++) {
      out.add(i);
    }
    return out;
  }

  private static Observations some(TrackerSet t, Shot s) {
    Observations.Builder b = new Observations.Builder();
    for (int i = 0; i < t.size(); i += 3) {
      for (int f = s.frames().first(); f <= s.frames().last(); f += 2) {
        b.add(t.names().get(i), f, 10, 10);
      }
    }
    return b.build();
  }

  @ParameterizedTest
  @CsvSource({
    "700, 8, false, 1",
    "700, 8, true, 1",
    "255, 5, false, 1",
    "257, 5, false, 1",
    "9000, 30, false, 1",
    // All round the camera: most blocks are not in the picture.
    "9000, 20, false, 12",
    "2000, 8, true, 12"
  })
  void itIsWhatEachPointAloneComesTo(int points, int frames, boolean observed, double spread) {
    Shot walk = TestShots.walk(frames, points, 5);
    TrackerSet all = walk.trackers().get(0).map(p -> around(p, spread));
    int cut = points / 3;
    TrackerSet still = part("still", all, range(0, cut), Vec3.ZERO);
    TrackerSet moves =
        part("moves", all, range(cut, points), Vec3.ZERO).inGroup(Optional.of(moving(walk, 0.02)));
    Shot source = walk.withTrackers(List.of(still, moves));
    source = observed ? source.withObservations(some(all, walk)) : source;

    // Delivered in another order, in other sets, each a little off; the last ten are missing.
    List<Integer> order = range(0, points - 10);
    int half = cut;
    if (spread == 1) { // farther out, what moves and is delivered as still ends behind the camera
      Collections.shuffle(order, new Random(points));
      half = order.size() / 2;
    }
    Vec3 off = new Vec3(0.001, -0.002, 0.0015);
    List<TrackerSet> delivered =
        List.of(
            part("a", all, order.subList(0, half), off),
            part("b", all, order.subList(half, order.size()), off)
                .inGroup(Optional.of(moving(walk, 0.019))));
    ShotCamera was = source.camera().orElseThrow();
    ShotCamera camera =
        was.withPoses(
            was.poses()
                .map(p -> new Pose(p.position().plus(new Vec3(0.01, 0, 0.003)), p.rotation())));

    DriftReport d = new DriftMeter(source.levelled()).measure(camera, delivered, Progress.NONE);

    Map<String, Seen> found = new HashMap<>();
    delivered.forEach(
        t -> range(0, t.size()).forEach(i -> found.put(t.names().get(i), new Seen(t, i))));
    Pinhole a = new Pinhole(was, source.picture());
    Pinhole b = new Pinhole(camera, source.picture());
    double[] pa = new double[3];
    double[] pb = new double[3];
    long compared = 0;
    double total = 0;
    for (int f = source.frames().first(); f <= source.frames().last(); f++) {
      double worst = -1;
      String who = "";
      for (TrackerSet t : source.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          String name = t.names().get(i);
          a.at(f).project(t, i, pa);
          boolean inside = pa[0] >= 0 && pa[0] <= 1920 && pa[1] >= 0 && pa[1] <= 1080;
          boolean counts =
              pa[2] > 0 && (observed ? source.observations().row(name, f) >= 0 : inside);
          if (!counts || !found.containsKey(name)) {
            continue;
          }
          Seen s = found.get(name);
          b.at(f).project(s.set(), s.at(), pb);
          double px = pb[2] > 0 ? Math.hypot(pa[0] - pb[0], pa[1] - pb[1]) : Double.MAX_VALUE;
          compared++;
          total += px * px;
          if (px > worst) {
            worst = px;
            who = name;
          }
        }
      }
      if (worst < 0) {
        assertThat(d.maxPx(f)).as("nothing was observed on " + f).isNaN();
        continue;
      }
      assertThat(d.maxPx(f)).as("frame " + f).isCloseTo(worst, within(1e-9 * worst));
      assertThat(d.worstTracker(f)).as("frame " + f).isEqualTo(who);
    }
    assertThat(compared).isGreaterThan(spread == 1 ? points / 2 : points / 10);
    assertThat(d.compared()).isEqualTo(compared);
    double rms = Math.sqrt(total / compared);
    assertThat(d.rmsPx()).isCloseTo(rms, within(1e-9 * rms));
  }

  /** What is the same has no drift, near the origin and far from it, still or in a group. */
  @ParameterizedTest
  @ValueSource(doubles = {0, 5000, 1e6})
  void whatIsTheSameDoesNotDriftHoweverFarFromTheOriginItIs(double away) {
    Vec3 by = new Vec3(away, -away, away / 2);
    Shot walk = TestShots.walk(10, 700, 5);
    TrackerSet all = walk.trackers().get(0).map(p -> p.plus(by));
    Shot source = walk.withTrackers(List.of(all));
    ShotCamera camera =
        source
            .camera()
            .orElseThrow()
            .withPoses(
                source
                    .camera()
                    .orElseThrow()
                    .poses()
                    .map(p -> new Pose(p.position().plus(by), p.rotation())));
    source = source.withCameras(List.of(camera));
    // The same places, seen from a group that is somewhere else and turns.
    Group turns = moving(walk, 0.05);
    int f = source.frames().first();
    Pose there = turns.at(f);
    TrackerSet hung =
        part("g", all, range(0, all.size()), Vec3.ZERO)
            .map(p -> there.rotation().inverse().apply(p.minus(there.position())))
            .inGroup(Optional.of(turns));

    DriftMeter meter = new DriftMeter(source.levelled());
    DriftReport same = meter.measure(camera, List.of(all), Progress.NONE);
    DriftReport moved = meter.measure(camera, List.of(hung), Progress.NONE);

    assertThat(same.compared()).isGreaterThan(1000);
    assertThat(same.maxPx()).isZero();
    assertThat(moved.maxPx(f)).isLessThan(1e-10 * (1 + 3 * away));
    assertThat(moved.maxPx(f + 5)).isGreaterThan(1);
  }

  /** Where products of coordinates are too large for numbers, a fault must still be seen. */
  @ParameterizedTest
  @ValueSource(doubles = {1e100, 1e150, 1e155})
  void whatIsTooFarAwayToBeMeasuredDoesNotHold(double scale) {
    Shot walk = TestShots.walk(4, 700, 5);
    TrackerSet all = walk.trackers().get(0).map(p -> p.times(scale));
    Shot source = walk.withTrackers(List.of(all));
    ShotCamera camera = source.camera().orElseThrow();
    TrackerSet off = all.map(p -> p.plus(new Vec3(0, 0.1 * scale, 0)));

    DriftReport d = new DriftMeter(source.levelled()).measure(camera, List.of(off), Progress.NONE);

    Pinhole eye = new Pinhole(camera, walk.picture());
    double[] px = new double[3];
    long seen = 0;
    for (int f = walk.frames().first(); f <= walk.frames().last(); f++) {
      for (int i = 0; i < all.size(); i++) {
        eye.at(f).project(all, i, px);
        seen += px[2] > 0 && px[0] >= 0 && px[0] <= 1920 && px[1] >= 0 && px[1] <= 1080 ? 1 : 0;
      }
    }
    assertThat(seen).isPositive();
    assertThat(d.compared()).isEqualTo(seen);
    assertThat(d.maxPx()).isGreaterThan(1);
  }

  /** In a block of neighbours, one that is far off is the worst and changes no other. */
  @Test
  void aPointThatIsOutOfAllReachSpoilsNoneOfItsNeighbours() {
    Shot walk = TestShots.walk(6, 700, 5);
    TrackerSet all = walk.trackers().get(0);
    ShotCamera camera = walk.camera().orElseThrow();
    TrackerSet off = all.map(p -> p.plus(new Vec3(0.001, 0, 0)));
    Pinhole eye = new Pinhole(camera, walk.picture());
    DriftMeter meter = new DriftMeter(walk.levelled());
    DriftReport was = meter.measure(camera, List.of(off), Progress.NONE);
    int met = 0;
    for (double bad : new double[] {1e9, 1e150, -1e300}) {
      double[] xyz = new double[3 * all.size()];
      for (int i = 0; i < all.size(); i++) {
        xyz[3 * i] = i == 350 ? bad : off.x(i);
        xyz[3 * i + 1] = off.y(i);
        xyz[3 * i + 2] = off.z(i);
      }
      TrackerSet spoiled = TrackerSet.of("s", all.names(), xyz);

      DriftReport d = meter.measure(camera, List.of(spoiled), Progress.NONE);

      double[] px = new double[3];
      for (int f = walk.frames().first(); f <= walk.frames().last(); f++) {
        eye.at(f).project(all, 350, px);
        boolean seen = px[0] >= 0 && px[0] <= 1920 && px[1] >= 0 && px[1] <= 1080 && px[2] > 0;
        if (!seen) {
          assertThat(d.maxPx(f)).isCloseTo(was.maxPx(f), within(1e-9));
          assertThat(d.worstTracker(f)).isEqualTo(was.worstTracker(f));
        } else {
          met++;
          assertThat(d.maxPx(f)).isGreaterThan(1000);
          assertThat(d.worstTracker(f)).isEqualTo(all.names().get(350));
        }
      }
      assertThat(d.compared()).isEqualTo(was.compared());
    }
    assertThat(met).isPositive();
  }
}
