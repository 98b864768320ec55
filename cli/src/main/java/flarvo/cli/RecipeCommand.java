package flarvo.cli;

import flarvo.decision.DecisionHistory;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.project.StudioDialects;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "recipe",
    description = "Makes a recipe of a shot: its decisions and its board, for other shots.",
    footer = {"", "Example:", "  flarvo recipe project.json --shot sh010 --out show.json"})
final class RecipeCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "PROJECT", description = "project file")
  private Path file;

  @Mixin private ShotOption shot;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "RECIPE.json",
      description = "recipe to write; it is text, and may be edited")
  private Path out;

  @Option(
      names = "--proposals",
      description = "accept each shot's own proposals in place of this shot's rulings")
  private boolean proposals;

  @Mixin private OutputFiles files;

  @Mixin private ProgressOption progress;

  @Mixin private OutsideOption outside;

  @Override
  public Integer call() {
    files.check(List.of(file), List.of(out));
    ProjectFile project = ProjectFile.read(file);
    ProjectShot entry = shot.of(project);
    ProjectLoader loader =
        new ProjectLoader(
            project, StudioDialects.known(), text -> Optional.empty(), outside.reach());
    DecisionHistory h = progress.run("reading", p -> loader.open(entry, p));
    Recipe.Made made = Recipe.of(project.name(), h);
    Recipe recipe = proposals ? made.recipe().takingProposals() : made.recipe();
    byte[] text = RecipeJson.text(recipe).getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(out, s -> s.write(text));
    PrintWriter to = spec.commandLine().getOut();
    to.println(
        "wrote "
            + out
            + ": "
            + count(recipe.decisions().size(), "decision")
            + ", "
            + count(recipe.deliveries().size(), "delivery"));
    made.said().forEach(l -> to.println("  " + l));
    files.sayFolders(to);
    return ExitCode.HOLDS;
  }

  private static String count(int n, String what) {
    return n == 1 ? "1 " + what : n + " " + what.replaceAll("y$", "ie") + "s";
  }
}
