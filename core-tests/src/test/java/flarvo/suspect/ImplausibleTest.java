package flarvo.suspect;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.List;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;

class ImplausibleTest {

  private final Shot truth = SpoiledFiles.truth(SpoiledFiles.Move.FREE, 60, 80, 4);

  private static Shot camera(Shot s, UnaryOperator<ShotCamera> change) {
    return s.withCameras(List.of(change.apply(s.cameras().get(0))));
  }

  private static Shot poses(Shot s, UnaryOperator<Pose> change) {
    return camera(s, c -> c.withPoses(c.poses().map(change)));
  }

  @Test
  void whatIsRightIsNotOdd() {
    for (SpoiledFiles.Move m : SpoiledFiles.Move.values()) {
      for (int seed = 0; seed < 30; seed++) {
        assertThat(Implausible.of(SpoiledFiles.truth(m, 60, 80, seed))).isEmpty();
      }
    }
    assertThat(Implausible.of(Shot.EMPTY)).isEmpty();
  }

  @Test
  void focalLengthAndFilmBackInMetres() {
    Shot s = camera(truth, c -> c.withOptics(c.optics().map(o -> o.scaled(0.001))));
    assertThat(Implausible.of(s))
        .anyMatch(t -> t.contains("focal length of 0.0"))
        .anyMatch(t -> t.contains("film back 0.02458 mm"));
  }

  @Test
  void centimetresTakenForMetres() {
    Shot large =
        poses(truth, p -> new Pose(p.position().times(100), p.rotation()))
            .withTrackers(
                truth.trackers().stream().map(t -> t.map(v -> v.times(100_000))).toList());
    assertThat(Implausible.of(large))
        .anyMatch(t -> t.contains("m/s"))
        .anyMatch(t -> t.contains("m away"));
  }

  @Test
  void aCameraThatLooksTheOtherWay() {
    Rotation round = Rotation.about(new Vec3(0, 1, 0), Math.PI);
    assertThat(Implausible.of(poses(truth, p -> new Pose(p.position(), p.rotation().after(round)))))
        .anyMatch(t -> t.contains("behind the camera"));
  }

  @Test
  void aJumpAndACameraUnderItsPoints() {
    Shot jump =
        camera(
            truth,
            c ->
                c.withPoses(
                    PoseTrack.of(
                        c.frames(),
                        f ->
                            f < 1030
                                ? c.poses().at(f)
                                : new Pose(
                                    c.poses().at(f).position(),
                                    Rotation.about(new Vec3(0, 1, 0), 2)))));
    assertThat(Implausible.of(jump)).anyMatch(t -> t.contains("from frame 1029 to 1030"));
    TrackerSet high = truth.trackers().get(0).map(v -> v.plus(new Vec3(0, 100, 0)));
    assertThat(Implausible.of(truth.withTrackers(List.of(high))))
        .anyMatch(t -> t.contains("under all of its points"));
  }
}
