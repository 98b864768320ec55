package flarvo.plate.remap;

import flarvo.lens.LensTrack;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** How much larger than the original an undistorted picture is wanted. */
public sealed interface OverscanRule {

  /** As large as the original. */
  record None() implements OverscanRule {}

  /** As large as it takes to hold every pixel of the original on every frame. */
  record Fit() implements OverscanRule {}

  /** A size that was typed, the original in its middle. */
  record Typed(int width, int height) implements OverscanRule {}

  /**
   * A part that was typed.
   *
   * @param x pixels of the original at the left of it; below zero where it begins left of that
   * @param y pixels of the original above it, likewise
   */
  record Part(int width, int height, int x, int y) implements OverscanRule {}

  /** Size and corner, such as 1920x1080+64-20. */
  Pattern PART = Pattern.compile("(\\d+x\\d+)([+-]\\d{1,6})([+-]\\d{1,6})");

  /**
   * Reads {@code none}, {@code fit}, {@code WxH} or {@code WxH+X+Y}.
   *
   * @throws IllegalArgumentException when it is none of them
   */
  static OverscanRule parse(String word) {
    return switch (word) {
      case "none" -> new None();
      case "fit" -> new Fit();
      default -> {
        Matcher part = PART.matcher(word);
        PictureSize s = PictureSize.parse(part.matches() ? part.group(1) : word);
        yield part.matches()
            ? new Part(
                s.width(),
                s.height(),
                Integer.parseInt(part.group(2)),
                Integer.parseInt(part.group(3)))
            : new Typed(s.width(), s.height());
      }
    };
  }

  /** As {@link #parse} reads it. */
  default String word() {
    if (this instanceof Part p) {
      return String.format(Locale.ROOT, "%dx%d%+d%+d", p.width(), p.height(), p.x(), p.y());
    }
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
      if (this instanceof Part p) {
        return new Overscan(original, p.width(), p.height(), 0 - p.x(), 0 - p.y());
      }
      return this instanceof Typed t
          ? new Overscan(original, t.width(), t.height())
          : this instanceof Fit ? Overscan.fit(lens, original) : Overscan.none(original);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Choose its size WxH, or none");
    }
  }
}
