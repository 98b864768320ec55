package flarvo.cli;

import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.recipe.RecipeRun;
import flarvo.recipe.RunOptions;
import flarvo.recipe.ShotResult;
import flarvo.report.InputError;
import flarvo.work.Cancelled;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
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

  @Option(names = "--notes", description = "write a hand-over note of each shot")
  private boolean notes;

  @Option(
      names = "--submit",
      paramLabel = "WHERE",
      description =
          "run as a job of a scheduler, one task a shot: slurm submits it, none writes and prints"
              + " it")
  private String submit;

  @Mixin private ReportOption report;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    report.check();
    Recipe recipe = RecipeJson.read(file);
    RunOptions options;
    try {
      options = new RunOptions(out, jobs, overwrite, sendIncomplete, within, notes);
    } catch (IllegalArgumentException e) {
      throw InputError.words(e.getMessage(), "");
    }
    List<Path> folders = ShotFolders.of(shots);
    if (submit != null) {
      return submit(recipe, folders);
    }
    PrintWriter to = spec.commandLine().getOut();
    List<ShotResult> all =
        progress.run(
            "running " + file.getFileName(),
            p -> RecipeRun.run(recipe, folders, options, r -> told(to, r), p));
    to.println(
        json.asked() ? Json.text(ReportOption.document(recipe, all)) : ReportOption.summary(all));
    report.write(recipe, all);
    return ReportOption.code(all);
  }

  private int submit(Recipe recipe, List<Path> folders) {
    boolean slurm = LensWords.either("--submit", submit, "slurm", "none");
    BatchJob job =
        BatchJob.write(out, RecipeJson.text(recipe), folders, taskOptions(), report.files());
    PrintWriter to = spec.commandLine().getOut();
    if (!slurm) {
      to.println(job.folder());
      to.println("  submit with: sh " + BatchJob.quoted(job.submitScript()));
      return ExitCode.HOLDS;
    }
    try {
      Process p =
          new ProcessBuilder("sh", job.submitScript().toString()).redirectErrorStream(true).start();
      p.getOutputStream().close();
      String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
      if (p.waitFor() != 0) {
        throw InputError.words(
            "the job was not submitted (" + said + ")", "It is written: " + job.submitScript());
      }
      to.println(said);
      to.println("  its files are in " + job.folder());
      return ExitCode.HOLDS;
    } catch (IOException e) {
      throw new InputError(job.folder().toString(), "", "cannot be submitted", "", e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled();
    }
  }

  /** What a task is told besides its shot. */
  private List<String> taskOptions() {
    List<String> words = new ArrayList<>();
    within.forEach(w -> words.addAll(List.of("--within", w)));
    if (overwrite) {
      words.add("--overwrite");
    }
    if (sendIncomplete) {
      words.add("--send-incomplete");
    }
    if (notes) {
      words.add("--notes");
    }
    return words;
  }

  /** A line as soon as a shot is done: a long run shows how it goes. */
  private void told(PrintWriter to, ShotResult r) {
    if (json.asked()) {
      return;
    }
    synchronized (this) {
      to.print(ReportOption.line(r));
      to.flush();
    }
  }
}
