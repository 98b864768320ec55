package flarvo.vet;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.OpticsTrack;
import flarvo.scene.Pinhole;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.function.BiPredicate;
import java.util.function.Function;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Input that leaves something undetermined goes through all of Vet: numbers or an explanation. */
@Tag("numeric")
class DegenerateTest {

  private static final Shot WALK =
      MadeShots.made(MadeShots.Move.WALK, 1, 0.2, 0, 30, 40, 91).truth();

  enum Case {
    ONE_PLANE(() -> seen(WALK, p -> new Vec3(p.x(), p.y(), -6), (n, f) -> true)),
    STRAIGHT_DOLLY(() -> seen(straight(), p -> p, (n, f) -> true)),
    FOUR_TRACKERS(() -> seen(WALK, p -> p, (n, f) -> n < 4)),
    ONE_FRAME_SEEN(() -> seen(WALK, p -> p, (n, f) -> f == 1010)),
    ONE_FRAME_SHOT(() -> oneFrame()),
    IDENTICAL_POINTS(() -> seen(WALK, p -> new Vec3(0.1, 1.5, -6), (n, f) -> true)),
    ONE_LINE(() -> seen(WALK, p -> new Vec3(p.x(), 1.5, -6), (n, f) -> true));

    private final java.util.function.Supplier<Shot> made;

    Case(java.util.function.Supplier<Shot> made) {
      this.made = made;
    }
  }

  /** Exactly along its view, without any turn or shake. */
  private static Shot straight() {
    ShotCamera c = WALK.cameras().get(0);
    return WALK.withCameras(
        List.of(
            c.withPoses(
                PoseTrack.of(
                    c.frames(),
                    f -> new Pose(new Vec3(0, 1.6, -0.05 * (f - 1001)), Rotation.IDENTITY)))));
  }

  /** Other places, seen by the shot's camera with a little noise. */
  private static Shot seen(Shot s, Function<Vec3, Vec3> place, BiPredicate<Integer, Integer> kept) {
    Random r = new Random(3);
    TrackerSet t = s.trackers().get(0).map(place::apply);
    Pinhole pinhole = new Pinhole(s.cameras().get(0), s.picture());
    Observations.Builder o = new Observations.Builder();
    double[] px = new double[3];
    Set<String> gone = new java.util.HashSet<>(t.names());
    for (int i = 0; i < t.size(); i++) {
      for (int f = s.frames().first(); f <= s.frames().last(); f++) {
        pinhole.at(f).project(t, i, px);
        boolean inside = px[0] > 0 && px[1] > 0 && px[0] < 1920 && px[1] < 1080;
        if (px[2] > 0 && inside && kept.test(i, f)) {
          o.add(t.names().get(i), f, px[0] + 0.1 * r.nextGaussian(), px[1]);
          gone.remove(t.names().get(i));
        }
      }
    }
    return s.withTrackers(List.of(t.without(gone))).withObservations(o.build());
  }

  private static Shot oneFrame() {
    Shot s = seen(WALK, p -> p, (n, f) -> f == 1001);
    FrameRange one = new FrameRange(1001, 1001);
    ShotCamera c = s.cameras().get(0);
    return new Shot(
        s.name(),
        s.picture(),
        s.rate(),
        one,
        1001,
        List.of(
            new ShotCamera(
                c.name(),
                PoseTrack.of(one, f -> c.poses().at(f)),
                OpticsTrack.constant(one, c.optics().at(1001)),
                Optional.empty())),
        s.trackers(),
        s.observations(),
        List.of(),
        s.level());
  }

  private static void explained(InputError e) {
    assertThat(e.getMessage()).isNotBlank().doesNotContain("NaN").doesNotContain("null");
  }

  private static void finite(Shot s) {
    for (TrackerSet t : s.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        assertThat(t.position(i).length()).isFinite();
      }
    }
    ShotCamera c = s.camera().orElseThrow();
    for (int f = c.frames().first(); f <= c.frames().last(); f++) {
      assertThat(c.poses().at(f).position().length()).isFinite();
      assertThat(c.poses().at(f).rotation().w()).isFinite();
    }
  }

  @ParameterizedTest
  @EnumSource
  void isMeasured(Case odd) {
    Shot s = odd.made.get();
    Measures m = Measures.of(s, Set.of(), Progress.NONE).orElseThrow();
    assertThat(m.errors().rmsPx()).isBetween(0.0, 1.0);
    assertThat(m.trackers()).isNotEmpty().allSatisfy(t -> assertThat(t.rmsPx()).isFinite());
    assertThat(m.cover().meanShare()).isBetween(0.0, 1.0);
    SolveKind.of(s, Set.of(), Progress.NONE)
        .ifPresent(k -> assertThat(k.reason()).isNotBlank().doesNotContain("NaN"));
  }

  @ParameterizedTest
  @EnumSource
  void isRefinedOrExplained(Case odd) {
    Shot s = odd.made.get();
    try {
      Refinement.Outcome o =
          Refinement.of(s, Set.of(), AdjustOptions.USUAL.withRounds(10), Progress.NONE);
      assertThat(o.afterPx()).isFinite().isLessThanOrEqualTo(o.beforePx() * (1 + 1e-9));
      finite(o.solve().applied(s));
    } catch (InputError e) {
      explained(e);
    }
  }

  @ParameterizedTest
  @EnumSource
  void isCulledAndRefinedOrExplained(Case odd) {
    Shot s = odd.made.get();
    try {
      CullAndRefine.Outcome o =
          CullAndRefine.of(s, Set.of(), 0.5, 8, AdjustOptions.USUAL.withRounds(10), Progress.NONE);
      assertThat(o.afterPx()).isFinite();
      assertThat(o.sentence()).isNotBlank().doesNotContain("NaN");
      finite(o.solve().applied(s));
    } catch (InputError e) {
      explained(e);
    }
  }

  @ParameterizedTest
  @EnumSource
  void isSolvedFromItsTracksOrExplained(Case odd) {
    Shot s = odd.made.get();
    try {
      TrackSolve.Outcome o =
          TrackSolve.of(
              "s",
              s.observations(),
              s.picture(),
              s.rate(),
              new TrackSolve.Options(
                  24,
                  13.5,
                  FocalLength.given(s.cameras().get(0).optics().at(1001).focalLengthMm()),
                  0,
                  0.5,
                  8),
              Progress.NONE);
      assertThat(o.cleaned().afterPx()).isFinite();
      assertThat(o.how()).isNotBlank().doesNotContain("NaN");
      finite(o.shot());
    } catch (InputError e) {
      explained(e);
    }
  }
}
