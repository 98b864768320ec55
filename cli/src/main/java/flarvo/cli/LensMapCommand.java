package flarvo.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.Direction;
import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.LensConversion;
import flarvo.lens.fit.LensFitOptions;
import flarvo.plate.Raster;
import flarvo.plate.remap.MapBending;
import flarvo.plate.remap.MapFit;
import flarvo.plate.remap.Overscan;
import flarvo.plate.remap.OverscanRule;
import flarvo.plate.remap.PositionGrid;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "map",
    description =
        "Fits a lens to a received distortion map, and says how far the two are apart over the"
            + " whole map. Exit code 1 where that is more than --limit.",
    footer = {"", "Example:", "  flarvo lens map undistort.exr --size 1920x1080 --out lens.json"})
final class LensMapCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "MAP.exr", description = "two channels, R across and G up or down")
  private Path map;

  @Mixin private OriginalOption original;

  @Mixin private MapOptions mapKind;

  @Option(
      names = "--overscan",
      paramLabel = "WxH",
      defaultValue = "none",
      description = "size of the undistorted picture, where it is not the original's")
  private String overscan;

  @Option(
      names = "--model",
      paramLabel = "NAME",
      defaultValue = "brown-conrady",
      description = "distortion model (default ${DEFAULT-VALUE})")
  private String model;

  @Option(names = "--centre", description = "find the centre of distortion too")
  private boolean centre;

  @Option(
      names = "--focal-length",
      paramLabel = "F",
      description = "focal length over the width of the film back, for a fisheye")
  private Double focal;

  @Option(
      names = "--limit",
      paramLabel = "PX",
      defaultValue = "0.5",
      description = "largest distance with which the lens holds (default ${DEFAULT-VALUE})")
  private double limitPx;

  @Option(names = "--out", paramLabel = "LENS.json", description = "lens sheet to write")
  private Path out;

  @Mixin private OutputFiles files;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    if (out != null) {
      files.check(List.of(map), List.of(out));
    }
    Direction direction = mapKind.direction();
    boolean undistort = direction == Direction.ORIGINAL_TO_UNDISTORTED;
    boolean bottom = mapKind.fromBottom();
    PictureSize picture = original.picture();
    Overscan o = overscan(picture);
    PictureSize had = undistort ? picture : o.size();
    Raster read = MapBending.read(map);
    PositionGrid grid = PositionGrid.of(read, had.width(), had.height(), bottom);
    LensFitOptions options = options();
    MapFit fit = progress.run("fitting", p -> MapFit.of(grid, direction, o, options, p));
    LensTrack track = LensTrack.of(fit.lens());
    if (out != null) {
      AtomicFile.write(out, s -> s.write(LensSheet.text(track).getBytes(StandardCharsets.UTF_8)));
    }
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      ObjectNode n = LensSheet.document(track);
      n.put("maxPx", fit.maxPx()).put("rmsPx", fit.rmsPx()).put("cover", fit.cover());
      text.println(Json.text(n));
    } else {
      text.println(LensSheet.text(track).stripTrailing());
      text.printf(
          Locale.ROOT,
          "within %.3f px of the map everywhere (RMS %.3f), over %.0f %% of it%n",
          fit.maxPx(),
          fit.rmsPx(),
          100 * fit.cover());
    }
    return fit.maxPx() <= limitPx ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private Overscan overscan(PictureSize picture) {
    try {
      return OverscanRule.parse(overscan)
          .on(LensTrack.of(Lens.centred(LensModel.RADIAL.neutral())), picture);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --overscan WxH");
    }
  }

  private LensFitOptions options() {
    LensModel m = LensWords.model(model);
    Normalisation unit =
        m == LensModel.FISHEYE ? Normalisation.FOCAL_LENGTH : Normalisation.HALF_WIDTH;
    try {
      Lens start = new Lens(m.neutral(), unit, 0.5, 0.5, focal == null ? Double.NaN : focal);
      return LensConversion.fitting(start, centre);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --focal-length");
    }
  }
}
