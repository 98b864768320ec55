package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.note.ProofPage;
import flarvo.project.StudioDialects;
import flarvo.proof.ReturnedFile;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.suspect.Implausible;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "suspects",
    description = "Finds which mix-up explains the error of a camera and its points.",
    footer = {
      "",
      "Example:",
      "  flarvo suspects returned.fbx --evidence tracks.csv --size 1920x1080 --mend mended.fbx",
      "",
      "Exit code 1 where a cause was found."
    })
final class SuspectsCommand implements Callable<Integer> {

  /** An error of tracking, not of a mix-up. */
  private static final double FINE_PX = 1;

  private static final int SHOWN = 4;

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description = "file with the camera, and files with its points")
  private List<Path> in;

  @Option(
      names = "--evidence",
      paramLabel = "FILE",
      description =
          "2D tracks in plate frames, a solve that is known to be right, or undistorted plates as a"
              + " folder or name.####.ext, in which features are followed; without it only what is"
              + " implausible is said")
  private Path evidence;

  @Option(
      names = "--mend",
      paramLabel = "OUT",
      description = "write the file with the first cause undone, and measure it from disk")
  private Path mend;

  @Option(
      names = "--report",
      paramLabel = "PAGE.html",
      description = "write what was found as a page for the sender, and as JSON beside it")
  private Path page;

  @Mixin private SourceOptions source;

  @Mixin private OutputFiles files;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    Dialects dialects = StudioDialects.known();
    IntakeOptions options = source.options(dialects);
    if (mend != null || page != null) {
      if (evidence == null) {
        throw InputError.words(
            (mend != null ? "--mend" : "--report") + " needs --evidence",
            "Give the tracks of the shot");
      }
      List<Path> inputs = new ArrayList<>(in);
      inputs.add(evidence);
      List<Path> outputs = new ArrayList<>();
      Optional.ofNullable(mend).ifPresent(outputs::add);
      Optional.ofNullable(page).ifPresent(p -> outputs.addAll(List.of(p, ProofPage.beside(p))));
      files.check(inputs, outputs);
    }
    if (evidence == null) {
      return implausible(options);
    }
    Observations tracks =
        progress.run(
            "reading", p -> EvidenceFile.read(evidence, source.intake(), options, p).tracks());
    ReturnedFile file =
        progress.run(
            "searching",
            p -> ReturnedFile.of(in, source::intake, options, tracks, Optional.empty(), p));
    SuspectReport r = file.report();
    Optional<SuspectReport> after =
        mend == null
            ? Optional.empty()
            : Optional.of(progress.run("mending", p -> file.mend(mend, tracks, p)));
    if (page != null) {
      report(r, file).write(page);
    }
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(r, file, after)));
    } else {
      print(out, r, file, after);
    }
    return r.cause().isPresent() ? ExitCode.DOES_NOT_HOLD : ExitCode.HOLDS;
  }

  private static List<Suspect> shown(SuspectReport r) {
    return r.suspects().stream()
        .filter(s -> r.cause().isEmpty() || s.confident())
        .limit(SHOWN)
        .toList();
  }

  /** What its sender is given. */
  private ProofPage report(SuspectReport r, ReturnedFile file) {
    List<String> said = new ArrayList<>();
    said.add(
        String.format(Locale.ROOT, "%.2f px on %d observations.", r.errorPx(), r.observations()));
    file.laid().ifPresent(t -> said.add(t + "."));
    if (r.cause().isPresent()) {
      shown(r).forEach(s -> said.add(s.sentence() + "."));
    } else {
      said.add(
          r.errorPx() <= FINE_PX
              ? "Nothing is wrong that this evidence shows."
              : "No cause was found that explains it.");
    }
    String names =
        in.stream().map(f -> f.getFileName().toString()).collect(Collectors.joining(", "));
    return new ProofPage(
        names,
        evidence.getFileName().toString(),
        Optional.empty(),
        said,
        Optional.empty(),
        FINE_PX,
        List.of(),
        r.notes());
  }

  /** Without anything to measure against. */
  private int implausible(IntakeOptions options) {
    var intake = source.intake();
    in.forEach(f -> intake.add(f, options, Progress.NONE));
    ReceivedSet set = intake.received(options);
    List<String> odd =
        Implausible.of(set.shotOrPoints(in.get(0).getFileName().toString(), options));
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      ArrayNode list = Json.object().putArray("implausible");
      odd.forEach(list::add);
      out.println(Json.text((ObjectNode) Json.object().set("implausible", list)));
    } else if (odd.isEmpty()) {
      out.println("nothing is implausible; give --evidence to measure it");
    } else {
      odd.forEach(o -> out.println("implausible: " + o));
    }
    return odd.isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private void print(
      PrintWriter out, SuspectReport r, ReturnedFile file, Optional<SuspectReport> after) {
    file.laid().ifPresent(t -> out.println("  note: " + t));
    r.notes().forEach(n -> out.println("  note: " + n));
    out.printf(Locale.ROOT, "error %.2f px on %d observations%n", r.errorPx(), r.observations());
    if (r.cause().isEmpty() && r.errorPx() <= FINE_PX) {
      out.println("nothing wrong that this evidence shows");
      return;
    }
    if (r.cause().isEmpty()) {
      out.println("no cause found; the best that was tried:");
    }
    int i = 0;
    for (Suspect s : shown(r)) {
      out.printf(
          Locale.ROOT,
          "%2d. %s  [%s]%s%n",
          ++i,
          s.sentence(),
          s.causes().stream()
              .map(c -> c.code() + " " + c.value())
              .collect(Collectors.joining(", ")),
          s.confident() ? "" : "  (does not explain it)");
      if (s.confident() && !s.alike().isEmpty()) {
        out.println("    the evidence cannot tell it from " + s.alikeWords());
      }
    }
    after.ifPresent(
        a -> {
          out.printf(Locale.ROOT, "wrote %s: %.2f px, read from disk%n", mend, a.errorPx());
          List<String> gone = Mending.leftOut(file.shot());
          if (!gone.isEmpty()) {
            out.println("  not in it: " + String.join(", ", gone));
          }
          files.sayFolders(out);
        });
  }

  private ObjectNode document(SuspectReport r, ReturnedFile file, Optional<SuspectReport> after) {
    ObjectNode o = Json.object();
    o.put("errorPx", r.errorPx()).put("observations", r.observations());
    ArrayNode list = o.putArray("suspects");
    for (Suspect s : r.suspects()) {
      ObjectNode n = list.addObject();
      causes(n, s.causes());
      n.put("errorPxAfter", s.errorPxAfter());
      n.put("confident", s.confident());
      n.put("sentence", s.sentence());
      ArrayNode alike = n.putArray("alike");
      s.alike().forEach(a -> causes(alike.addObject(), a));
    }
    ArrayNode notes = o.putArray("notes");
    file.laid().ifPresent(notes::add);
    r.notes().forEach(notes::add);
    after.ifPresent(
        a -> {
          ObjectNode m = o.putObject("mended");
          m.put("file", mend.toString()).put("errorPx", a.errorPx());
          ArrayNode gone = m.putArray("leftOut");
          Mending.leftOut(file.shot()).forEach(gone::add);
        });
    return o;
  }

  /** All causes, and the first of them beside. */
  private static void causes(ObjectNode n, List<Suspect.Cause> of) {
    n.put("cause", of.get(0).code()).put("value", of.get(0).value());
    ArrayNode causes = n.putArray("causes");
    of.forEach(c -> causes.addObject().put("cause", c.code()).put("value", c.value()));
  }
}
