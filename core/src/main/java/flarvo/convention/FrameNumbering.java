package flarvo.convention;

import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * How a recipient counts frames.
 *
 * @param firstFrame its number for the first plate frame; empty keeps the plate's own number
 * @param rate its rate; empty keeps the plate's
 */
public record FrameNumbering(OptionalInt firstFrame, Optional<Rate> rate, RatePolicy policy) {

  public static final FrameNumbering PLATE =
      new FrameNumbering(OptionalInt.empty(), Optional.empty(), RatePolicy.KEEP_FRAMES);

  /** The same with another first frame. */
  public FrameNumbering withFirstFrame(int first) {
    return new FrameNumbering(OptionalInt.of(first), rate, policy);
  }

  /** The same with another rate. */
  public FrameNumbering withRate(Rate r) {
    return new FrameNumbering(firstFrame, Optional.of(r), policy);
  }

  /** From plate frames at the plate's rate to this numbering. */
  public FrameMap mapFor(FrameRange plate, Rate plateRate) {
    return new FrameMap(
        plate, plateRate, firstFrame.orElse(plate.first()), rate.orElse(plateRate), policy);
  }
}
