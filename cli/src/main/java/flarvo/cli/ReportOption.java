package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.recipe.Recipe;
import flarvo.recipe.ResultJson;
import flarvo.recipe.ShotResult;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import picocli.CommandLine.Option;

/** What became of many shots: as lines, as data and as a page. */
final class ReportOption {

  @Option(
      names = "--report",
      paramLabel = "FILE",
      description = "write a report too; .html is a page, .json is data")
  private List<Path> reports = List.of();

  List<Path> files() {
    return reports;
  }

  /**
   * Before long work begins.
   *
   * @throws InputError when a report is of no kind that is known
   */
  void check() {
    reports.forEach(ReportOption::kind);
  }

  void write(Recipe recipe, List<ShotResult> all) {
    for (Path r : reports) {
      String text =
          kind(r).equals("html")
              ? RunPage.of(recipe, all)
              : Json.text(document(recipe, all)) + "\n";
      AtomicFile.write(r, s -> s.write(text.getBytes(StandardCharsets.UTF_8)));
    }
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

  /** One shot on a line, and why it stopped on another. */
  static String line(ShotResult r) {
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
    return s.toString();
  }

  static String summary(List<ShotResult> all) {
    List<String> parts = new ArrayList<>();
    for (ShotResult.State s : ShotResult.State.values()) {
      long n = all.stream().filter(r -> r.state() == s).count();
      if (n > 0) {
        parts.add(s.count(n));
      }
    }
    String shots = all.size() == 1 ? "1 shot" : all.size() + " shots";
    return shots + ": " + String.join(", ", parts);
  }

  static ObjectNode document(Recipe recipe, List<ShotResult> all) {
    ObjectNode o = Json.object().put("project", recipe.project());
    o.put("limitPx", recipe.limitPx()).put("summary", summary(all));
    ArrayNode list = o.putArray("shots");
    all.forEach(r -> list.add(ResultJson.write(r)));
    return o;
  }

  /** That of the worst shot. */
  static int code(List<ShotResult> all) {
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
