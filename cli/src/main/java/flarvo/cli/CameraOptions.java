package flarvo.cli;

import flarvo.convention.FilmBack;
import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.vet.resolve.TrackSolve;
import java.util.OptionalDouble;
import picocli.CommandLine.Option;

/** What is known of a camera that is to be solved; shared by several commands. */
final class CameraOptions {

  @Option(
      names = "--film-back",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Back.class,
      description = "film back in millimetres")
  private FilmBack filmBack;

  @Option(
      names = "--focal",
      paramLabel = "MM",
      description = "focal length in millimetres; default: estimated")
  private Double focal;

  @Option(
      names = "--rate",
      paramLabel = "R",
      converter = Converters.Fps.class,
      description = "plate rate, such as 24000/1001; default: 24")
  private Rate rate;

  @Option(
      names = "--fewest",
      paramLabel = "N",
      defaultValue = "8",
      description = "live trackers to keep per frame (default ${DEFAULT-VALUE})")
  private int fewest;

  /** Whether the focal length was given. */
  boolean focalGiven() {
    return focal != null;
  }

  /** Whether the rate was given; else it is assumed. */
  boolean rateGiven() {
    return rate != null;
  }

  Rate rate() {
    return rate == null ? Rate.FPS_24 : rate;
  }

  /**
   * For the solver.
   *
   * @throws InputError when a number is out of range
   */
  TrackSolve.Options solve(int lensTerms, double targetPx) {
    if (focal != null && !(focal > 0 && Double.isFinite(focal))) {
      throw InputError.words("--focal takes millimetres over 0, not " + focal, "");
    }
    if (!(targetPx > 0)) {
      throw InputError.words("--target takes a number of pixels over 0, not " + targetPx, "");
    }
    if (lensTerms < 0 || lensTerms > 2) {
      throw InputError.words("--lens-terms takes 0, 1 or 2, not " + lensTerms, "");
    }
    return new TrackSolve.Options(
        filmBack.widthMm(),
        filmBack.heightMm(),
        focal == null ? OptionalDouble.empty() : OptionalDouble.of(focal),
        lensTerms,
        targetPx,
        fewest);
  }
}
