package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.lens.LensSheet;
import flarvo.plate.remap.Bending;
import flarvo.plate.remap.MapBending;
import flarvo.report.InputError;
import java.nio.file.Path;
import picocli.CommandLine.Option;

/** What pictures go through: a lens, or a distortion map as it was received. */
final class BendingOption {

  @Option(
      names = "--lens",
      paramLabel = "LENS.json",
      description = "lens sheet, as docs/lens.md describes it")
  private Path sheet;

  @Option(
      names = "--map",
      paramLabel = "MAP.exr",
      description =
          "a distortion map in place of a lens, applied as it is, or inverted where it goes the"
              + " other way; name.####.exr for one of each frame")
  private Path map;

  @Option(
      names = "--direction",
      paramLabel = "D",
      description = "what the map does: undistort or redistort (default: what is asked for)")
  private String direction;

  @Option(
      names = "--origin",
      paramLabel = "O",
      defaultValue = "bottom",
      description = "from where the map's G counts: bottom or top (default ${DEFAULT-VALUE})")
  private String origin;

  /**
   * Reads the lens sheet, or says where the map is.
   *
   * @param asked from the picture that is had to the picture that is made
   * @throws InputError when neither or both are given, or the sheet makes no lens
   */
  Bending bending(Direction asked) {
    if ((sheet == null) == (map == null)) {
      throw InputError.words(
          sheet == null ? "no lens is given" : "a lens and a map are given",
          "Give --lens LENS.json or --map MAP.exr");
    }
    if (sheet != null) {
      return Bending.of(LensSheet.read(sheet).track());
    }
    boolean bottom = LensWords.either("--origin", origin, "bottom", "top");
    if (direction == null) {
      return new MapBending(map, asked, bottom);
    }
    return new MapBending(
        map,
        LensWords.either("--direction", direction, "undistort", "redistort")
            ? Direction.ORIGINAL_TO_UNDISTORTED
            : Direction.UNDISTORTED_TO_ORIGINAL,
        bottom);
  }
}
