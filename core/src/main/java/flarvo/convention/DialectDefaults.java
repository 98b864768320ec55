package flarvo.convention;

import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import java.util.Set;

/**
 * What a recipient's scene is set to before anything is imported: it counts where a file is silent.
 *
 * @param picture that its cameras render
 * @param clip in the recipient's units
 * @param ignores what a plain import leaves as it is, even where the file states another
 */
public record DialectDefaults(
    Rate rate,
    FrameRange frames,
    PictureSize picture,
    LinearUnit unit,
    ClipRange clip,
    Set<SceneSetting> ignores) {

  public static final DialectDefaults COMMON =
      new DialectDefaults(
          Rate.FPS_24,
          new FrameRange(1, 100),
          PictureSize.of(1920, 1080),
          LinearUnit.CENTIMETRE,
          new ClipRange(0.1, 10000),
          Set.of());

  public DialectDefaults {
    ignores = Set.copyOf(ignores);
  }
}
