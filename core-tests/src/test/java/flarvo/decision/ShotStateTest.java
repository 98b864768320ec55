package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.format.Formats;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** When a state comes to the same shot, and when it is worked out. */
class ShotStateTest {

  private final ShotState state = ShotState.of(TestShots.walk(12, 20, 3));

  @Test
  void theEmptyShotIsAShot() {
    assertThat(ShotState.NONE.shot().trackerCount()).isZero();
    assertThat(ShotState.NONE.shot().camera()).isEmpty();
    assertThat(ShotState.NONE.isMade()).isTrue();
    assertThat(ShotState.NONE.staged()).isEqualTo(ShotState.NONE.shot());
    assertThat(ShotState.NONE.isSameShot(state)).isFalse();
  }

  @Test
  void whatDoesNotTouchTheShotKeepsIt() {
    Vetting light = state.vetting().weighing(Set.of("t1"), false);
    ShotState weighed = state.withVetting(light);
    assertThat(weighed.isSameShot(state)).isTrue();
    assertThat(weighed.isMade()).isTrue();
    assertThat(weighed.shot()).isSameAs(state.shot());
    ShotState addressed =
        state.withDeliveries(
            List.of(
                new Delivery(
                    "d",
                    Dialects.shipped().get("anim-yup-m"),
                    Formats.byId("usd-text"),
                    Contents.CAMERA,
                    "d.usda")));
    assertThat(addressed.isSameShot(state)).isTrue();
    assertThat(addressed.shot()).isSameAs(state.shot());
    assertThat(addressed).isNotEqualTo(state);
  }

  @Test
  void whatTouchesTheShotMakesAnother() {
    String one = state.shot().trackers().get(0).names().get(0);
    ShotState culled = state.withVetting(state.vetting().culling(Set.of(one)));
    assertThat(culled.isSameShot(state)).isFalse();
    assertThat(culled.isMade()).as("nobody asked for it yet").isFalse();
    assertThat(culled.shot().trackerCount()).isEqualTo(state.shot().trackerCount() - 1);
    assertThat(culled.isMade()).isTrue();
    Similarity turn = new Similarity(2, Rotation.about(new Vec3(0, 1, 0), 0.5), Vec3.ZERO);
    ShotState levelled = state.withLevel(turn);
    assertThat(levelled.isSameShot(state)).isFalse();
    assertThat(levelled.withLevel(state.level()).isSameShot(state)).as("and back").isTrue();
    ShotState grouped =
        state.withVetting(
            state
                .vetting()
                .withGroup(new TrackerGroup("g", TrackerGroup.Dot.DISC, 0, Set.of(one))));
    assertThat(grouped.isSameShot(state)).as("groups are sets of the shot").isFalse();
  }
}
