package flarvo.recipe;

import java.util.List;
import java.util.OptionalDouble;

/**
 * What became of one shot.
 *
 * @param shot its name, that of its folder
 * @param state how far it came
 * @param said why it stopped; empty where it did not
 * @param decisions what became of each decision
 * @param deliveries empty where it stopped before sending
 * @param losses what was lost, changed or assumed, as sentences
 */
public record ShotResult(
    String shot,
    State state,
    String said,
    List<Made> decisions,
    List<Sent> deliveries,
    List<String> losses,
    double seconds) {

  /** From best to worst. */
  public enum State {
    HOLDS("holds"),
    DOES_NOT_HOLD("does not hold"),
    OPEN_QUESTION("open question"),
    NOT_APPLIED("decision not applied"),
    FAILED("failed");

    private final String word;

    State(String word) {
      this.word = word;
    }

    /** In reports, on the screen and in files. */
    public String word() {
      return word;
    }

    /** So many shots of it, in words. */
    public String count(long n) {
      String many =
          switch (this) {
            case HOLDS -> "hold";
            case DOES_NOT_HOLD -> "do not hold";
            case OPEN_QUESTION -> "with open questions";
            case NOT_APPLIED -> "with decisions not applied";
            case FAILED -> "failed";
          };
      return n + " " + (n == 1 ? word : many);
    }

    /** Whether the shot could be worked on at all. */
    public boolean isWorkable() {
      return this != FAILED;
    }
  }

  /** One decision; {@code why} holds what of it was left out. */
  public record Made(String title, boolean applied, List<String> why) {
    public Made {
      why = List.copyOf(why);
    }

    boolean whole() {
      return applied && why.isEmpty();
    }
  }

  /**
   * One delivery.
   *
   * @param recipient its name on the board
   * @param file relative to the output folder; empty where none was written
   * @param holds whether the file on disk was proven
   * @param fresh whether it stood there, proven, from an earlier run
   * @param said the proof in one sentence, or why there is none
   * @param driftPx largest drift; empty where there is no camera to measure with
   */
  public record Sent(
      String recipient,
      String file,
      boolean holds,
      boolean fresh,
      String said,
      OptionalDouble driftPx) {

    /** The same, as it stands there from an earlier run. */
    Sent asFresh() {
      return new Sent(recipient, file, holds, true, said, driftPx);
    }
  }

  public ShotResult {
    decisions = List.copyOf(decisions);
    deliveries = List.copyOf(deliveries);
    losses = List.copyOf(losses);
  }

  /** The same, as it stands there from an earlier run. */
  ShotResult asFresh() {
    return new ShotResult(
        shot,
        state,
        said,
        decisions,
        deliveries.stream().map(Sent::asFresh).toList(),
        losses,
        seconds);
  }

  /** Whether nothing had to be done: everything stood there, proven, from an earlier run. */
  public boolean isFresh() {
    return state == State.HOLDS && deliveries.stream().allMatch(Sent::fresh);
  }

  /** Deliveries that hold. */
  public long holding() {
    return deliveries.stream().filter(Sent::holds).count();
  }
}
