package flarvo.cli;

import flarvo.lens.LensTrack;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.OverscanRule;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import picocli.CommandLine.Option;

/** How much larger than the original an undistorted picture is made. */
final class OverscanOption {

  @Option(
      names = "--overscan",
      paramLabel = "O",
      defaultValue = "none",
      description =
          "of the undistorted picture: none, fit (holds every pixel of the original on every"
              + " frame), or its size WxH (default ${DEFAULT-VALUE})")
  private String overscan;

  /** One size for all frames of the lens. */
  Overscan of(PictureSize original, LensTrack lens) {
    try {
      return OverscanRule.parse(overscan).on(lens, original);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --overscan none, fit or WxH");
    }
  }
}
