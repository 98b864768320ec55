package flarvo.convention;

import flarvo.scene.Fraction;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;

/**
 * Plate frame to recipient frame, exactly. Keeping frames it is an integer offset; keeping seconds
 * it is the ratio of two rates:
 *
 * <pre>
 *   keep frames    r = p − plateFirst + recipientFirst
 *   keep seconds   r = (p − plateFirst) · recipientRate / plateRate + recipientFirst
 * </pre>
 */
public record FrameMap(
    FrameRange plate, Rate plateRate, int recipientFirst, Rate recipientRate, RatePolicy policy) {

  /** Position on the recipient's ruler, in its frames. */
  public Fraction toRecipient(Fraction plateFrame) {
    Fraction since = plateFrame.minus(Fraction.of(plate.first()));
    return scaled(since, plateRate, recipientRate).plus(Fraction.of(recipientFirst));
  }

  /** The recipient's frame at a plate frame; a fraction where rates differ. */
  public Fraction toRecipient(int plateFrame) {
    return toRecipient(Fraction.of(plateFrame));
  }

  /** Position on the plate's ruler, in plate frames. */
  public Fraction toPlate(Fraction recipientFrame) {
    Fraction since = recipientFrame.minus(Fraction.of(recipientFirst));
    return scaled(since, recipientRate, plateRate).plus(Fraction.of(plate.first()));
  }

  /** The plate frame at a recipient's frame; a fraction where rates differ. */
  public Fraction toPlate(int recipientFrame) {
    return toPlate(Fraction.of(recipientFrame));
  }

  /** The whole plate frame nearest to a recipient's frame; the earlier one of two. */
  public int nearestPlate(int recipientFrame) {
    Fraction at = toPlate(recipientFrame);
    return Math.toIntExact(-Math.floorDiv(at.den() - 2 * at.num(), 2 * at.den()));
  }

  /** Whole recipient frames that lie inside the plate's time. */
  public FrameRange recipientFrames() {
    return new FrameRange(recipientFirst, Math.toIntExact(toRecipient(plate.last()).floor()));
  }

  /** True when every plate frame is a whole recipient frame one step from the last. */
  public boolean isOffset() {
    return policy == RatePolicy.KEEP_FRAMES || plateRate.equals(recipientRate);
  }

  private Fraction scaled(Fraction frames, Rate from, Rate to) {
    if (isOffset()) {
      return frames;
    }
    return to.frames(frames.times(from.den(), from.num()));
  }
}
