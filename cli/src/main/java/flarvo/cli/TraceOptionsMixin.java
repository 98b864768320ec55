package flarvo.cli;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.plate.PlateLuma;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.PlateSequence;
import flarvo.trace.Mask;
import flarvo.trace.MaskJson;
import flarvo.trace.MaskShape;
import flarvo.trace.Matte;
import flarvo.trace.TraceOptions;
import java.nio.file.Path;
import java.util.Optional;
import java.util.function.IntFunction;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Plates that are followed, and how. */
final class TraceOptionsMixin {

  @Parameters(
      paramLabel = "PLATES",
      description = "folder of a sequence, one of its files, or name.####.ext")
  private Path plates;

  @Option(
      names = "--frames",
      paramLabel = "A-B",
      converter = Converters.Frames.class,
      description = "frames to follow; default: all of the sequence")
  private FrameRange frames;

  @Option(
      names = "--features",
      paramLabel = "N",
      defaultValue = "" + TraceOptions.USUAL_FEATURES,
      description = "features wanted in each frame (default ${DEFAULT-VALUE})")
  private int features;

  @Option(
      names = "--pattern",
      paramLabel = "PX",
      defaultValue = "" + TraceOptions.USUAL_RADIUS,
      description = "pixels of a pattern to each side of its centre (default ${DEFAULT-VALUE})")
  private int pattern;

  @Option(
      names = "--error",
      paramLabel = "PX",
      defaultValue = "" + TraceOptions.USUAL_ERROR_PX,
      description = "largest standard error of a feature's place (default ${DEFAULT-VALUE})")
  private double error;

  @Option(
      names = "--mask",
      paramLabel = "JSON",
      description = "drawn shapes; nothing is followed inside. See docs/trace.md")
  private Path mask;

  @Option(
      names = "--matte",
      paramLabel = "PLATES",
      description = "pictures of the same frames; nothing is followed where they are white")
  private Path matte;

  @Option(
      names = "--matte-alpha",
      description = "of the matte's pictures, their alpha: nothing is followed where it covers")
  private boolean alpha;

  @Option(names = "--inside", description = "follow only what the masks cover")
  private boolean inside;

  /** The sequence. */
  PlateSequence sequence() {
    return SequenceCommand.sequence(plates);
  }

  /**
   * The frames of it that are followed.
   *
   * @throws InputError where the sequence does not have them
   */
  FrameRange frames(PlateSequence s) {
    if (frames == null) {
      return s.frames();
    }
    if (!s.frames().contains(frames.first()) || !s.frames().contains(frames.last())) {
      throw InputError.words("--frames " + frames + " is not within the plates, " + s.frames(), "");
    }
    return frames;
  }

  TraceOptions options() {
    try {
      return new TraceOptions(features, pattern, error);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "");
    }
  }

  /**
   * Where nothing is followed.
   *
   * @throws InputError when a mask cannot be read, or {@code --inside} has none
   */
  Mask mask(PlateSequence s) {
    Mask m = Mask.NONE;
    if (mask != null) {
      m = MaskShape.all(MaskJson.parse(mask.toString(), TextSource.read(mask, ReadLimits.USUAL)));
    }
    if (matte != null) {
      m = m.or(new Matte(cover(SequenceCommand.sequence(matte)), s.picture()));
    }
    if (alpha && matte == null) {
      throw InputError.words("--matte-alpha without a matte", "Give --matte");
    }
    if (inside && mask == null && matte == null) {
      throw InputError.words("--inside without a mask", "Give --mask or --matte");
    }
    return inside ? m.inverted() : m;
  }

  /** What a matte covers, by frame. */
  private IntFunction<Optional<Luma>> cover(PlateSequence s) {
    if (alpha && PlateLuma.alpha(s, s.frames().first()).isEmpty()) {
      throw new InputError(
          s.file(s.frames().first()).toString(),
          "",
          "the matte has no alpha",
          "Leave out --matte-alpha where white is what it covers");
    }
    return f -> alpha ? PlateLuma.alpha(s, f) : PlateLuma.of(s, f);
  }

  /**
   * Brightness by frame.
   *
   * @throws InputError when the plates cannot be read at all, with the cause
   */
  static IntFunction<Optional<Luma>> brightness(PlateSequence s) {
    PlateLuma.requireReadable(s);
    return f -> PlateLuma.of(s, f);
  }
}
