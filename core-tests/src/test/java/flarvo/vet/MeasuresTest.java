package flarvo.vet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class MeasuresTest {

  private static final MadeShots.Made MADE =
      MadeShots.made(MadeShots.Move.CRANE, 1, 0.3, 0.08, 50, 70, 3);
  private static final Shot SHOT = MADE.truth();
  private static final Measures M = Measures.of(SHOT, Set.of(), Progress.NONE).orElseThrow();

  @Test
  void asManyAreOverALimitAsHaveALargerError() {
    for (double limit : new double[] {0, 0.2, 0.31, 0.5, 1, 100}) {
      long larger = M.trackers().stream().filter(t -> t.rmsPx() > limit).count();
      assertThat(M.over(limit)).isEqualTo((int) larger);
    }
    double some = M.trackers().get(5).rmsPx();
    assertThat(M.over(some))
        .isEqualTo((int) M.trackers().stream().filter(t -> t.rmsPx() > some).count());
  }

  @Test
  void errorsThatAreKnownAreNotWorkedOutAgain() {
    Reprojection errors = Reprojection.of(SHOT).orElseThrow();
    Measures m = Measures.of(SHOT, errors, Progress.NONE);
    assertThat(m.errors()).isSameAs(errors);
    assertThat(m.trackers()).isEqualTo(M.trackers());
  }

  @Test
  void everyReasonChoosesWhatItSays() {
    for (String n : new Culling.Over(1).chosen(SHOT, M)) {
      assertThat(M.errors().trackerRmsPx(n)).isGreaterThan(1);
    }
    assertThat(new Culling.Over(1).chosen(SHOT, M)).containsAll(MADE.strays());
    assertThat(new Culling.OnWhatMoves(0.6).chosen(SHOT, M))
        .containsExactlyInAnyOrderElementsOf(MADE.strays());
    assertThat(new Culling.KeepBest(0.9).chosen(SHOT, M)).hasSize(7);
    assertThat(new Culling.KeepBest(1).chosen(SHOT, M)).isEmpty();
    Set<String> brief = new Culling.ShorterThan(20).chosen(SHOT, M);
    for (TrackerMeasure t : M.trackers()) {
      assertThat(brief.contains(t.name())).isEqualTo(t.frames() < 20);
    }
    double median =
        M.trackers().stream()
            .mapToDouble(TrackerMeasure::angle)
            .sorted()
            .skip(35)
            .findFirst()
            .getAsDouble();
    assertThat(new Culling.LittleParallax(median).chosen(SHOT, M)).hasSize(35);
    Culling.InRegion left =
        new Culling.InRegion(
            List.of(0.0, 0.0, 960.0, 0.0, 960.0, 1080.0, 0.0, 1080.0), new FrameRange(1001, 1010));
    Observations o = SHOT.observations();
    for (TrackerMeasure t : M.trackers()) {
      boolean inside = false;
      for (int row = o.firstRow(t.name()); row < o.endRow(t.name()); row++) {
        inside |= o.frame(row) <= 1010 && o.x(row) < 960;
      }
      assertThat(left.chosen(SHOT, M).contains(t.name())).isEqualTo(inside);
    }
  }

  @Test
  void aPreviewPromisesWhatHappens() {
    Set<String> going = new Culling.Over(0.5).chosen(SHOT, M);
    CullPreview p = CullPreview.of(SHOT, M.errors(), going, Set.of(), 30);
    Shot after = Vetting.NONE.culling(going).applied(SHOT);
    Reprojection r = Reprojection.of(after).orElseThrow();
    assertThat(p.rmsPx()).isCloseTo(r.rmsPx(), within(1e-6));
    assertThat(p.staying()).isEqualTo(after.trackerCount());
    for (int f = 1001; f <= 1050; f++) {
      boolean falls = r.live(f) < 30 && M.errors().live(f) >= 30;
      assertThat(p.thinFrames().contains(f)).isEqualTo(falls);
    }
  }

  @Test
  void whatIsCulledComesBackUnchanged() {
    Vetting v = Vetting.NONE.culling(Set.of("p001", "p002"));
    assertThat(v.applied(SHOT).trackerCount()).isEqualTo(68);
    assertThat(v.restoring(Set.of("p001", "p002")).applied(SHOT)).isEqualTo(SHOT);
  }

  @Test
  void depthErrorIsWhatRepeatedNoiseGives() {
    // The spread of many triangulations under fresh noise, along the view.
    Shot exact = MadeShots.made(MadeShots.Move.TRUCK, 1, 0, 0, 40, 30, 8).truth();
    ShotCamera c = exact.cameras().get(0);
    Observations o = exact.observations();
    String name = o.names().get(4);
    Vec3 truth = exact.trackers().get(0).position(4);
    Random r = new Random(1);
    double sum = 0;
    int n = 400;
    Vec3 eye = c.poses().at(o.frame(o.firstRow(name))).position();
    for (int k = 0; k < n; k++) {
      Observations.Builder b = new Observations.Builder();
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        b.add(name, o.frame(row), o.x(row) + r.nextGaussian(), o.y(row) + r.nextGaussian());
      }
      Vec3 p = new Triangulation(c, exact.picture(), b.build()).of(name).orElseThrow().position();
      double along = p.minus(truth).dot(truth.minus(eye).normalized());
      sum += along * along;
    }
    double expected =
        new Triangulation(c, exact.picture(), o).measured(name, truth).orElseThrow().depthError();
    assertThat(Math.sqrt(sum / n)).isCloseTo(expected, within(0.15 * expected));
  }

  @Test
  void aJumpInThePathIsNamedAndBridged() {
    ShotCamera c = SHOT.cameras().get(0);
    PoseTrack jumpy =
        PoseTrack.of(
            c.frames(),
            f -> {
              Pose p = c.poses().at(f);
              return f == 1023
                  ? new Pose(p.position().plus(new Vec3(0.03, 0, 0)), p.rotation())
                  : p;
            });
    Shot s = SHOT.withCameras(List.of(c.withPoses(jumpy)));
    assertThat(PathJumps.of(s).outliers()).containsExactly(1023);
    assertThat(PathJumps.of(SHOT).outliers()).isEmpty();
    PathRepair.Repair r = PathRepair.bridge(s, Set.of(1023), Progress.NONE);
    assertThat(r.touched()).containsExactly(1023);
    assertThat(r.camera().poses().at(1023).position().minus(c.poses().at(1023).position()).length())
        .isLessThan(0.002);
    assertThat(r.afterPx()).isLessThan(r.beforePx());
    // One frame was touched: what is said of it is said of the whole.
    assertThat(r.beforeFramesPx()).containsExactly(new double[] {r.beforePx()}, within(1e-12));
    assertThat(r.movedPx()).containsExactly(r.movedMaxPx());
  }

  @Test
  void smoothingTouchesTheChosenAloneAndKeepsItsLimit() {
    Random rnd = new Random(2);
    ShotCamera c = SHOT.cameras().get(0);
    PoseTrack shaky =
        PoseTrack.of(
            c.frames(),
            f -> {
              Pose p = c.poses().at(f);
              Vec3 shake = new Vec3(rnd.nextGaussian(), rnd.nextGaussian(), 0).times(0.004);
              return new Pose(p.position().plus(shake), p.rotation());
            });
    Shot s = SHOT.withCameras(List.of(c.withPoses(shaky)));
    for (double limit : new double[] {0.3, 1, 50}) {
      PathRepair.Repair r =
          PathRepair.smooth(s, new FrameRange(1011, 1030), 6, limit, Progress.NONE);
      assertThat(r.touched()).allMatch(f -> f >= 1011 && f <= 1030).isNotEmpty();
      assertThat(r.movedMaxPx()).isLessThanOrEqualTo(limit + 1e-6);
      double rough = 0;
      double smooth = 0;
      Shot after = s.withCameras(List.of(r.camera()));
      for (int f = 1012; f <= 1029; f++) {
        rough += PathJumps.of(s).px(f);
        smooth += PathJumps.of(after).px(f);
      }
      assertThat(smooth).isLessThan(rough);
    }
    assertThatThrownBy(() -> PathRepair.bridge(s, Set.of(1001), Progress.NONE))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("1001");
    assertThatThrownBy(() -> PathRepair.smooth(s, new FrameRange(990, 1005), 3, 1, Progress.NONE))
        .isInstanceOf(InputError.class);
  }

  @Test
  void emptyPartsOfThePictureAreFound() {
    Observations o = SHOT.observations();
    Observations.Builder right = new Observations.Builder();
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        if (o.x(row) > 640) {
          right.add(n, o.frame(row), o.x(row), o.y(row));
        }
      }
    }
    Coverage c = Coverage.of(SHOT.withObservations(right.build()));
    assertThat(c.holds(0, 0, 1020)).isFalse();
    assertThat(c.holes(50).stream().filter(h -> h.column() < 2).count()).isEqualTo(8);
    assertThat(c.holes(50).get(0).where()).containsAnyOf("left", "right", "middle");
    assertThat(c.share(1020)).isBetween(0.0, 2 / 3.0);
  }

  @Test
  void theKindOfMoveIsToldFromTheTracks() {
    SolveKind free = SolveKind.of(SHOT, Set.of(), Progress.NONE).orElseThrow();
    assertThat(free.tripod()).isFalse();
    assertThat(free.reason()).contains("the camera moves");
    // A solve so bad that turning alone fits about as well: a free move is looked for.
    SolveKind poor =
        SolveKind.of(MadeShots.shaken(SHOT, 0.5, 0.05, 1), Set.of(), Progress.NONE).orElseThrow();
    assertThat(poor.tripod()).as(poor.reason()).isFalse();
    assertThat(poor.freePx()).isLessThan(0.5);
    assertThat(poor.turnPx()).isCloseTo(free.turnPx(), within(0.1 * free.turnPx()));
    Shot pan = MadeShots.made(MadeShots.Move.TRIPOD, 1, 0.3, 0.05, 50, 60, 4).truth();
    SolveKind tripod =
        SolveKind.of(MadeShots.shaken(pan, 0.002, 0.0005, 1), Set.of(), Progress.NONE)
            .orElseThrow();
    assertThat(tripod.tripod()).as(tripod.reason()).isTrue();
    assertThat(SolveKind.of(SHOT.withObservations(Observations.NONE), Set.of(), Progress.NONE))
        .isEmpty();
  }

  @Test
  void lateMarksStandWhereTheirRaysMeetAndChangeNothingElse() {
    Observations o = SHOT.observations();
    String like =
        o.names().stream().filter(n -> !MADE.strays().contains(n)).findFirst().orElseThrow();
    int a = o.firstRow(like);
    int b = o.endRow(like) - 1;
    ExtraPoint p =
        new ExtraPoint(
            "extra1",
            List.of(
                new ExtraPoint.Mark(o.frame(b), o.x(b), o.y(b), false),
                new ExtraPoint.Mark(o.frame(a), o.x(a), o.y(a), false)));
    Vetting v = Vetting.NONE.withExtra(p);
    Shot s = v.applied(SHOT);
    assertThat(s.cameras()).isEqualTo(SHOT.cameras());
    assertThat(Reprojection.of(s, v.uncounted()).orElseThrow().rmsPx())
        .isEqualTo(M.errors().rmsPx());
    TrackerSet late = s.trackers().get(1);
    assertThat(late.name()).isEqualTo(Vetting.EXTRA_GROUP);
    int i = SHOT.trackers().get(0).names().indexOf(like);
    assertThat(late.position(0).minus(SHOT.trackers().get(0).position(i)).length()).isLessThan(0.2);
    assertThat(Vetting.NONE.withExtra(p.without(o.frame(a))).applied(SHOT).trackers()).hasSize(1);
    assertThatThrownBy(() -> new ExtraPoint(" ", List.of()))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void aPatternIsFollowedToAFractionOfAPixel() {
    Shot s = SHOT;
    // A texture that slides by a known, fractional amount a frame; the solve knows nothing of it.
    Shot blind = s.withCameras(List.of());
    double vx = 1.3;
    double vy = -0.7;
    PatternSearch search =
        new PatternSearch(
            blind, f -> Optional.of(texture(160, 120, vx * (f - 1001), vy * (f - 1001))));
    ExtraPoint p = new ExtraPoint("x", List.of(new ExtraPoint.Mark(1006, 70, 60, false)));
    ExtraPoint found = search.along(p, new FrameRange(1001, 1016), Progress.NONE);
    assertThat(found.marks()).hasSize(16);
    for (ExtraPoint.Mark m : found.marks()) {
      assertThat(m.x()).isCloseTo(70 + vx * (m.frame() - 1006), within(0.15));
      assertThat(m.y()).isCloseTo(60 + vy * (m.frame() - 1006), within(0.15));
    }
    PatternSearch blank =
        new PatternSearch(blind, f -> Optional.of(new Luma(160, 120, new float[160 * 120])));
    assertThat(blank.along(p, new FrameRange(1001, 1016), Progress.NONE).marks()).hasSize(1);
  }

  private static Luma texture(int w, int h, double dx, double dy) {
    float[] v = new float[w * h];
    for (int y = 0; y < h; y++) {
      for (int x = 0; x < w; x++) {
        double u = x - dx;
        double t = y - dy;
        v[y * w + x] =
            (float)
                (128
                    + 50 * Math.sin(u / 4.1) * Math.cos(t / 5.3)
                    + 40 * Math.sin(u / 9.7 + t / 6.1)
                    + 20 * Math.cos(t / 3.3));
      }
    }
    return new Luma(w, h, v);
  }
}
