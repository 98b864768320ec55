package flarvo.decision;

import flarvo.report.InputError;
import flarvo.scene.Similarity;
import flarvo.vet.Vetting;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;

/**
 * A decision made on a state.
 *
 * @param before the state that it was made on
 * @param after the same as {@code before} where it could not be applied
 * @param level where it is another one afterwards
 * @param problem why it could not be applied
 * @param missed what of it was not found; the rest was applied
 */
public record Decided(
    Decision decision,
    ShotState before,
    ShotState after,
    Optional<Outcome> outcome,
    Optional<Similarity> level,
    Optional<String> problem,
    List<String> missed) {

  public Decided {
    missed = List.copyOf(missed);
  }

  /**
   * Works a decision out and applies it.
   *
   * @throws InputError when it cannot be done on this state, with the reason
   */
  public static Decided of(ShotState s, Decision d, Progress progress) {
    return of(s, d, d.work(s, progress));
  }

  /**
   * Applies a decision whose outcome is known. Statements hold: the level is worked out again where
   * something that they rest on is another.
   *
   * @throws InputError when it cannot be done on this state, with the reason
   */
  public static Decided of(ShotState s, Decision d, Optional<Outcome> outcome) {
    Applied a = d.on(s, outcome);
    ShotState next = a.state();
    next.shot(); // what makes no shot is refused here
    if (next.isStated() && moves(s, next)) {
      next = next.withLevel(next.statedLevel());
    }
    return new Decided(
        d,
        s,
        next,
        outcome,
        next.level().equals(s.level()) ? Optional.empty() : Optional.of(next.level()),
        Optional.empty(),
        a.missed());
  }

  /** A decision that stays in the list but could not be applied. */
  static Decided failed(ShotState s, Decision d, String why) {
    return new Decided(d, s, s, Optional.empty(), Optional.empty(), Optional.of(why), List.of());
  }

  /** What undo calls it. */
  public String title() {
    return decision.title(outcome);
  }

  private static boolean moves(ShotState a, ShotState b) {
    Vetting v = a.vetting();
    Vetting w = b.vetting();
    return !a.level().equals(b.level())
        || !a.staging().statements().equals(b.staging().statements())
        || !a.rulings().equals(b.rulings())
        || !a.received().equals(b.received())
        || !v.culled().equals(w.culled())
        || !v.solve().equals(w.solve())
        || !v.extras().equals(w.extras());
  }
}
