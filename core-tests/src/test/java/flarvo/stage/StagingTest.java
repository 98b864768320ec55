package flarvo.stage;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.convention.SignedAxis;
import flarvo.decision.DecisionHistory;
import flarvo.decision.LevelDecision;
import flarvo.decision.ShotState;
import flarvo.decision.VetDecision;
import flarvo.level.LevelScene;
import flarvo.level.Stated;
import flarvo.level.Statement;
import flarvo.report.InputError;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.Culling;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class StagingTest {

  @Test
  void whatIsBuiltGoesAlongUnderNamesOfItsOwn() {
    Shot shot = StagedShots.shot();
    Shot s = StagedShots.staging(shot).applied(shot);
    assertThat(s.trackers()).extracting(TrackerSet::name).contains("marks", "window card corners");
    TrackerSet marks =
        s.trackers().stream().filter(t -> t.name().equals("marks")).findFirst().orElseThrow();
    List<String> names = shot.trackers().get(0).names();
    assertThat(marks.names()).containsExactly("door", names.get(5) + "_2");
    assertThat(marks.position(0)).isEqualTo(shot.trackers().get(0).position(3));
    assertThat(marks.marker()).hasValue(0.2);
    TrackerSet corners = s.trackers().get(s.trackers().size() - 1);
    assertThat(corners.names()).hasSize(5).contains("window card_centre");
    // The card goes through the trackers that it was made of.
    for (int i = 0; i < 3; i++) {
      Vec3 t = shot.trackers().get(0).position(i);
      assertThat(List.of(0, 1, 2, 3)).anyMatch(k -> corners.position(k).minus(t).length() < 1e-12);
    }
    assertThat(Staging.NONE.applied(shot)).isSameAs(shot);
  }

  @Test
  void statementsHoldThroughEveryOtherChange() {
    Shot shot = StagedShots.shot();
    List<String> n = shot.trackers().get(0).names();
    DecisionHistory h = new DecisionHistory(ShotState.of(shot));
    List<Stated> said =
        List.of(
            new Stated(new Statement.At(n.get(0), Vec3.ZERO)),
            new Stated(new Statement.Along(n.get(0), n.get(1), SignedAxis.POSITIVE_X)),
            new Stated(new Statement.Distance(n.get(0), n.get(1), 2)));
    said.forEach(t -> h.apply(new LevelDecision.AddStatement(t)));
    Similarity stated = h.present().shot().level();
    assertThat(stated.apply(shot.trackers().get(0).position(1)).minus(new Vec3(2, 0, 0)).length())
        .isLessThan(1e-9);
    // By hand the free turn follows, and what was stated stays.
    h.apply(
        new LevelDecision.MoveLevel(
            new Similarity(3, Rotation.about(new Vec3(1, 0, 0), 0.7), new Vec3(1, 2, 3)), "move"));
    Similarity byHand = h.present().shot().level();
    assertThat(byHand.apply(shot.trackers().get(0).position(0)).length()).isLessThan(1e-9);
    assertThat(byHand.apply(shot.trackers().get(0).position(1)).minus(new Vec3(2, 0, 0)).length())
        .isLessThan(1e-9);
    assertThat(byHand.rotation().angleTo(stated.rotation())).isCloseTo(0.7, within(1e-9));
    // A tracker that goes takes its statements along, and the level does not jump.
    h.apply(new VetDecision.Cull(new Culling.ByHand(Set.of(n.get(1)))));
    assertThat(h.present().shot().level().rotation().angleTo(byHand.rotation())).isLessThan(1e-12);
    h.undo();
    h.undo();
    assertThat(h.present().shot().level()).isEqualTo(stated);
  }

  @Test
  void aBoxAWallAndASolidStandAsDrawn() {
    Similarity level = StagedShots.LEVEL;
    StandIn box = StandIn.box("b", "g", new Vec3(1, 0, 2), new Vec3(0.4, 0, 3), 0.5, level);
    List<Vec3> world = box.points().stream().map(level::apply).toList();
    assertThat(world).allMatch(p -> p.x() > 0.4 - 1e-9 && p.x() < 1 + 1e-9);
    assertThat(world).filteredOn(p -> Math.abs(p.y() - 0.5) < 1e-9).hasSize(4);
    StandIn wall =
        StandIn.wall(
            "w", "g", new Vec3(0, 0, -3), new Vec3(2, 0, -3), 2.5, new Vec3(0, 1.6, 0), level);
    Vec3 eye = level.inverse().apply(new Vec3(1, 1.6, 0));
    Vec3 hit = wall.meet(eye, level.inverse().apply(new Vec3(1, 1, -3)).minus(eye)).orElseThrow();
    assertThat(level.apply(hit).minus(new Vec3(1, 1, -3)).length()).isLessThan(1e-9);
    StandIn solid = wall.extruded(-0.2, level);
    assertThat(solid.faces()).hasSize(6);
    assertThat(solid.points().stream().map(level::apply))
        .anyMatch(p -> Math.abs(p.z() + 3.2) < 1e-9);
    assertThat(Solid.of(solid.mesh()).faces().get(0)).hasSize(4);
    Vec3 on = new Vec3(9, 9, 9);
    assertThat(box.snapped(2, on).points().get(2)).isEqualTo(on);
    assertThatThrownBy(
            () ->
                StandIn.card(
                    "c", "g", List.of(Vec3.ZERO, new Vec3(1, 0, 0), new Vec3(2, 0, 0)), eye))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("line");
    assertThatThrownBy(() -> StandIn.box("b", "g", Vec3.ZERO, new Vec3(1, 0, 0), 1, level))
        .isInstanceOf(InputError.class);
  }

  @Test
  void aGaugeIsAsLargeAsItSays() {
    Gauge post = new Gauge("p", Gauge.Kind.POST, new Vec3(1, 2, 3), 1.25, 0.4, Optional.empty());
    Vec3 foot = StagedShots.LEVEL.apply(post.foot());
    double top = Double.NEGATIVE_INFINITY;
    for (List<Vec3> f : post.solid(StagedShots.LEVEL).faces()) {
      for (Vec3 v : f) {
        top = Math.max(top, v.y());
        assertThat(v.y()).isGreaterThan(foot.y() - 1e-9);
      }
    }
    assertThat(top - foot.y()).isCloseTo(1.25, within(1e-9));
    Solid crate =
        new Gauge("c", Gauge.Kind.CRATE, Vec3.ZERO, 0.5, 0, Optional.empty())
            .solid(Similarity.IDENTITY);
    assertThat(crate.hides(new Vec3(0, 0.2, 5), new Vec3(0, 0.2, -1), 0.999)).isTrue();
    assertThat(crate.hides(new Vec3(0, 0.2, 5), new Vec3(0, 0.2, 0.25), 0.999)).isFalse();
    assertThat(crate.hides(new Vec3(0, 0.2, 5), new Vec3(0, 1.2, -1), 0.999)).isFalse();
    assertThatThrownBy(() -> post.sized(0)).isInstanceOf(InputError.class);
  }

  /** The slide that is read is the slide that a wrongly placed thing shows. */
  @Test
  void theSlideIsWhatTheCameraShows() {
    Shot shot = StagedShots.shot();
    Vec3 foot = shot.trackers().get(0).position(2);
    SlideReading r = SlideReading.of(new LevelScene(shot), shot.level(), foot, 1006).orElseThrow();
    ShotCamera world = shot.levelled().cameras().get(0);
    Vec3 here = shot.level().apply(foot);
    Pinhole p = new Pinhole(world, shot.picture());
    Vec3 ray = here.minus(world.poses().at(1006).position());
    for (int k = 0; k < r.errors().length; k++) {
      Vec3 high = here.plus(ray.times(r.errors()[k] / ray.y()));
      assertThat(high.y() - here.y()).isCloseTo(r.errors()[k], within(1e-12));
      double[] a = new double[3];
      double[] b = new double[3];
      double most = 0;
      for (int f = 1001; f <= 1012; f++) {
        p.at(f).project(here.x(), here.y(), here.z(), a);
        p.project(high.x(), high.y(), high.z(), b);
        most = Math.max(most, Math.hypot(a[0] - b[0], a[1] - b[1]));
        if (f == 1006) {
          assertThat(Math.hypot(a[0] - b[0], a[1] - b[1])).isLessThan(1e-8);
        }
      }
      assertThat(r.byHeight()[k]).isCloseTo(most, within(1e-6));
    }
    assertThat(r.byHeight()[2]).isGreaterThan(r.byHeight()[0]);
    assertThat(r.byDepth()[2]).isGreaterThan(0);
    assertThat(r.vouchers()).isNotEmpty();
    // A camera that only turns sees nothing of it.
    ShotCamera c = shot.cameras().get(0);
    Vec3 eye = c.poses().at(1001).position();
    Shot tripod =
        shot.withCameras(
            List.of(
                c.withPoses(
                    PoseTrack.of(c.frames(), f -> new Pose(eye, c.poses().at(f).rotation())))));
    SlideReading none =
        SlideReading.of(new LevelScene(tripod), shot.level(), foot, 1006).orElseThrow();
    assertThat(none.byHeight()[2]).isLessThan(1e-6);
    assertThat(none.byDepth()[2]).isLessThan(1e-6);
  }

  @Test
  void depthsOfATripodDoNotMoveThePicture() {
    Shot shot = StagedShots.shot();
    ShotCamera c = shot.cameras().get(0);
    Vec3 eye = c.poses().at(1001).position();
    Shot tripod =
        shot.withCameras(
            List.of(
                c.withPoses(
                    PoseTrack.of(c.frames(), f -> new Pose(eye, c.poses().at(f).rotation())))));
    List<String> n = tripod.trackers().get(0).names();
    TripodDepth depth = new TripodDepth(tripod);
    List<GivenDepth> given = new ArrayList<>(depth.typed(n.subList(0, 3), 7.5, shot.level()));
    given.addAll(depth.onGround(n.subList(3, 20), -30, shot.level()));
    Shot s = Staging.NONE.withDepths(given).applied(tripod);
    Map<String, Vec3> at = Staging.places(s);
    assertThat(shot.level().scale() * at.get(n.get(1)).minus(eye).length())
        .isCloseTo(7.5, within(1e-9));
    given.stream()
        .filter(d -> d.how().equals("on the ground"))
        .forEach(
            d ->
                assertThat(shot.level().apply(at.get(d.tracker())).y())
                    .isCloseTo(-30, within(1e-9)));
    Pinhole p = new Pinhole(tripod.cameras().get(0), tripod.picture());
    double[] a = new double[3];
    double[] b = new double[3];
    Map<String, Vec3> before = Staging.places(tripod);
    for (int f = 1001; f <= 1012; f++) {
      p.at(f);
      for (String name : n) {
        Vec3 v = before.get(name);
        Vec3 w = at.get(name);
        p.project(v.x(), v.y(), v.z(), a);
        p.project(w.x(), w.y(), w.z(), b);
        if (a[2] > 0) {
          assertThat(Math.hypot(a[0] - b[0], a[1] - b[1])).isLessThan(1e-9);
        }
      }
    }
    // The file says which are real.
    assertThat(s.trackers())
        .extracting(TrackerSet::name)
        .contains(tripod.trackers().get(0).name() + Staging.DIRECTIONS);
    assertThat(s.trackerCount()).isEqualTo(tripod.trackerCount());
    // Without any depth all of them are directions, and a camera that moves has none.
    assertThat(Staging.NONE.applied(tripod).trackers())
        .allMatch(t -> t.name().endsWith(Staging.DIRECTIONS));
    assertThat(TripodDepth.isTripod(shot)).isFalse();
    assertThatThrownBy(() -> new TripodDepth(shot))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("moves");
  }

  @Test
  void aSecondSolveIsLaidOnTheFirstWhateverItsNames() {
    Shot first = StagedShots.tracked(StagedShots.shot());
    Random r = new Random(5);
    Similarity there =
        new Similarity(0.31, Rotation.normalized(0.4, -0.2, 0.7, 0.1), new Vec3(4, -2, 9));
    Shot base = first.withLevel(there).levelled().contents();
    Shot noisy =
        base.withTrackers(
            base.trackers().stream()
                .map(
                    t ->
                        t.map(
                            p ->
                                p.plus(
                                    new Vec3(r.nextGaussian(), r.nextGaussian(), r.nextGaussian())
                                        .times(0.0005))))
                .toList());
    TrackerSet t = noisy.trackers().get(0);
    List<String> other = t.names().stream().map(x -> "other_" + x).toList();
    double[] xyz = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      xyz[3 * i] = t.x(i);
      xyz[3 * i + 1] = t.y(i);
      xyz[3 * i + 2] = t.z(i);
    }
    flarvo.scene.Observations.Builder o = new flarvo.scene.Observations.Builder();
    var was = first.observations();
    for (String n : t.names()) {
      for (int row = Math.max(0, was.firstRow(n)); row < was.endRow(n); row++) {
        o.add("other_" + n, was.frame(row), was.x(row) + 0.1 * r.nextGaussian(), was.y(row));
      }
    }
    Shot renamed =
        noisy.withTrackers(List.of(TrackerSet.of("t", other, xyz))).withObservations(o.build());
    Map<SolveOnSolve.By, Shot> ways = new HashMap<>();
    ways.put(SolveOnSolve.By.NAME, noisy);
    ways.put(SolveOnSolve.By.TRACKS, renamed);
    ways.put(SolveOnSolve.By.PLACE, renamed.withObservations(flarvo.scene.Observations.NONE));
    ways.forEach(
        (by, second) -> {
          SolveOnSolve s = SolveOnSolve.of(first, second);
          assertThat(s.by()).isEqualTo(by);
          assertThat(s.pairs().size()).isGreaterThan(14);
          Similarity whole = s.onto().after(there);
          assertThat(whole.scale()).isCloseTo(1, within(2e-3));
          assertThat(whole.rotation().angleTo(Rotation.IDENTITY)).isLessThan(2e-3);
          assertThat(s.rmsPx()).isLessThan(1.5);
          assertThat(s.words(first.level())).contains("shared trackers");
        });
    // What was placed keeps its place in the world.
    SolveOnSolve s = SolveOnSolve.of(first, noisy);
    Staging placed = StagedShots.staging(first);
    Staging moved = placed.following(first).moved(s.onto().inverse());
    Similarity level = first.level().after(s.onto());
    for (int i = 0; i < 8; i++) {
      Vec3 before = first.level().apply(placed.standIns().get(1).points().get(i));
      Vec3 after = level.apply(moved.standIns().get(1).points().get(i));
      assertThat(before.minus(after).length()).isLessThan(1e-9);
    }
    Shot few = noisy.withTrackers(List.of(noisy.trackers().get(0).without(Set.copyOf(t.names()))));
    assertThatThrownBy(() -> SolveOnSolve.of(first, few))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("share too few");
  }
}
