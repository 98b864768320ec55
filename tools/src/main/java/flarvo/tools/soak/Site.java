package flarvo.tools.soak;

import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.project.RecoveredWork;
import flarvo.project.Recovery;
import flarvo.receive.ReceivedFile;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * A copy of the demo's first shot without its plates, and a home of its own for what is kept.
 *
 * @param project its project file
 */
record Site(Path project, Path home) {

  /** Makes one in an empty folder. */
  static Site in(Path folder, Path home, Path demo) throws IOException {
    ProjectFile all = ProjectFile.read(demo);
    ProjectShot first = all.shots().get(0);
    for (String f : first.files()) {
      Path to = folder.resolve(f);
      Files.createDirectories(to.getParent());
      Files.copy(all.folder().resolve(f), to);
    }
    Path file = folder.resolve("project.json");
    ProjectShot bare =
        new ProjectShot(
            first.name(),
            first.files(),
            first.mappings(),
            List.of(),
            first.from(),
            first.lists(),
            first.start(),
            first.log(),
            first.diary());
    all.at(file).withShots(List.of(bare)).save();
    return new Site(file, home);
  }

  Path folder() {
    return project.getParent();
  }

  /**
   * What is wrong with what a killed window left: edits that are nowhere, files that are no whole.
   */
  List<String> faults(List<String> edits) throws IOException {
    List<String> out = new ArrayList<>();
    StringBuilder kept = new StringBuilder();
    try {
      ProjectFile p = ProjectFile.read(project);
      kept.append(Files.readString(project));
      for (RecoveredWork w : new Recovery(home).recovered(p)) {
        kept.append(Files.readString(w.copy()));
      }
    } catch (InputError e) {
      out.add("the project does not open: " + e.getMessage());
    }
    String text = kept.toString();
    edits.stream().filter(e -> !text.contains(e)).forEach(e -> out.add("edit " + e + " is lost"));
    for (Path p : files(folder().resolve("deliveries"))) {
      if (!p.getFileName().toString().endsWith(".part")) {
        broken(p).ifPresent(out::add);
      }
    }
    return out;
  }

  private static Optional<String> broken(Path file) {
    try {
      ReceivedFile.read(file, Optional.empty(), Progress.NONE);
      return Optional.empty();
    } catch (InputError e) {
      return Optional.of("a delivery is not whole: " + e.getMessage());
    }
  }

  /** Throws away what is offered, as its user may. */
  void discard() {
    Recovery r = new Recovery(home);
    r.recovered(ProjectFile.read(project)).forEach(r::discard);
  }

  /** Unfinished neighbours of files, and kept work that nobody is offered. */
  List<String> litter() throws IOException {
    List<String> out = new ArrayList<>();
    for (Path root : List.of(folder(), home)) {
      for (Path p : files(root)) {
        String name = p.getFileName().toString();
        boolean lock = name.endsWith(".lock") && !(root.equals(home) && isYoung(p));
        if (name.endsWith(".part") || lock) {
          out.add(p.toString());
        }
      }
    }
    return out;
  }

  /** Locks of runs stay for a minute: those of a run that just begins look the same. */
  private static boolean isYoung(Path lock) throws IOException {
    return Files.getLastModifiedTime(lock).toInstant().isAfter(Instant.now().minusSeconds(90));
  }

  private static List<Path> files(Path folder) throws IOException {
    if (!Files.isDirectory(folder)) {
      return List.of();
    }
    try (Stream<Path> all = Files.walk(folder)) {
      return all.filter(Files::isRegularFile).toList();
    }
  }
}
