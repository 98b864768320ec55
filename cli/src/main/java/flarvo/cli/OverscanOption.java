package flarvo.cli;

import flarvo.lens.Lens;
import flarvo.lens.LensModel;
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
      description =
          "of the undistorted picture: none, fit (holds every pixel of the original on every"
              + " frame), its size WxH, or WxH+X+Y to begin X, Y pixels within the original (default"
              + " none, or that of a map)")
  private String overscan;

  /** One size for all frames of the lens. */
  Overscan of(PictureSize original, LensTrack lens) {
    try {
      return rule().on(lens, original);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --overscan none, fit, WxH or WxH+X+Y");
    }
  }

  /** Whether it was given. */
  boolean given() {
    return overscan != null;
  }

  private OverscanRule rule() {
    return OverscanRule.parse(overscan == null ? "none" : overscan);
  }

  /**
   * That of a map, which makes pictures of one size only.
   *
   * @throws InputError when another is asked for
   */
  Overscan ofMap(PictureSize original, PictureSize made) {
    Overscan o = new Overscan(original, made.width(), made.height());
    if (overscan != null && ("fit".equals(overscan) || !typed(original).equals(o))) {
      throw InputError.words(
          "the map makes pictures of " + made.width() + "x" + made.height(),
          "Leave --overscan out");
    }
    return o;
  }

  /** None or a size; nothing can be fitted without a lens. */
  Overscan typed(PictureSize original) {
    if ("fit".equals(overscan)) {
      throw InputError.words(
          "without a lens no overscan can be fitted",
          "Give --overscan WxH, or a lens made of the map by 'flarvo lens map'");
    }
    return of(original, LensTrack.of(Lens.centred(LensModel.RADIAL.neutral())));
  }
}
