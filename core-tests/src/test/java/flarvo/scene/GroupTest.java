package flarvo.scene;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class GroupTest {

  private static final FrameRange FRAMES = new FrameRange(1, 10);

  private static PoseTrack path(double speed) {
    return PoseTrack.of(FRAMES, f -> new Pose(new Vec3(speed * f, 0, 0), Rotation.IDENTITY));
  }

  @Test
  void aGroupInsideMovesWithTheOneAboveUnlessItMovesItself() {
    Group outer = Group.moving("outer", path(1));
    Group inner = Group.still("inner").in(outer);
    Group own = Group.moving("own", path(5)).in(outer);
    assertThat(inner.moves()).isTrue();
    assertThat(inner.at(4).position()).isEqualTo(new Vec3(4, 0, 0));
    assertThat(own.at(4).position()).isEqualTo(new Vec3(20, 0, 0));
    assertThat(Group.still("a").in(Group.still("b")).moves()).isFalse();
    assertThat(inner.path()).extracting(Group::name).containsExactly("outer", "inner");
  }

  @Test
  void outsideItsFramesItStandsStill() {
    Group g = Group.moving("g", path(1));
    assertThat(g.at(-7)).isEqualTo(g.at(1));
    assertThat(g.at(99)).isEqualTo(g.at(10));
  }

  @Test
  void everyMotionOfTheTreeIsChanged() {
    Group g = Group.moving("own", path(5)).in(Group.moving("outer", path(1)));
    Group later = g.map(p -> p.shifted(100));
    assertThat(later.path()).allMatch(k -> k.motion().orElseThrow().frames().first() == 101);
    assertThat(later.at(104)).isEqualTo(g.at(4));
    assertThat(g.under(Similarity.IDENTITY)).isEqualTo(g);
  }

  @Test
  void setsKnowWhetherTheyMove() {
    TrackerSet t = TrackerSet.of("s", List.of("a", "b"), new double[] {0, 0, 0, 1, 1, 1});
    TrackerSet in = t.inGroup(Optional.of(Group.moving("g", path(2))));
    assertThat(t.moves()).isFalse();
    assertThat(in.moves()).isTrue();
    assertThat(in.position(1, 3)).isEqualTo(new Vec3(7, 1, 1));
    assertThat(TrackerSet.stillPositions(List.of(t))).hasSize(2);
    assertThat(TrackerSet.stillPositions(List.of(in))).isEmpty();
    assertThat(in.without(java.util.Set.of("a")).position(0, 3)).isEqualTo(new Vec3(7, 1, 1));
    assertThat(in.withMarker(2).named("x").withNames(List.of("c", "d")).moves()).isTrue();
    assertThat(in).isNotEqualTo(t);
  }

  @Test
  void theWorldsShotHasNoLevelLeft() {
    Shot s = Shot.EMPTY.withLevel(new Similarity(2, Rotation.IDENTITY, Vec3.ZERO));
    assertThat(s.levelled().contents().level()).isEqualTo(Similarity.IDENTITY);
    assertThatThrownBy(() -> new WorldShot(s)).isInstanceOf(IllegalArgumentException.class);
  }
}
