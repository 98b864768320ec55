package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.TestShots;
import flarvo.format.Reach;
import flarvo.level.Statement;
import flarvo.receive.IntakeOptions;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Equal numbers have one identity; a change of any of them is seen when a history is opened. */
class InputIdentityTest {

  private static final Shot SHOT = TestShots.walk(5, 6, 1);

  private static String of(Shot s) {
    return InputIdentity.of(ShotState.of(s));
  }

  @Test
  void oneNumberMakesAnotherIdentity() {
    assertThat(of(TestShots.walk(5, 6, 1))).isEqualTo(of(SHOT));
    List<TrackerSet> moved =
        SHOT.trackers().stream().map(t -> t.map(p -> p.plus(new Vec3(1e-12, 0, 0)))).toList();
    assertThat(of(SHOT.withTrackers(moved))).isNotEqualTo(of(SHOT));
    assertThat(of(SHOT.startingAt(7))).isNotEqualTo(of(SHOT));
    assertThat(of(SHOT.withRate(Rate.parse("30")))).isNotEqualTo(of(SHOT));
  }

  @Test
  void aHistorySaysThatItsFilesChanged() {
    DecisionHistory h = new DecisionHistory(ShotState.of(SHOT));
    String tracker = SHOT.trackers().get(0).names().get(0);
    h.apply(new LevelDecision.AddStatement(new Statement.At(tracker, Vec3.ZERO)));
    assertThat(DecisionHistory.restored(ShotState.of(SHOT), h.log(), Progress.NONE).filesChanged())
        .isFalse();
    assertThat(
            DecisionHistory.restored(ShotState.of(SHOT.startingAt(7)), h.log(), Progress.NONE)
                .filesChanged())
        .isTrue();
  }

  @Test
  void whereFilesMayLieIsNoPartOfIt() {
    IntakeOptions o = IntakeOptions.NONE.withRate(Rate.FPS_24);
    String known =
        "IntakeOptions[from=Optional.empty, size=Optional.empty, pixelAspect=Optional.empty,"
            + " rate=Optional[24], filmBack=Optional.empty, take=Optional.empty,"
            + " camera=Optional.empty, plateFirst=OptionalInt.empty, up=Optional.empty,"
            + " unit=Optional.empty]";
    assertThat(InputIdentity.said(o)).isEqualTo(known);
    assertThat(InputIdentity.said(o.withReach(Reach.ANYWHERE))).isEqualTo(known);
    assertThat(InputIdentity.said(o.withReach(Reach.BESIDE.within(Path.of("/shot")))))
        .isEqualTo(known);
  }
}
