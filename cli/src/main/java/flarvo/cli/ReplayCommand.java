package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionJson;
import flarvo.decision.DecisionLog;
import flarvo.decision.Replay;
import flarvo.decision.ShotState;
import flarvo.level.SimilarityJson;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.project.StudioDialects;
import flarvo.receive.ShotIntake;
import flarvo.stage.SolveOnSolve;
import flarvo.vet.Reprojection;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "replay",
    description = "Makes a shot's decisions again, on its own files or on another solve.",
    footer = {
      "",
      "Example:",
      "  flarvo replay project.json --shot sh010 --onto sh010_v2.usdc --out v2/project.json",
      "",
      "Exit code 1 where a decision was not applied, or gave something else than before."
    })
final class ReplayCommand implements Callable<Integer> {

  private static final String OTHER_NAMES =
      "the two solves name their trackers differently: check every decision that names one";

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "PROJECT", description = "project file")
  private Path file;

  @Mixin private ShotOption shot;

  @Option(
      names = "--onto",
      arity = "1..*",
      paramLabel = "FILE",
      description = "another solve of the shot; 2D tracks, logs and plates stay the shot's own")
  private List<Path> onto = List.of();

  @Option(
      names = "--out",
      paramLabel = "PROJECT",
      description = "write the project with the replayed shot")
  private Path out;

  @Mixin private OutputFiles files;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Mixin private OutsideOption outside;

  @Override
  public Integer call() {
    if (out != null) {
      files.check(inputs(), List.of(out));
    }
    ProjectFile project = ProjectFile.read(file);
    ProjectShot entry = shot.of(project);
    ProjectLoader loader =
        new ProjectLoader(
            project, StudioDialects.known(), text -> Optional.empty(), outside.reach());
    DecisionHistory stored = progress.run("reading", p -> loader.open(entry, p));
    Replay r =
        progress.run(
            "replaying",
            p ->
                onto.isEmpty()
                    ? Replay.same(stored.base(), stored.log(), p)
                    : Replay.onto(
                        stored.base(),
                        stored.log(),
                        ShotIntake.otherSolve(stored.base().received().orElseThrow(), onto, p),
                        p));
    Optional<Boolean> same =
        onto.isEmpty() ? Optional.of(sameBytes(project, stored.log(), r)) : Optional.empty();
    if (out != null) {
      write(project, entry, r);
    }
    PrintWriter to = spec.commandLine().getOut();
    if (json.asked()) {
      to.println(Json.text(document(entry, r, same)));
    } else {
      print(to, entry, r, same);
    }
    return r.complete() && same.orElse(true) ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private List<Path> inputs() {
    List<Path> all = new ArrayList<>(onto);
    all.add(file);
    return all;
  }

  /** Whether what was worked out now is what the project holds, to the last bit. */
  private static boolean sameBytes(ProjectFile project, DecisionLog stored, Replay r) {
    DecisionJson json = new DecisionJson(project.folder(), Dialects.shipped());
    DecisionLog now = r.history().log();
    return json.write(DecisionLog.renumbered(now.base(), now.counting()))
        .equals(json.write(DecisionLog.renumbered(stored.base(), stored.counting())));
  }

  private void write(ProjectFile project, ProjectShot entry, Replay r) {
    ProjectFile there = project.at(out);
    ProjectShot was =
        there.shots().stream().filter(s -> s.name().equals(entry.name())).findFirst().get();
    ProjectShot now =
        new ProjectLoader(there, StudioDialects.known()).store(was, r.history(), entry.diary());
    there
        .withShots(there.shots().stream().map(s -> s.name().equals(now.name()) ? now : s).toList())
        .save();
  }

  private static Optional<Double> rmsPx(Replay r) {
    ShotState s = r.history().present();
    return Reprojection.of(s.shot(), s.vetting().uncounted()).map(Reprojection::rmsPx);
  }

  private static ObjectNode document(ProjectShot entry, Replay r, Optional<Boolean> same) {
    ObjectNode o = Json.object().put("shot", entry.name());
    r.aligned().ifPresent(a -> o.set("aligned", aligned(a)));
    if (r.otherNames()) {
      o.putArray("warnings").add(OTHER_NAMES);
    }
    same.ifPresent(b -> o.put("sameAsStored", b));
    o.put("complete", r.complete());
    rmsPx(r).ifPresent(px -> o.put("rmsPx", px));
    o.set("level", SimilarityJson.write(r.history().present().level()));
    ArrayNode list = o.putArray("decisions");
    for (Replay.Line l : r.lines()) {
      ObjectNode n = list.addObject().put("id", l.id()).put("decision", l.code());
      n.put("title", l.title()).put("applied", l.applied());
      ArrayNode why = n.putArray("missed");
      l.why().forEach(why::add);
    }
    return o;
  }

  private static ObjectNode aligned(SolveOnSolve a) {
    return Json.object()
        .put("by", a.by().name().toLowerCase(Locale.ROOT))
        .put("pairs", a.pairs().size())
        .put("rmsPx", a.rmsPx());
  }

  private void print(PrintWriter to, ProjectShot entry, Replay r, Optional<Boolean> same) {
    to.println(entry.name());
    if (!onto.isEmpty()) {
      to.println(
          r.aligned()
              .map(
                  a ->
                      String.format(
                          Locale.ROOT,
                          "aligned %s: %d trackers, %.2f px RMS",
                          a.by().word(),
                          a.pairs().size(),
                          a.rmsPx()))
              .orElse("not aligned: too few trackers in common; what was done by hand may be off"));
    }
    if (r.otherNames()) {
      to.println(OTHER_NAMES);
    }
    for (Replay.Line l : r.lines()) {
      to.println((l.whole() ? "  " : l.applied() ? "~ " : "x ") + l.title());
      l.why().forEach(w -> to.println("    " + w));
    }
    rmsPx(r).ifPresent(px -> to.printf(Locale.ROOT, "error: %.3f px RMS%n", px));
    to.printf(Locale.ROOT, "scale: %.6f%n", r.history().present().level().scale());
    same.ifPresent(b -> to.println(b ? "same as stored" : "not the same as stored: see --json"));
    if (out != null) {
      to.println("wrote " + out);
      files.sayFolders(to);
    }
  }
}
