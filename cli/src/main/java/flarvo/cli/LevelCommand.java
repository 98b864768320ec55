package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.level.FirstGuess;
import flarvo.level.LevelCheck;
import flarvo.level.LevelReading;
import flarvo.level.LevelScene;
import flarvo.level.Levelling;
import flarvo.level.Stated;
import flarvo.level.StatementJson;
import flarvo.project.StudioDialects;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
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
    name = "level",
    description = "Sets origin, axes, ground and scale: from statements, or estimated.",
    footer = {
      "",
      "Example:",
      "  flarvo level solve.usda --statements ground.json --out levelled.usda"
    })
final class LevelCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "FILE", description = "the solve, in one file or more")
  private List<Path> in;

  @Option(names = "--tracks", paramLabel = "CSV", description = "2D tracks, for uncertainty")
  private Path tracks;

  @Option(
      names = "--statements",
      paramLabel = "JSON",
      description = "known points, axes and distances; see docs/level.md")
  private Path statements;

  @Option(names = "--guess", description = "estimate the ground")
  private boolean guess;

  @Mixin private SourceOptions source;

  @Mixin private TakenRulings taken;

  @Mixin private SolveOutput output;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    if (guess == (statements != null)) {
      throw InputError.words("level takes either --statements or --guess", "Give one of them");
    }
    Dialects dialects = StudioDialects.known();
    List<Path> all = new ArrayList<>(in);
    if (tracks != null) {
      all.add(tracks);
    }
    output.check(all);
    Shot shot =
        progress.run("reading", p -> taken.shot(source.intake(), all, source.options(dialects), p));
    LevelScene scene = new LevelScene(shot);
    List<Stated> said =
        guess
            ? List.of()
            : StatementJson.parse(
                statements.toString(), TextSource.read(statements, ReadLimits.USUAL));
    String words = "";
    Similarity start = Similarity.IDENTITY;
    if (guess) {
      FirstGuess g =
          progress.run(
              "looking for the ground",
              p -> FirstGuess.of(scene, Similarity.IDENTITY, f -> Optional.empty(), p));
      start = g.level();
      words = g.words();
    }
    LevelReading r = Levelling.of(scene, said, start);
    List<String> wrong = LevelCheck.of(scene, r.level());
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(r, wrong)));
    } else {
      say(text, r, words, wrong);
    }
    output.write(
        shot.withLevel(r.level()), dialects, json.asked() ? spec.commandLine().getErr() : text);
    boolean fits = wrong.isEmpty() && r.lines().stream().allMatch(l -> l.problem().isEmpty());
    return fits ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private static ObjectNode document(LevelReading r, List<String> wrong) {
    ObjectNode o = Json.object();
    LevelOption.put(o, r.level());
    ArrayNode residuals = o.putArray("residuals");
    for (LevelReading.Line l : r.lines()) {
      ObjectNode n = residuals.addObject().put("statement", l.stated().what().words());
      number(n, "metres", l.metres());
      number(n, "px", l.px());
      l.problem().ifPresent(p -> n.put("problem", p));
    }
    ArrayNode free = o.putArray("free");
    r.free().forEach(free::add);
    number(o, "upError", Math.toDegrees(r.upError()));
    number(o, "heightError", r.heightError());
    number(o, "scaleError", r.scaleError());
    ArrayNode list = o.putArray("wrong");
    wrong.forEach(list::add);
    return o;
  }

  private static void number(ObjectNode o, String name, double v) {
    if (Double.isNaN(v)) {
      o.putNull(name);
    } else {
      o.put(name, v);
    }
  }

  private static void say(PrintWriter text, LevelReading r, String words, List<String> wrong) {
    if (!words.isEmpty()) {
      text.println(words);
    }
    text.printf(Locale.ROOT, "solve unit: %.6f m%n", r.level().scale());
    for (LevelReading.Line l : r.lines()) {
      text.printf(
          Locale.ROOT,
          "  %s: %s%s%n",
          l.stated().what().words(),
          Double.isNaN(l.metres()) ? "off" : String.format(Locale.ROOT, "%.4f m", l.metres()),
          l.problem().map(p -> " ! " + p).orElse(""));
    }
    if (!r.free().isEmpty()) {
      text.println(
          "unconstrained, kept as "
              + (words.isEmpty() ? "received" : "guessed")
              + ": "
              + String.join(", ", r.free()));
    }
    wrong.forEach(text::println);
  }
}
