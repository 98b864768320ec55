package flarvo.cli;

import flarvo.vet.adjust.AdjustOptions;
import picocli.CommandLine.Option;

/** What may move when a solve is refined; shared by several commands. */
final class RefineOptions {

  /** The focal length, as the command line spells it. */
  enum Focal {
    FIXED,
    CONSTANT,
    PER_FRAME
  }

  @Option(
      names = "--free-focal",
      paramLabel = "HOW",
      description = "the focal length is fixed, constant (one factor) or per_frame")
  private Focal focal = Focal.FIXED;

  @Option(names = "--free-centre", description = "the principal point moves too")
  private boolean centre;

  @Option(
      names = "--lens-terms",
      paramLabel = "N",
      description = "0 to 3 radial terms of what is left of the lens")
  private int lensTerms;

  AdjustOptions options() {
    if (lensTerms < 0 || lensTerms > AdjustOptions.MOST_LENS_TERMS) {
      throw flarvo.report.InputError.words("--lens-terms takes 0 to 3, not " + lensTerms, "");
    }
    return AdjustOptions.USUAL
        .withFocal(AdjustOptions.Focal.valueOf(focal.name()))
        .withPrincipalPoint(centre)
        .withLensTerms(lensTerms);
  }
}
