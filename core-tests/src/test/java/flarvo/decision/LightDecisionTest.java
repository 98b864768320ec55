package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.proof.CartShot;
import flarvo.render.RenderScene;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

/** Where the light comes from: said, taken from a shadow, kept when the level is changed. */
class LightDecisionTest {

  private final ShotState start = ShotState.of(CartShot.shot());

  private static ShotState after(ShotState s, Decision d) {
    Applied a = d.on(s, Optional.empty());
    assertThat(a.missed()).isEmpty();
    return a.state();
  }

  private static Vec3 light(ShotState s) {
    return RenderScene.of(s.shot(), s.staging()).look().light().normalized();
  }

  @Test
  void itIsSaidInTheLevelledWorldAndStaysWithThePlate() {
    Similarity first = new Similarity(2, Rotation.about(new Vec3(1, 0, 0), 0.4), new Vec3(1, 2, 3));
    ShotState levelled = after(start, new LevelDecision.MoveLevel(first, "move"));
    ShotState lit = after(levelled, new BuildDecision.SetLight(90, 30));
    Vec3 said = new Vec3(Math.sqrt(0.75), 0.5, 0);
    assertThat(light(lit).minus(said).length()).isLessThan(1e-12);
    // Turned about up by a quarter, the world's light turns with everything that is in the plate.
    Rotation quarter = Rotation.about(new Vec3(0, 1, 0), Math.PI / 2);
    Similarity second = new Similarity(1, quarter, Vec3.ZERO);
    ShotState turned = after(lit, new LevelDecision.MoveLevel(second, "turn"));
    assertThat(light(turned).minus(quarter.apply(said)).length()).isLessThan(1e-12);
    // And the project file keeps it.
    Optional<Vec3> kept =
        StagingJson.read(StrictJson.of(StagingJson.write(turned.staging()), "")).light();
    assertThat(kept).isEqualTo(turned.staging().light()).isPresent();
  }

  @Test
  void aShadowTellsItByTwoTrackers() {
    List<String> byHeight =
        start.shot().trackers().get(0).names().stream()
            .sorted(Comparator.comparingDouble((String n) -> world(n).y()))
            .toList();
    String tip = byHeight.get(0);
    String top = byHeight.get(byHeight.size() - 1);
    ShotState lit = after(start, new BuildDecision.LightFromShadow(top, tip));
    assertThat(light(lit).minus(world(top).minus(world(tip)).normalized()).length())
        .isLessThan(1e-12);
    assertThatThrownBy(() -> after(start, new BuildDecision.LightFromShadow(tip, top)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("over the horizon");
    assertThatThrownBy(() -> after(start, new BuildDecision.LightFromShadow("gone", tip)))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("gone");
  }

  private Vec3 world(String tracker) {
    return start.level().apply(start.place(tracker).orElseThrow());
  }
}
