package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.plate.remap.Bending;
import flarvo.plate.remap.LensBending;
import flarvo.plate.remap.MapBending;
import flarvo.plate.remap.Overscan;
import flarvo.scene.PictureSize;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

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

  @Mixin private OverscanOption overscan;

  @Override
  Direction direction() {
    return Direction.ORIGINAL_TO_UNDISTORTED;
  }

  @Override
  Overscan overscan(PictureSize had, Bending through, int first) {
    if (through instanceof LensBending l) {
      return overscan.of(had, l.lens());
    }
    MapBending map = (MapBending) through;
    if (map.does() == direction()) {
      PictureSize made = map.size(first);
      return overscan.ofMap(had, made);
    }
    return overscan.typed(had);
  }
}
