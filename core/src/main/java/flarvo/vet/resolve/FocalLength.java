package flarvo.vet.resolve;

import flarvo.vet.adjust.AdjustOptions;
import java.util.OptionalDouble;

/**
 * What is known of the focal length before a solve.
 *
 * @param mm empty where it is to be found
 * @param zooms whether it is to be found for each frame by itself
 */
public record FocalLength(OptionalDouble mm, boolean zooms) {

  /** One for all frames, to be found. */
  public static final FocalLength UNKNOWN = new FocalLength(OptionalDouble.empty(), false);

  /** To be found for each frame. */
  public static final FocalLength ZOOM = new FocalLength(OptionalDouble.empty(), true);

  /**
   * @throws IllegalArgumentException where it is given and found for each frame too, or not over 0
   */
  public FocalLength {
    if (mm.isPresent() && (zooms || !(mm.getAsDouble() > 0))) {
      throw new IllegalArgumentException("a given focal length is over 0, and does not zoom");
    }
  }

  /** One for all frames, given. */
  public static FocalLength given(double mm) {
    return new FocalLength(OptionalDouble.of(mm), false);
  }

  /** Given, or one for all frames to be found. */
  public static FocalLength of(OptionalDouble mm) {
    return new FocalLength(mm, false);
  }

  /** How an adjustment may change it. */
  public AdjustOptions.Focal free() {
    if (mm.isPresent()) {
      return AdjustOptions.Focal.FIXED;
    }
    return zooms ? AdjustOptions.Focal.PER_FRAME : AdjustOptions.Focal.CONSTANT;
  }
}
