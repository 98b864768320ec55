package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.project.StudioDialects;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.sender.Finding;
import flarvo.sender.SenderReport;
import flarvo.sender.SenderSearch;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.function.Function;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "sender",
    description = "Finds the dialect of an unknown sender by evidence.",
    footer = {
      "",
      "Example:",
      "  flarvo sender camera.csv --evidence tracks.csv --size 1920x1080 --save layout-zup",
      "",
      "Exit code 1 where no reading fits."
    })
final class SenderCommand implements Callable<Integer> {

  private static final String UNNAMED = "sender";

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description = "file with the camera, and files with its points")
  private List<Path> in;

  @Option(
      names = "--evidence",
      paramLabel = "FILE",
      required = true,
      description =
          "2D tracks in plate frames, a solve that is known to be right, or undistorted plates as a"
              + " folder or name.####.ext; only a solve shows world axes and unit")
  private Path evidence;

  @Option(
      names = "--save",
      paramLabel = "NAME",
      description = "save what was found as a dialect of the studio")
  private String keep;

  @Option(names = "--overwrite", description = "replace a dialect of that name")
  private boolean overwrite;

  @Mixin private SourceOptions source;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    if (keep != null) {
      StudioDialects.checkName(keep);
      if (StudioDialects.isKept(keep) && !overwrite) {
        throw InputError.words(
            "a dialect " + keep + " is saved already", "Give --overwrite to replace it");
      }
    }
    IntakeOptions options = source.options(StudioDialects.known());
    EvidenceFile known =
        progress.run("reading", p -> EvidenceFile.read(evidence, source.intake(), options, p));
    SenderReport r =
        progress.run("searching", p -> search(options, known.tracks(), known.solve(), p));
    Optional<Path> kept = Optional.empty();
    if (keep != null && r.fits()) {
      kept = Optional.of(StudioDialects.keep(r.dialect()));
    }
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(r, kept)));
    } else {
      print(out, r, kept);
    }
    return r.fits() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private SenderReport search(
      IntakeOptions options, Observations tracks, Optional<Shot> solve, Progress p) {
    Function<Dialect, ReceivedSet> read =
        d -> {
          IntakeOptions under = options.withFrom(d);
          ShotIntake intake = source.intake();
          in.forEach(f -> intake.add(f, under, p));
          return intake.received(under);
        };
    return SenderSearch.of(read, options, tracks, solve, keep == null ? UNNAMED : keep, p);
  }

  private void print(PrintWriter out, SenderReport r, Optional<Path> kept) {
    out.printf(
        Locale.ROOT,
        "error %.2f px as found, %.2f px by the usual reading%n",
        r.errorPx(),
        r.plainPx());
    for (Finding f : r.findings()) {
      out.printf(
          Locale.ROOT, "  %-18s %-28s %-9s %s%n", f.part(), f.value(), f.known().word(), f.why());
    }
    r.besides().forEach(b -> out.println("no dialect mends this: " + b));
    if (!r.fits()) {
      out.println("no reading fits" + (keep == null ? "" : "; nothing was saved"));
    } else if (!r.alike().isEmpty()) {
      out.println("these differ in nothing that is known: " + String.join(", ", r.alike()));
    }
    kept.ifPresent(k -> out.println("saved as " + keep + ": " + k));
  }

  private static ObjectNode document(SenderReport r, Optional<Path> kept) {
    ObjectNode o = Json.object();
    o.put("fits", r.fits());
    o.put("errorPx", Double.isNaN(r.errorPx()) ? null : (Double) r.errorPx());
    o.put("plainErrorPx", r.plainPx());
    ArrayNode parts = o.putArray("findings");
    for (Finding f : r.findings()) {
      parts
          .addObject()
          .put("part", f.part())
          .put("value", f.value())
          .put("known", f.known().word())
          .put("why", f.why());
    }
    ArrayNode besides = o.putArray("besides");
    r.besides().forEach(besides::add);
    ArrayNode alike = o.putArray("alike");
    r.alike().forEach(alike::add);
    o.set("dialect", DialectJson.write(r.dialect()));
    kept.ifPresent(k -> o.put("saved", k.toString()));
    return o;
  }
}
