package flarvo.decision;

import flarvo.scene.Similarity;
import java.util.List;
import java.util.Optional;

/**
 * One decision in a shot's history, with what it worked out.
 *
 * @param id rises in the order of deciding; never used twice in a log
 * @param input identity of the state that it was decided on, see {@link InputIdentity}
 * @param outcome empty where nothing is worked out, or where it could not be applied
 * @param level the level after it, where it changed
 * @param problem why it was not applied; empty where it was
 * @param missed what of it was not found; the rest was applied
 */
public record DecisionEntry(
    long id,
    Decision decision,
    String input,
    Optional<Outcome> outcome,
    Optional<Similarity> level,
    Optional<String> problem,
    List<String> missed) {

  public DecisionEntry {
    missed = List.copyOf(missed);
  }

  /** What undo and redo call it. */
  public String title() {
    return decision.title(outcome);
  }

  /** Identity of the state after it. */
  String next() {
    return decision.changesTheShot() && problem.isEmpty()
        ? InputIdentity.after(input, decision)
        : input;
  }

  DecisionEntry withDecision(Decision d) {
    return new DecisionEntry(id, d, input, outcome, level, problem, missed);
  }
}
