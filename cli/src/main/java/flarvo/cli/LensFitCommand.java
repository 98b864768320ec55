package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.LensModel;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.lens.Normalisation;
import flarvo.lens.fit.LensEstimate;
import flarvo.lens.fit.LensFit;
import flarvo.lens.fit.LensFitOptions;
import flarvo.lens.fit.LinesTable;
import flarvo.lens.fit.StraightLine;
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
    name = "fit",
    description = "Finds the lens that makes lines straight.",
    footer = {
      "",
      "Example:",
      "  flarvo lens fit lines.csv --size 1920x1080 --model brown-conrady --out lens.json"
    })
final class LensFitCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(
      paramLabel = "LINES.csv",
      description = "points of lines that are straight in the world: line,frame,x,y")
  private Path lines;

  @Mixin private OriginalOption original;

  @Option(
      names = "--model",
      paramLabel = "NAME",
      defaultValue = "radial-original-to-undistorted",
      description = "distortion model (default ${DEFAULT-VALUE})")
  private String model;

  @Option(
      names = "--terms",
      split = ",",
      paramLabel = "K",
      description = "coefficients to find; default: the model's usual ones")
  private List<String> terms;

  @Option(names = "--centre", description = "find the centre of distortion too")
  private boolean centre;

  @Option(
      names = "--normalisation",
      paramLabel = "U",
      description =
          "half-width, half-height, half-diagonal or focal-length; default: half-width, and"
              + " focal-length for a fisheye")
  private String normalisation;

  @Option(
      names = "--focal-length",
      paramLabel = "F",
      description = "focal length over the width of the film back, for focal-length")
  private Double focal;

  @Option(names = "--out", paramLabel = "LENS.json", description = "lens sheet to write")
  private Path out;

  @Mixin private OutputFiles files;

  @Option(
      names = "--keep-all",
      description =
          "use every line; else lines that are not straight under the lens of the others are left"
              + " out, and named")
  private boolean keepAll;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    if (out != null) {
      files.check(List.of(lines), List.of(out));
    }
    PictureSize picture = original.picture();
    List<StraightLine> read = LinesTable.read(lines);
    LensFitOptions options = options();
    LensEstimate e =
        progress.run(
            "fitting",
            p ->
                keepAll
                    ? LensFit.of(read, picture, options, p)
                    : LensFit.withoutStrays(read, picture, options, p));
    LensTrack track = LensTrack.of(e.lens());
    if (out != null) {
      AtomicFile.write(out, s -> s.write(LensSheet.text(track).getBytes(StandardCharsets.UTF_8)));
    }
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(track, e)));
    } else {
      say(text, e);
    }
    return ExitCode.HOLDS;
  }

  private LensFitOptions options() {
    LensModel m = LensWords.model(model);
    String unit =
        normalisation != null
            ? normalisation
            : (m == LensModel.FISHEYE ? Normalisation.FOCAL_LENGTH : Normalisation.HALF_WIDTH)
                .code();
    Normalisation n = LensWords.normalisation(unit);
    try {
      LensFitOptions usual = LensFitOptions.usual(m, n, focal == null ? Double.NaN : focal);
      return new LensFitOptions(usual.start(), terms == null ? usual.terms() : terms, centre);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "");
    }
  }

  private void say(PrintWriter text, LensEstimate e) {
    text.printf(Locale.ROOT, "model     %s%n", e.lens().distortion().model().code());
    for (LensEstimate.Term t : e.terms()) {
      text.println(
          String.format(Locale.ROOT, "%-9s %.6f", t.name(), t.value())
              + (Double.isInfinite(t.sigma())
                  ? "  not determined by these lines"
                  : String.format(Locale.ROOT, " ± %.6f", t.sigma())));
    }
    text.printf(
        Locale.ROOT,
        "residual  %.3f px RMS, %.3f max (before %.3f)%n",
        e.residualPx(),
        e.maxPx(),
        e.beforePx());
    text.printf(Locale.ROOT, "evidence  %.0f %% of the picture%n", 100 * e.cover());
    text.println(
        Double.isInfinite(e.worstPx())
            ? "picture   not determined everywhere"
            : String.format(
                Locale.ROOT, "picture   within %.2f px everywhere, at 95 %%", e.worstPx()));
    if (e.tooShort() > 0) {
      text.println("left out  " + e.tooShort() + " lines of fewer than three points");
    }
    for (LensEstimate.LineError l : e.strays()) {
      text.printf(
          Locale.ROOT,
          "left out  %s on frame %d, %.2f px off: not straight%n",
          l.name(),
          l.frame(),
          l.rmsPx());
    }
    for (List<String> group : e.untold()) {
      text.println("not told apart: " + String.join(", ", group));
    }
    if (out != null) {
      text.println(out);
      files.sayFolders(text);
    }
  }

  private static ObjectNode document(LensTrack track, LensEstimate e) {
    ObjectNode n = LensSheet.document(track);
    n.put("residualPx", e.residualPx());
    n.put("maxPx", e.maxPx());
    n.put("beforePx", e.beforePx());
    n.put("cover", e.cover());
    if (Double.isInfinite(e.worstPx())) {
      n.putNull("uncertaintyPx");
    } else {
      n.put("uncertaintyPx", e.worstPx());
    }
    ObjectNode sigma = n.putObject("deviations");
    for (LensEstimate.Term t : e.terms()) {
      if (Double.isInfinite(t.sigma())) {
        sigma.putNull(t.name());
      } else {
        sigma.put(t.name(), t.sigma());
      }
    }
    ArrayNode untold = n.putArray("notToldApart");
    e.untold().forEach(g -> g.forEach(untold.addArray()::add));
    ArrayNode lines = n.putArray("lines");
    for (LensEstimate.LineError l : e.lines()) {
      lines.addObject().put("line", l.name()).put("frame", l.frame()).put("rmsPx", l.rmsPx());
    }
    ArrayNode strays = n.putArray("leftOut");
    for (LensEstimate.LineError l : e.strays()) {
      strays.addObject().put("line", l.name()).put("frame", l.frame()).put("rmsPx", l.rmsPx());
    }
    return n;
  }
}
