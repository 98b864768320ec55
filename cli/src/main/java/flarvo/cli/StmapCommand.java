package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.plate.RasterWriter;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "stmap",
    description = {
      "Writes a distortion map: float OpenEXR, for each pixel the point of the other picture that it"
          + " is made from, as shares of its width (R) and height (G), 0 to 1 from edge to edge.",
      "-1 where there is none."
    },
    footer = {
      "",
      "Example:",
      "  flarvo stmap --lens lens.json --size 1920x1080 --out undistort.exr"
    })
final class StmapCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private LensOption lens;

  @Mixin private OriginalOption original;

  @Mixin private MapOptions map;

  @Mixin private OverscanOption overscan;

  @Option(
      names = "--frame",
      paramLabel = "N",
      description = "frame of a lens that changes; default: the sheet's own coefficients")
  private Integer frame;

  @Option(names = "--out", required = true, paramLabel = "EXR", description = "output map")
  private Path out;

  @Mixin private OutputFiles files;

  @Override
  public Integer call() {
    if (!out.toString().toLowerCase(java.util.Locale.ROOT).endsWith(".exr")) {
      throw new InputError(out.toString(), "", "a map is an OpenEXR file", "Name it .exr");
    }
    files.check(List.of(lens.file()), List.of(out));
    Direction direction = map.direction();
    boolean undistort = direction == Direction.ORIGINAL_TO_UNDISTORTED;
    boolean bottom = map.fromBottom();
    PictureSize picture = original.picture();
    LensTrack track = lens.track();
    LensMapper mapper = (frame == null ? track.base() : track.at(frame)).on(picture);
    Overscan o = overscan.of(picture, track);
    PositionGrid grid = PositionGrid.of(mapper, direction, o);
    PictureSize had = undistort ? picture : o.size();
    RasterWriter.write(grid.map(had.width(), had.height(), bottom), out);
    var text = spec.commandLine().getOut();
    text.println(
        out
            + ": "
            + grid.width()
            + "x"
            + grid.height()
            + ", "
            + (undistort ? "undistorts" : "redistorts")
            + " pictures of "
            + had
            + ", G from the "
            + (bottom ? "bottom" : "top"));
    files.sayFolders(text);
    return ExitCode.HOLDS;
  }
}
