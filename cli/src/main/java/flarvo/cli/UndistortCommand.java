package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.lens.LensTrack;
import flarvo.plate.remap.Overscan;
import flarvo.scene.PictureSize;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
    name = "undistort",
    description = {
      "Makes undistorted plates. Frames that are up to date are left alone, so a run that was"
          + " stopped goes on where it was."
    },
    footer = {
      "",
      "Example:",
      "  flarvo undistort plates/original --lens lens.json --overscan fit \\",
      "       --out plates/straight/shot_straight.####.exr"
    })
final class UndistortCommand extends SequenceCommand {

  @Option(
      names = "--overscan",
      paramLabel = "O",
      defaultValue = "none",
      description =
          "none, fit (holds every pixel of the original), or the size WxH"
              + " (default ${DEFAULT-VALUE})")
  private String overscan;

  @Override
  Direction direction() {
    return Direction.ORIGINAL_TO_UNDISTORTED;
  }

  @Override
  Overscan overscan(PictureSize had, LensTrack track) {
    return switch (overscan) {
      case "none" -> Overscan.none(had);
      case "fit" -> Overscan.fit(track, had);
      default -> {
        PictureSize s = PictureSize.parse(overscan);
        yield new Overscan(had, s.width(), s.height());
      }
    };
  }
}
