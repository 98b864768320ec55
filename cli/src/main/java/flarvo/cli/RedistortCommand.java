package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.plate.remap.Bending;
import flarvo.plate.remap.LensBending;
import flarvo.plate.remap.MapBending;
import flarvo.plate.remap.Overscan;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
    name = "redistort",
    description = "Bends undistorted pictures, such as renders, back onto the original plate.",
    footer = {
      "",
      "Example:",
      "  flarvo redistort renders --lens lens.json --size 1920x1080 --out bent/shot.####.exr"
    })
final class RedistortCommand extends SequenceCommand {

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "size of the original; default: that of the pictures, without overscan")
  private PictureSize size;

  @Mixin private OverscanOption overscan;

  @Override
  Direction direction() {
    return Direction.UNDISTORTED_TO_ORIGINAL;
  }

  @Override
  Overscan overscan(PictureSize had, Bending through, int first) {
    PictureSize original =
        size == null ? had : new PictureSize(size.width(), size.height(), had.pixelAspect());
    if (size == null && through instanceof MapBending m && m.does() == direction()) {
      PictureSize made = m.size(first);
      original = new PictureSize(made.width(), made.height(), had.pixelAspect());
    }
    if (!overscan.given()) {
      return new Overscan(original, had.width(), had.height());
    }
    Overscan o =
        through instanceof LensBending l
            ? overscan.of(original, l.lens())
            : overscan.typed(original);
    if (o.width() != had.width() || o.height() != had.height()) {
      throw InputError.words(
          "the pictures are " + had + ", not " + o.size(),
          "Give the --overscan they were made with");
    }
    return o;
  }
}
