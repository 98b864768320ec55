package flarvo.cli;

import flarvo.lens.Direction;
import picocli.CommandLine.Option;

/** What a distortion map does, and how it counts. */
final class MapOptions {

  @Option(
      names = "--direction",
      paramLabel = "D",
      defaultValue = "undistort",
      description = "what the map does: undistort or redistort (default ${DEFAULT-VALUE})")
  private String direction;

  @Option(
      names = "--origin",
      paramLabel = "O",
      defaultValue = "bottom",
      description = "from where G counts: bottom or top (default ${DEFAULT-VALUE})")
  private String origin;

  /** From the picture that is had to the picture that the map makes. */
  Direction direction() {
    return LensWords.either("--direction", direction, "undistort", "redistort")
        ? Direction.ORIGINAL_TO_UNDISTORTED
        : Direction.UNDISTORTED_TO_ORIGINAL;
  }

  boolean fromBottom() {
    return LensWords.either("--origin", origin, "bottom", "top");
  }
}
