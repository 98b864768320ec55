package flarvo.cli;

import flarvo.project.StudioDialects;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "pixels",
    description = "Projects every tracker on every frame of a file.",
    footer = {"", "Example:", "  flarvo pixels solve.usda --size 1920x1080 --out pixels.csv"})
final class PixelsCommand implements Callable<Integer> {

  @Parameters(paramLabel = "FILE", description = "scene file")
  private Path file;

  @Option(
      names = "--size",
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "image resolution")
  private PictureSize size;

  @Option(
      names = "--pixel-aspect",
      paramLabel = "A",
      description = "width of a pixel over its height; default: as the files state")
  private Double pixelAspect;

  @Option(
      names = "--frames",
      paramLabel = "A-B",
      converter = Converters.Frames.class,
      description = "frame range in the file's own numbers")
  private FrameRange frames;

  @Option(names = "--dialect", paramLabel = "D", description = "dialect to read the file in")
  private String dialect;

  @Option(names = "--camera", paramLabel = "NAME", description = "camera; default: the first")
  private String camera;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "CSV",
      description = "output table: frame,tracker,x,y,depth; - for standard output")
  private Path out;

  @Mixin private OutputFiles files;

  @Mixin private TableOptions tables;

  @Mixin private OutsideOption outside;

  @Spec private CommandSpec spec;

  @Override
  public Integer call() {
    files.check(List.of(file), List.of(out));
    IntakeOptions options = IntakeOptions.NONE.withReach(outside.reach());
    if (dialect != null) {
      options = options.withFrom(StudioDialects.known().get(dialect));
    }
    if (size != null) {
      options = options.withSize(size);
    }
    if (pixelAspect != null) {
      options = options.withPixelAspect(Converters.aspect(pixelAspect));
    }
    if (camera != null) {
      options = options.withCamera(camera);
    }
    Shot shot =
        new ShotIntake(tables.advice())
            .add(file, options, Progress.NONE)
            .shot(file.toString(), options);
    ShotCamera c = shot.camera().orElseThrow();
    FrameRange range = frames == null ? c.frames() : frames;
    if (!c.frames().contains(range.first()) || !c.frames().contains(range.last())) {
      throw new InputError(
          file.toString(),
          "",
          "the camera runs " + c.frames() + ", not " + range,
          "Ask for frames inside");
    }
    PrintWriter text = spec.commandLine().getErr();
    if (OutputFiles.isStandard(out)) {
      try {
        write(shot, c, range, new OutputStreamWriter(System.out, StandardCharsets.UTF_8));
      } catch (IOException e) {
        throw new UncheckedIOException(e); // a print stream keeps its errors to itself
      }
    } else {
      AtomicFile.write(
          out,
          stream -> write(shot, c, range, new OutputStreamWriter(stream, StandardCharsets.UTF_8)));
      files.sayFolders(text);
    }
    if (shot.cameras().size() > 1) {
      text.println("camera: " + c.name() + ", the first of " + shot.cameras().size());
    }
    return ExitCode.HOLDS;
  }

  private static void write(Shot shot, ShotCamera c, FrameRange range, Writer stream)
      throws IOException {
    CSVPrinter csv =
        new CSVPrinter(
            new BufferedWriter(stream), CSVFormat.RFC4180.builder().setRecordSeparator('\n').get());
    csv.printRecord("frame", "tracker", "x", "y", "depth");
    Pinhole p = new Pinhole(c, shot.picture());
    double[] px = new double[3];
    for (int f = range.first(); f <= range.last(); f++) {
      p.at(f);
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          p.project(t, i, px);
          boolean seen = px[2] > 0; // behind the camera there is a depth but no pixel
          csv.printRecord(
              f, t.names().get(i), seen ? (Object) px[0] : "", seen ? (Object) px[1] : "", px[2]);
        }
      }
    }
    csv.flush();
  }
}
