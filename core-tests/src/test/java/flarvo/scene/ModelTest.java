package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.TestShots;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Data that cannot be wrong. */
class ModelTest {

  @Test
  void rangesRefuseNothingButNonsense() {
    assertThat(FrameRange.parse("1001-1096").count()).isEqualTo(96);
    assertThat(FrameRange.parse("-5--2")).isEqualTo(new FrameRange(-5, -2));
    assertThat(FrameRange.parse("7")).isEqualTo(new FrameRange(7, 7));
    assertThatThrownBy(() -> new FrameRange(2, 1)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> FrameRange.parse("ten")).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new FrameRange(Integer.MIN_VALUE, Integer.MAX_VALUE))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void trackersHaveOneNameAndFinitePlaces() {
    assertThatThrownBy(() -> TrackerSet.of("g", List.of("a", "a"), new double[6]))
        .hasMessageContaining("'a'");
    assertThatThrownBy(() -> TrackerSet.of("g", List.of("a"), new double[] {1, Double.NaN, 0}))
        .hasMessageContaining("'a'");
    assertThatThrownBy(() -> TrackerSet.of("g", List.of("a"), new double[2]))
        .isInstanceOf(IllegalArgumentException.class);
    double[] mine = {1, 2, 3};
    TrackerSet t = TrackerSet.of("g", List.of("a"), mine);
    mine[0] = 99;
    assertThat(t.x(0)).isEqualTo(1);
  }

  @Test
  void observationsAreFoundByTrackerAndFrame() {
    Observations o =
        new Observations.Builder().add("b", 5, 1, 2).add("a", 3, 3, 4).add("b", 2, 5, 6).build();
    assertThat(o.row("b", 2)).isGreaterThanOrEqualTo(0);
    assertThat(o.x(o.row("b", 5))).isEqualTo(1);
    assertThat(o.frame(o.firstRow("b"))).isEqualTo(2);
    assertThat(o.row("b", 3)).isEqualTo(-1);
    assertThat(o.row("c", 3)).isEqualTo(-1);
    assertThatThrownBy(() -> new Observations.Builder().add("a", 1, 0, 0).add("a", 1, 1, 1).build())
        .hasMessageContaining("twice at frame 1");
  }

  @Test
  void posesAndOpticsMustCoverTheSameFrames() {
    Shot s = TestShots.walk(5, 3, 1);
    ShotCamera c = s.cameras().get(0);
    assertThatThrownBy(
            () ->
                new ShotCamera(
                    "x",
                    c.poses(),
                    OpticsTrack.constant(new FrameRange(0, 4), c.optics().at(1001)),
                    Optional.empty()))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> c.poses().at(1000)).isInstanceOf(IndexOutOfBoundsException.class);
    assertThat(c.shifted(-1001).poses().at(0)).isEqualTo(c.poses().at(1001));
  }

  @Test
  void numbersThatNoCameraHasAreRefused() {
    assertThatThrownBy(() -> Optics.centred(0, 36, 24)).hasMessageContaining("focal length");
    assertThatThrownBy(() -> Optics.centred(35, -36, 24)).hasMessageContaining("film back");
    assertThatThrownBy(() -> new ClipRange(1, 1)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> PictureSize.parse("1920")).hasMessageContaining("1920x1080");
    assertThatThrownBy(() -> PictureSize.of(0, 5)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Vec3(Double.NaN, 0, 0))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void aShotCanBeLaidOnOtherFrames() {
    Shot s = TestShots.walk(5, 3, 1).startingAt(1);
    assertThat(s.frames()).isEqualTo(new FrameRange(1, 5));
    assertThat(s.cameras().get(0).frames()).isEqualTo(new FrameRange(1, 5));
  }
}
