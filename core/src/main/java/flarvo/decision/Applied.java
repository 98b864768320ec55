package flarvo.decision;

import java.util.List;

/**
 * A state after a decision.
 *
 * @param missed what the decision names and the shot does not have, a sentence each; the rest of it
 *     was applied
 */
public record Applied(ShotState state, List<String> missed) {

  public Applied {
    missed = List.copyOf(missed);
  }

  /** All of it was applied. */
  public static Applied whole(ShotState state) {
    return new Applied(state, List.of());
  }

  /** All of it was applied but for trackers that the shot does not have. */
  static Applied without(ShotState state, List<String> missingTrackers) {
    return new Applied(state, missingTrackers.stream().map(Applied::notFound).toList());
  }

  static String notFound(String tracker) {
    return "tracker " + tracker + " not found";
  }
}
