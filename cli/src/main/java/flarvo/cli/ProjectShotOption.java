package flarvo.cli;

import flarvo.decision.ShotState;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.StudioDialects;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.Optional;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

/** A shot of a project, as it stands after its decisions. */
final class ProjectShotOption {

  @Parameters(paramLabel = "PROJECT", description = "project file")
  private Path file;

  @Mixin private ShotOption shot;

  @Mixin private OutsideOption outside;

  private ProjectFile project;

  /** Read once. */
  ProjectFile project() {
    if (project == null) {
      project = ProjectFile.read(file);
    }
    return project;
  }

  /** Reads the shot's files and makes its decisions. */
  ShotState open(Progress p) {
    return new ProjectLoader(
            project(), StudioDialects.known(), text -> Optional.empty(), outside.reach())
        .open(shot.of(project()), p)
        .present();
  }

  /** Where the project's deliveries lie. */
  Path deliveries() {
    return project().folder().resolve("deliveries");
  }
}
