package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Outgoing;
import flarvo.dispatch.SidecarNames;
import flarvo.note.ProofPage;
import flarvo.project.StudioDialects;
import flarvo.proof.Check;
import flarvo.proof.Proof;
import flarvo.proof.ProofJson;
import flarvo.proof.ProofReport;
import flarvo.proof.SourceChecks;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.PrintWriter;
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
    name = "prove",
    description = "Measures a delivered file against its source.",
    footer = {"", "Example:", "  flarvo prove solve.usda engine.fbx --to engine-zup-left-cm"})
final class ProveCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(index = "0", paramLabel = "SOURCE", description = "source file")
  private Path sourceFile;

  @Parameters(index = "1", paramLabel = "DELIVERED", description = "delivered file")
  private Path delivered;

  @Mixin private SourceOptions source;

  @Mixin private RecipientOptions recipient;

  @Mixin private LevelOption level;

  @Mixin private OnlyOption only;

  @Mixin private ExtractOptions extract;

  @Mixin private ObjectOptions object;

  @Option(names = "--limit", paramLabel = "PX", description = "largest drift that still holds")
  private double limitPx = ProofReport.USUAL_LIMIT_PX;

  @Option(
      names = "--report",
      paramLabel = "PAGE.html",
      description = "write the report as a page, and as JSON beside it")
  private Path page;

  @Mixin private OutputFiles files;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    if (!(limitPx > 0) || Double.isInfinite(limitPx)) {
      throw InputError.words(
          "a limit of " + limitPx + " px is none", "Give one over zero, such as 0.01");
    }
    if (page != null) {
      files.check(List.of(sourceFile, delivered), List.of(page, ProofPage.beside(page)));
    }
    Dialects dialects = StudioDialects.known();
    Dialect to = recipient.dialect(dialects);
    IntakeOptions options = source.options(dialects);
    ReceivedSet came = source.intake().add(sourceFile, options, Progress.NONE).received(options);
    Shot whole =
        object.applied(
            level.applied(came.shotOrPoints(sourceFile.getFileName().toString(), options)),
            source.intake(),
            options);
    Contents contents = only.contents(whole);
    Shot shot = Outgoing.of(whole).shot(contents);
    ProofReport report =
        progress
            .run(
                "proving",
                p -> Proof.of(shot, delivered, to, contents, extract.extract(shot), limitPx, p))
            .with(SourceChecks.of(came, shot), notCompared());
    if (page != null) {
      ProofPage.of(delivered.getFileName().toString(), sourceFile.getFileName().toString(), report)
          .write(page);
    }
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(ProofJson.of(report)));
    } else {
      print(report, out);
      shot.cameras().forEach(c -> out.println("  camera: " + c.name()));
      if (page != null) {
        out.println("wrote " + page);
        files.sayFolders(out);
      }
    }
    return report.holds() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  /** The source says nothing of them. */
  private List<Note> notCompared() {
    return SidecarNames.beside(delivered).stream()
        .map(
            n ->
                Note.ignored(
                    n,
                    "lies beside the file and is not compared here; the board's proof compares it"))
        .toList();
  }

  private static void print(ProofReport r, PrintWriter out) {
    out.println(r.sentence());
    r.drift()
        .filter(d -> d.compared() > 0)
        .ifPresentOrElse(
            d ->
                out.printf(
                    Locale.ROOT,
                    "  drift: max %.6f px, rms %.6f px, worst at frame %d, tracker %s; %d compared%n",
                    d.maxPx(),
                    d.rmsPx(),
                    d.worstFrame(),
                    d.worstTracker(),
                    d.compared()),
            () -> out.println("  drift: not measured, for no camera sees a point"));
    for (Check c : r.checks()) {
      out.printf(
          "  %s %-14s %s%s%n",
          c.holds() ? "PASS" : "FAIL",
          c.name(),
          c.found(),
          c.holds() ? "" : "  (expected " + c.expected() + ")");
    }
    r.losses().forEach(n -> out.println("  " + n.kind().word() + ": " + n));
  }
}
