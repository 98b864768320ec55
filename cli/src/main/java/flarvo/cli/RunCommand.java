package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.recipe.RecipeRun;
import flarvo.recipe.ResultJson;
import flarvo.recipe.RunOptions;
import flarvo.recipe.ShotResult;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
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
    name = "run",
    description = {
      "Takes many shots through a recipe: receives, decides, sends and proves each. What was done"
          + " before, and whose files are as they were, is left alone."
    },
    footer = {
      "",
      "Example:",
      "  flarvo run show.json --shots 'shots/sh*' --out deliveries --report report.html",
      "",
      "Exit code 1 where a delivery does not hold, a question is open or a decision was not"
          + " applied; 2 where a shot failed. No shot holds up another."
    })
final class RunCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "RECIPE.json", description = "as 'flarvo recipe' writes it")
  private Path file;

  @Option(
      names = "--shots",
      required = true,
      arity = "1..*",
      paramLabel = "GLOB",
      description = "folders, each of one shot, which is named after it; * and ? are allowed")
  private List<String> shots = List.of();

  @Option(
      names = "--within",
      paramLabel = "SUB",
      description =
          "receive this part of each shot's folder only, such as incoming; may be repeated")
  private List<String> within = List.of();

  @Option(
      names = "--out",
      required = true,
      paramLabel = "DIR",
      description = "folder that the recipe's file names start from")
  private Path out;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      defaultValue = "1",
      description = "shots at once (default ${DEFAULT-VALUE})")
  private int jobs;

  @Option(
      names = "--overwrite",
      description = "replace files that no run of the recipe wrote, or that were changed since")
  private boolean overwrite;

  @Option(
      names = "--send-incomplete",
      description = "send a shot too of which a decision could not be applied")
  private boolean sendIncomplete;

  @Option(
      names = "--report",
      paramLabel = "FILE",
      description = "write a report too; .html is a page, .json is data")
  private List<Path> reports = List.of();

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    reports.forEach(RunCommand::kind);
    Recipe recipe = RecipeJson.read(file);
    RunOptions options;
    try {
      options = new RunOptions(out, jobs, overwrite, sendIncomplete, within);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "");
    }
    List<Path> folders = ShotFolders.of(shots);
    PrintWriter to = spec.commandLine().getOut();
    List<ShotResult> all =
        progress.run(
            "running " + file.getFileName(),
            p -> RecipeRun.run(recipe, folders, options, r -> told(to, r), p));
    ObjectNode document = document(recipe, all);
    if (json.asked()) {
      to.println(Json.text(document));
    } else {
      to.println(summary(all));
    }
    for (Path r : reports) {
      String text = kind(r).equals("html") ? RunPage.of(recipe, all) : Json.text(document) + "\n";
      AtomicFile.write(r, s -> s.write(text.getBytes(StandardCharsets.UTF_8)));
    }
    return code(all);
  }

  private static String kind(Path report) {
    String name = String.valueOf(report.getFileName()).toLowerCase(Locale.ROOT);
    for (String k : List.of("html", "json")) {
      if (name.endsWith("." + k)) {
        return k;
      }
    }
    throw InputError.words("a report is .html or .json, not " + report.getFileName(), "");
  }

  /** A line as soon as a shot is done: a long run shows how it goes. */
  private void told(PrintWriter to, ShotResult r) {
    if (json.asked()) {
      return;
    }
    StringBuilder s = new StringBuilder();
    s.append(
        String.format(
            Locale.ROOT,
            "%-24s %-20s %d of %d sent and proven  %s%n",
            r.shot(),
            r.state().word(),
            r.holding(),
            r.deliveries().size(),
            r.isFresh() ? "up to date" : String.format(Locale.ROOT, "%.1f s", r.seconds())));
    if (!r.said().isEmpty()) {
      s.append("    ").append(r.said()).append(System.lineSeparator());
    }
    synchronized (this) {
      to.print(s);
      to.flush();
    }
  }

  static String summary(List<ShotResult> all) {
    List<String> parts = new ArrayList<>();
    for (ShotResult.State s : ShotResult.State.values()) {
      long n = all.stream().filter(r -> r.state() == s).count();
      if (n > 0) {
        parts.add(n + " " + s.word());
      }
    }
    String shots = all.size() == 1 ? "1 shot" : all.size() + " shots";
    return shots + ": " + String.join(", ", parts);
  }

  private static ObjectNode document(Recipe recipe, List<ShotResult> all) {
    ObjectNode o = Json.object().put("project", recipe.project());
    o.put("limitPx", recipe.limitPx()).put("summary", summary(all));
    ArrayNode list = o.putArray("shots");
    all.forEach(r -> list.add(ResultJson.write(r)));
    return o;
  }

  private static int code(List<ShotResult> all) {
    int worst = ExitCode.HOLDS;
    for (ShotResult r : all) {
      int code =
          !r.state().isWorkable()
              ? ExitCode.BAD_INPUT
              : r.state() == ShotResult.State.HOLDS ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
      worst = Math.max(worst, code);
    }
    return worst;
  }
}
