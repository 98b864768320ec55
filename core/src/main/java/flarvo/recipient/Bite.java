package flarvo.recipient;

import flarvo.convention.Dialect;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;

/**
 * One thing that would be otherwise in the recipient's scene than the sender meant it.
 *
 * @param harms whether the picture, the scale or the orientation is wrong by it; else it only has
 *     to be set, such as a frame range that is too short
 * @param says what happens, as a sentence
 * @param driftPx largest drift of this setting alone, in pixels of the plate; empty where it moves
 *     nothing in the picture, or there is no camera
 * @param ask what the recipient can set instead, as an instruction
 * @param change a dialect to deliver in that avoids it, if there is one
 */
public record Bite(
    Setting setting,
    boolean harms,
    String says,
    OptionalDouble driftPx,
    String ask,
    Optional<Change> change) {

  public Bite {
    Objects.requireNonNull(setting);
    Objects.requireNonNull(says);
    Objects.requireNonNull(ask);
    Objects.requireNonNull(change);
  }

  /**
   * A change of the delivery.
   *
   * @param says as the label of a button
   */
  public record Change(String says, Dialect dialect) {}
}
