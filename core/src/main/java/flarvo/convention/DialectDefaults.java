package flarvo.convention;

import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;

/**
 * What a recipient falls back on when a file is silent.
 *
 * @param clip in the recipient's units
 */
public record DialectDefaults(Rate rate, FrameRange frames, LinearUnit unit, ClipRange clip) {

  public static final DialectDefaults COMMON =
      new DialectDefaults(
          Rate.FPS_24, new FrameRange(1, 100), LinearUnit.CENTIMETRE, new ClipRange(0.1, 10000));
}
