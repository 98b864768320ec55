package flarvo.cli;

import flarvo.lens.Direction;
import flarvo.lens.LensMapper;
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

  @Option(
      names = "--size",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "size of the original")
  private PictureSize size;

  @Option(
      names = "--pixel-aspect",
      paramLabel = "A",
      defaultValue = "1",
      description = "width of a pixel over its height (default ${DEFAULT-VALUE})")
  private double pixelAspect;

  @Option(
      names = "--direction",
      paramLabel = "D",
      defaultValue = "undistort",
      description = "undistort or redistort (default ${DEFAULT-VALUE})")
  private String direction;

  @Option(
      names = "--origin",
      paramLabel = "O",
      defaultValue = "bottom",
      description = "from where G counts: bottom or top (default ${DEFAULT-VALUE})")
  private String origin;

  @Option(
      names = "--overscan",
      paramLabel = "O",
      defaultValue = "none",
      description = "of the undistorted picture: none, fit or WxH (default ${DEFAULT-VALUE})")
  private String overscan;

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
    boolean undistort = either("--direction", direction, "undistort", "redistort");
    boolean bottom = either("--origin", origin, "bottom", "top");
    PictureSize picture =
        new PictureSize(size.width(), size.height(), Converters.aspect(pixelAspect));
    LensMapper mapper = (frame == null ? lens.track().base() : lens.track().at(frame)).on(picture);
    Overscan o = overscan(picture, mapper);
    PositionGrid grid =
        PositionGrid.of(
            mapper,
            undistort ? Direction.ORIGINAL_TO_UNDISTORTED : Direction.UNDISTORTED_TO_ORIGINAL,
            o);
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

  private Overscan overscan(PictureSize picture, LensMapper mapper) {
    try {
      return switch (overscan) {
        case "none" -> Overscan.none(picture);
        case "fit" -> Overscan.fit(mapper);
        default -> {
          PictureSize s = PictureSize.parse(overscan);
          yield new Overscan(picture, s.width(), s.height());
        }
      };
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --overscan WxH, or none");
    }
  }

  private static boolean either(String option, String typed, String yes, String no) {
    if (!typed.equals(yes) && !typed.equals(no)) {
      throw InputError.words(option + " takes " + yes + " or " + no + ", not '" + typed + "'", "");
    }
    return typed.equals(yes);
  }
}
