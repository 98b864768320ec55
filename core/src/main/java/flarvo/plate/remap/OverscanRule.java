package flarvo.plate.remap;

import flarvo.lens.LensTrack;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;

/** How much larger than the original an undistorted picture is wanted. */
public sealed interface OverscanRule {

  /** As large as the original. */
  record None() implements OverscanRule {}

  /** As large as it takes to hold every pixel of the original on every frame. */
  record Fit() implements OverscanRule {}

  /** A size that was typed. */
  record Typed(int width, int height) implements OverscanRule {}

  /**
   * Reads {@code none}, {@code fit} or {@code WxH}.
   *
   * @throws IllegalArgumentException when it is none of them
   */
  static OverscanRule parse(String word) {
    return switch (word) {
      case "none" -> new None();
      case "fit" -> new Fit();
      default -> {
        PictureSize s = PictureSize.parse(word);
        yield new Typed(s.width(), s.height());
      }
    };
  }

  /** As {@link #parse} reads it. */
  default String word() {
    return this instanceof Typed t
        ? t.width() + "x" + t.height()
        : this instanceof Fit ? "fit" : "none";
  }

  /**
   * What it comes to; one size for all frames of the lens.
   *
   * @throws InputError when the lens folds within the picture, so that nothing holds all of it
   */
  default Overscan on(LensTrack lens, PictureSize original) {
    try {
      return this instanceof Typed t
          ? new Overscan(original, t.width(), t.height())
          : this instanceof Fit ? Overscan.fit(lens, original) : Overscan.none(original);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Choose its size WxH, or none");
    }
  }
}
