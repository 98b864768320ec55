package flarvo.cli;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.recipe.Recipe;
import flarvo.recipe.RecipeJson;
import flarvo.recipe.ResultJson;
import flarvo.recipe.ShotResult;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "gather",
    description = {
      "Puts the reports of a job's tasks together, as 'run' would have. A shot whose task left no"
          + " report has failed."
    },
    footer = {"", "Example:", "  flarvo gather deliveries/.flarvo-run/jobs/1 --report report.html"})
final class GatherCommand implements Callable<Integer> {

  private static final ObjectMapper MAPPER = new ObjectMapper();

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "JOB", description = "folder that 'run --submit' wrote")
  private Path folder;

  @Mixin private ReportOption report;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    report.check();
    BatchJob job = BatchJob.read(folder);
    Recipe recipe = RecipeJson.read(job.recipe());
    List<ShotResult> all = new ArrayList<>();
    for (int i = 0; i < job.shots().size(); i++) {
      all.add(result(job, i));
    }
    if (json.asked()) {
      spec.commandLine().getOut().println(Json.text(ReportOption.document(recipe, all)));
    } else {
      all.forEach(r -> spec.commandLine().getOut().print(ReportOption.line(r)));
      spec.commandLine().getOut().println(ReportOption.summary(all));
    }
    report.write(recipe, all);
    return ReportOption.code(all);
  }

  private static ShotResult result(BatchJob job, int line) {
    Path file = job.result(line);
    String shot = String.valueOf(job.shots().get(line).getFileName());
    String said = "its task left no report: it was killed, or did not run; see " + job.log(line);
    if (Files.exists(file)) {
      try {
        JsonNode one = MAPPER.readTree(TextSource.read(file, ReadLimits.USUAL));
        return ResultJson.read(StrictJson.of(one.path("shots").path(0), ""));
      } catch (JsonProcessingException | InputError | IllegalArgumentException e) {
        said = file + " cannot be read: " + e.getMessage();
      }
    }
    return new ShotResult(shot, ShotResult.State.FAILED, said, List.of(), List.of(), List.of(), 0);
  }
}
