package flarvo.receive;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import java.util.Optional;

/**
 * Files of somebody who may count frames from another number, on the frames of evidence.
 *
 * @param said where its frames were moved for that, a sentence without an end
 */
public record LaidShot(Shot shot, Optional<String> said) {

  /**
   * The shot of a set; where it has other frames than the evidence altogether, its first frame is
   * laid on the first of the evidence.
   *
   * @param tracks in plate frames; not empty
   * @throws flarvo.report.InputError when the set makes no shot
   */
  public static LaidShot of(
      ReceivedSet set, String name, IntakeOptions options, Observations tracks) {
    Shot shot = set.shot(name, options);
    FrameRange seen = tracks.range().orElseThrow();
    if (shot.frames().last() >= seen.first() && shot.frames().first() <= seen.last()) {
      return new LaidShot(shot, Optional.empty());
    }
    String said =
        "the file has frames " + shot.frames() + ", the evidence " + seen + ": first laid on first";
    return new LaidShot(set.shot(name, options.withPlateFirst(seen.first())), Optional.of(said));
  }
}
