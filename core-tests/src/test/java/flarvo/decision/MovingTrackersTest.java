package flarvo.decision;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import flarvo.level.Statement;
import flarvo.proof.CartShot;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.vet.Culling;
import flarvo.vet.Measures;
import flarvo.vet.Refinement;
import flarvo.vet.Reprojection;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** What may be decided about trackers of groups that move, and what may not. */
class MovingTrackersTest {

  /** The cart's shot with every tracker seen where it is. */
  private static Shot seen() {
    Shot s = CartShot.shot();
    Observations.Builder b = new Observations.Builder();
    Pinhole h = new Pinhole(s.camera().orElseThrow(), s.picture());
    double[] px = new double[3];
    for (TrackerSet t : s.trackers()) {
      for (int f = 1001; f <= 1060; f++) {
        for (int i = 0; i < t.size(); i++) {
          h.at(f).project(t, i, px);
          if (px[2] > 0) {
            b.add(t.names().get(i), f, px[0], px[1]);
          }
        }
      }
    }
    return s.withObservations(b.build());
  }

  private static Applied applied(Decision d, ShotState s) {
    return d.on(s, d.work(s, Progress.NONE));
  }

  @Test
  void theyAreMeasuredWhereTheyAre() {
    Shot s = seen();
    assertThat(Reprojection.of(s).orElseThrow().maxPx()).isLessThan(1e-9);
    Measures m = Measures.of(s, Set.of(), Progress.NONE).orElseThrow();
    assertThat(m.tracker("w_wheel_1").orElseThrow().rmsPx()).isLessThan(1e-9);
    assertThat(m.tracker("w_wheel_1").orElseThrow().depth()).isNaN();
    assertThat(m.tracker("g_ground_1").orElseThrow().depth()).isPositive();
  }

  @Test
  void theyAreCulledAndComeBack() {
    ShotState s = ShotState.of(seen());
    Decision cull = new VetDecision.Cull(new Culling.ByHand(Set.of("w_wheel_2", "c_cart_1")));
    Applied a = applied(cull, s);
    assertThat(a.missed()).isEmpty();
    Shot left = a.state().shot();
    assertThat(left.trackerCount()).isEqualTo(25);
    assertThat(left.trackers())
        .filteredOn(t -> t.name().equals("wheel"))
        .allMatch(TrackerSet::moves);
    Decision back = new VetDecision.Restore(Set.of("w_wheel_2", "c_cart_1"));
    assertThat(applied(back, a.state()).state().shot()).isEqualTo(s.shot());
  }

  /** The camera is fitted to what stands still; what moves keeps its motion to the last bit. */
  @Test
  void refiningLeavesThemAsTheyMove() {
    Shot s = seen();
    Refinement.Outcome r = Refinement.of(s, Set.of(), AdjustOptions.USUAL, Progress.NONE);
    Shot refined = r.solve().applied(s);
    assertThat(refined.trackers().get(3)).isEqualTo(s.trackers().get(3));
    assertThat(Reprojection.of(refined).orElseThrow().maxPx()).isLessThan(0.01);
  }

  @Test
  void nothingIsStatedOfThem() {
    ShotState s = ShotState.of(seen());
    Decision d =
        new LevelDecision.AddStatement(new Statement.OnGround(Set.of("g_ground_1", "c_cart_2"), 0));
    assertThatThrownBy(() -> applied(d, s))
        .isInstanceOf(InputError.class)
        .hasMessageContaining("c_cart_2, which moves");
  }
}
