package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import flarvo.TestShots;
import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.suspect.Hypotheses.Question;
import flarvo.vet.MadeShots;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Questions to the search, on shots that were spoiled with arithmetic of this test. */
class HypothesesTest {

  private static final Shot TRUTH = TestShots.walk(60, 80, 3);
  private static final Observations TRACKS = TrustedSolve.tracks(TRUTH);

  private static Shot with(ShotCamera c) {
    return TRUTH.withCameras(List.of(c));
  }

  private static ShotCamera camera() {
    return TRUTH.camera().orElseThrow();
  }

  private static Shot late(int frames) {
    ShotCamera c = camera();
    return with(
        new ShotCamera(
            c.name(),
            PoseTrack.of(c.frames(), f -> c.poses().at(c.frames().clamp(f - frames))),
            c.optics(),
            c.clip()));
  }

  /** Trackers called by other names than the tracks, as features of a plate are. */
  private static Observations renamed() {
    Observations.Builder b = new Observations.Builder();
    for (String n : TRACKS.names()) {
      for (int row = TRACKS.firstRow(n); row < TRACKS.endRow(n); row++) {
        b.add("feature " + n, TRACKS.frame(row), TRACKS.x(row), TRACKS.y(row));
      }
    }
    return b.build();
  }

  @Test
  void whatIsRightHasNoError() {
    assertThat(Hypotheses.errorPx(TRUTH, TRACKS)).isLessThan(1e-6);
    assertThat(Hypotheses.errorPx(TRUTH, renamed())).isLessThan(1e-6);
  }

  @Test
  void withoutACameraOrTracksNothingIsMeasured() {
    assertThat(Hypotheses.errorPx(TRUTH.withCameras(List.of()), TRACKS)).isNaN();
    assertThat(Hypotheses.errorPx(TRUTH, Observations.NONE)).isNaN();
    assertThat(Hypotheses.of(TRUTH, Observations.NONE, Question.FRAMES)).isEmpty();
    assertThat(Hypotheses.of(TRUTH.withCameras(List.of()), TRACKS, Question.FILM)).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 3, 11, -2})
  void framesAreCountedRightAgainByNameAndByTheCameraAlone(int late) {
    for (Observations o : List.of(TRACKS, renamed())) {
      double as = Hypotheses.errorPx(late(late), o);
      Hypotheses.Tried best = Hypotheses.of(late(late), o, Question.FRAMES).get(0);
      assertThat(best.value()).isEqualTo((late < 0 ? "+" : "-") + Math.abs(late));
      assertThat(best.errorPx()).isLessThan(as / 4);
    }
  }

  /** Features have names of their own; free moves and tripods, with noise. */
  @ParameterizedTest
  @EnumSource
  void theFilmAndTheFramesOfACameraAloneAreFound(MadeShots.Move move) {
    Shot s = MadeShots.made(move, 2, 0.1, 0.05, 60, 80, 9).truth();
    Observations o = s.observations();
    ShotCamera c = s.camera().orElseThrow();
    Shot alone = s.withTrackers(List.of());
    assertThat(Hypotheses.errorPx(alone, o)).isLessThan(0.15);
    Shot wide =
        alone.withCameras(
            List.of(
                c.withOptics(c.optics().map(x -> x.withFilm(x.filmWidthMm() * 1.5, 13.5 * 1.5)))));
    Hypotheses.Tried film = Hypotheses.of(wide, o, Question.FILM).get(0);
    assertThat(film.cause()).isEqualTo("focal-length");
    assertThat(Double.parseDouble(film.value())).isCloseTo(1.5, within(0.01));
    assertThat(film.errorPx()).isLessThan(0.15);
    Shot late =
        alone.withCameras(
            List.of(
                c.withPoses(PoseTrack.of(c.frames(), f -> c.poses().at(c.frames().clamp(f - 4))))));
    assertThat(Hypotheses.of(late, o, Question.FRAMES).get(0).value()).isEqualTo("-4");
  }

  @Test
  void theFilmThatFitsIsFound() {
    Shot wide =
        with(
            camera()
                .withOptics(
                    camera()
                        .optics()
                        .map(o -> o.withFilm(o.filmWidthMm() * 1.5, o.filmHeightMm() * 1.5))));
    Hypotheses.Tried best = Hypotheses.of(wide, TRACKS, Question.FILM).get(0);
    double factor = Double.parseDouble(best.value().split(" ")[0]);
    assertThat(best.cause().equals("focal-length") ? 1 / factor : factor)
        .isCloseTo(1 / 1.5, within(0.001));
    assertThat(Hypotheses.withAnyFilm(wide, TRACKS)).isLessThan(0.05);
    assertThat(Hypotheses.errorPx(wide, TRACKS)).isGreaterThan(50);
  }

  /** A group that moves, with the tracks of what it holds and of nothing else. */
  @Test
  void whatMovesByItselfIsMeasuredToo() {
    Group cart =
        new Group(
            "cart",
            Optional.empty(),
            Optional.of(
                PoseTrack.of(
                    TRUTH.frames(),
                    f ->
                        new Pose(
                            new Vec3(0.03 * f - 30, 0.2, 0.01 * f),
                            Rotation.about(new Vec3(0, 1, 0), 0.004 * f)))));
    TrackerSet t = TRUTH.trackers().get(0).inGroup(Optional.of(cart));
    // A camera on the cart sees of it what the other camera sees of the world.
    ShotCamera riding =
        camera()
            .withPoses(
                PoseTrack.of(
                    TRUTH.frames(),
                    f -> {
                      Pose g = cart.motion().orElseThrow().at(f);
                      Pose c = camera().poses().at(f);
                      return new Pose(g.toWorld(c.position()), g.rotation().after(c.rotation()));
                    }));
    Shot s = with(riding).withTrackers(List.of(t));
    assertThat(Hypotheses.errorPx(s, TRACKS)).isLessThan(1e-6);
    Shot standing = with(camera()).withTrackers(List.of(t));
    assertThat(Hypotheses.errorPx(standing, TRACKS)).isGreaterThan(20);
    // What stands still counts where it is tracked, whatever moves.
    TrackerSet other = TRUTH.trackers().get(0);
    Shot both = TRUTH.withTrackers(List.of(other, t));
    assertThat(Hypotheses.errorPx(both, TRACKS)).isLessThan(1e-6);
  }

  @Test
  void aMirroredCameraIsToldFromOneThatIsNot() {
    Shot mirrored =
        TRUTH.withTrackers(
            TRUTH.trackers().stream()
                .map(t -> t.map(v -> new Vec3(-v.x(), v.y(), v.z())))
                .toList());
    assertThat(Hypotheses.errorPx(mirrored, TRACKS)).isGreaterThan(50);
    assertThat(Hypotheses.of(mirrored, TRACKS, Question.HANDEDNESS).get(0).errorPx())
        .isLessThan(1e-6);
    assertThat(Hypotheses.of(TRUTH, TRACKS, Question.HANDEDNESS).get(0).errorPx())
        .isGreaterThan(20);
  }
}
