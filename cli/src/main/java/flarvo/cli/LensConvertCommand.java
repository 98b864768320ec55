package flarvo.cli;

import flarvo.lens.Distortion;
import flarvo.lens.Lens;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.LensConversion;
import flarvo.report.InputError;
import flarvo.scene.PictureSize;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.NavigableMap;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "convert",
    description = "Writes a lens in another unit, exactly, or in another model, fitted.",
    footer = {
      "",
      "Example:",
      "  flarvo lens convert lens.json --size 1920x1080 --model brown-conrady --out brown.json"
    })
final class LensConvertCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "LENS.json", description = "lens sheet")
  private Path sheet;

  @Mixin private OriginalOption original;

  @Option(names = "--model", paramLabel = "NAME", description = "model to convert to")
  private String model;

  @Option(names = "--normalisation", paramLabel = "U", description = "unit to count in")
  private String normalisation;

  @Option(
      names = "--focal-length",
      paramLabel = "F",
      description = "focal length over the width of the film back, where the sheet has none")
  private Double focal;

  @Option(names = "--out", required = true, paramLabel = "LENS.json", description = "output sheet")
  private Path out;

  @Mixin private OutputFiles files;

  @Mixin private ProgressOption progress;

  private double worst;

  @Override
  public Integer call() {
    files.check(List.of(sheet), List.of(out));
    PictureSize picture = original.picture();
    LensTrack track = LensSheet.read(sheet).track();
    LensTrack made;
    try {
      Lens base = converted(track.base(), picture);
      NavigableMap<Integer, Distortion> keys = new TreeMap<>();
      for (int f : track.keys().keySet()) {
        keys.put(f, converted(track.at(f), picture).distortion());
      }
      made = new LensTrack(base, keys);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "Give --focal-length");
    }
    AtomicFile.write(out, s -> s.write(LensSheet.text(made).getBytes(StandardCharsets.UTF_8)));
    PrintWriter text = spec.commandLine().getOut();
    text.println(out);
    text.println(
        worst == 0
            ? "  exact"
            : String.format(
                Locale.ROOT, "  fitted: at most %.4f px off in the original picture", worst));
    files.sayFolders(text);
    return ExitCode.HOLDS;
  }

  private Lens converted(Lens lens, PictureSize picture) {
    Lens l = lens;
    if (focal != null) {
      l = new Lens(l.distortion(), l.normalisation(), l.centreX(), l.centreY(), focal);
    }
    if (model != null) {
      LensModel m = LensWords.model(model);
      Lens from = l;
      LensConversion.Converted c =
          progress.run("fitting", p -> LensConversion.as(from, m, picture, p));
      worst = Math.max(worst, c.maxPx());
      l = c.lens();
    }
    if (normalisation != null) {
      Normalisation n = LensWords.normalisation(normalisation);
      l = LensConversion.counted(l, n, Double.NaN, picture);
    }
    return l;
  }
}
