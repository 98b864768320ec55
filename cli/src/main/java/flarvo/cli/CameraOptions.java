package flarvo.cli;

import flarvo.convention.FilmBack;
import flarvo.report.InputError;
import flarvo.scene.Rate;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.resolve.FocalLength;
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
      names = "--zoom",
      description = "finds a focal length for each frame; needs undistorted tracks or plates")
  private boolean zoom;

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

  /** Where the focal length is from. */
  String focalSource() {
    return focal != null ? "given" : zoom ? "found for each frame" : "found";
  }

  /** Whether it is found for each frame. */
  boolean zooms() {
    return zoom;
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
    if (lensTerms < 0 || lensTerms > AdjustOptions.MOST_LENS_TERMS) {
      throw InputError.words("--lens-terms takes 0 to 3, not " + lensTerms, "");
    }
    if (zoom && focal != null) {
      throw InputError.words("--focal gives one focal length, and --zoom finds many", "Give one");
    }
    if (zoom && lensTerms > 0) {
      throw InputError.words(
          "--zoom needs undistorted tracks: a lens that zooms bends otherwise in each frame",
          "Undistort them first, and leave --lens-terms out");
    }
    return new TrackSolve.Options(
        filmBack.widthMm(),
        filmBack.heightMm(),
        zoom
            ? FocalLength.ZOOM
            : FocalLength.of(focal == null ? OptionalDouble.empty() : OptionalDouble.of(focal)),
        lensTerms,
        targetPx,
        fewest);
  }
}
