package flarvo.convention;

import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.Set;

/**
 * What a recipient's scene is set to before anything is imported: it counts where a file is silent.
 *
 * @param clip in the recipient's units
 * @param ignores what a plain import leaves as it is, even where the file states another
 */
public record DialectDefaults(
    Rate rate, FrameRange frames, LinearUnit unit, ClipRange clip, Set<SceneSetting> ignores) {

  public static final DialectDefaults COMMON =
      new DialectDefaults(
          Rate.FPS_24,
          new FrameRange(1, 100),
          LinearUnit.CENTIMETRE,
          new ClipRange(0.1, 10000),
          Set.of());

  public DialectDefaults {
    ignores = Set.copyOf(ignores);
  }
}
