package flarvo.cli;

import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.report.InputError;
import java.util.Optional;
import java.util.stream.Collectors;
import picocli.CommandLine.Option;

/** Which shot of a project. */
final class ShotOption {

  @Option(names = "--shot", paramLabel = "NAME", description = "shot; default: the first")
  private Optional<String> shot = Optional.empty();

  /**
   * The shot's entry.
   *
   * @throws InputError when the project has none of that name
   */
  ProjectShot of(ProjectFile project) {
    return project.shots().stream()
        .filter(s -> shot.map(s.name()::equals).orElse(true))
        .findFirst()
        .orElseThrow(
            () ->
                new InputError(
                    project.file().toString(),
                    "shots",
                    shot.map(n -> "no shot '" + n + "'").orElse("no shot in the project"),
                    "Shots: "
                        + project.shots().stream()
                            .map(ProjectShot::name)
                            .collect(Collectors.joining(", "))));
  }
}
