package flarvo.receive;

import java.util.List;

/**
 * Claims that do not agree, or a fact that nobody states.
 *
 * @param sentence what contradicts what
 * @param proposal the ruling proposed, as it is typed; empty where only the user can say
 * @param reason why that one
 * @param evidence measured readings, best first; empty where there are no 2D tracks
 * @param ruled whether a ruling stands
 */
public record Conflict(
    Fact<?> fact,
    String sentence,
    String proposal,
    String reason,
    List<Evidence> evidence,
    boolean ruled) {

  public Conflict {
    evidence = List.copyOf(evidence);
  }
}
