package flarvo.project;

import flarvo.decision.DecisionJson;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.io.IOException;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Finds everything that a project misses under one folder, by name; of several of one name, the one
 * that shares most of the old path's folders.
 */
public final class Relink {

  private static final int DEEPEST = 12;

  private Relink() {}

  /**
   * @param found old path to new, both as the project file spells them
   * @param lost what is not under the folder
   */
  public record Result(ProjectFile project, Map<String, String> found, List<String> lost) {}

  /** Looks for missing files under a folder, by name and by the folders above them. */
  public static Result under(
      ProjectFile project, List<String> missing, Path folder, Progress progress) {
    Map<String, List<Path>> byName = new HashMap<>();
    for (String m : missing) {
      byName.put(Path.of(m).getFileName().toString(), new ArrayList<>());
    }
    walk(folder, byName, progress);
    Map<String, String> found = new HashMap<>();
    List<String> lost = new ArrayList<>();
    for (String m : missing) {
      Path best = null;
      int most = -1;
      for (Path p : byName.get(Path.of(m).getFileName().toString())) {
        int shared = shared(Path.of(m), p);
        if (shared > most) {
          most = shared;
          best = p;
        }
      }
      if (best == null) {
        lost.add(m);
      } else {
        found.put(m, spelled(project, best));
      }
    }
    List<ProjectShot> shots =
        project.shots().stream()
            .map(s -> s.withPaths(project.folder(), p -> found.getOrDefault(p, p)))
            .toList();
    return new Result(project.withShots(shots), found, lost);
  }

  private static void walk(Path folder, Map<String, List<Path>> byName, Progress progress) {
    try {
      Files.walkFileTree(
          folder,
          EnumSet.noneOf(java.nio.file.FileVisitOption.class),
          DEEPEST,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult preVisitDirectory(Path dir, BasicFileAttributes a) {
              progress.step(0, 0);
              return visitFile(dir, a);
            }

            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes a) {
              List<Path> wanted =
                  file.getFileName() == null ? null : byName.get(file.getFileName().toString());
              if (wanted != null) {
                wanted.add(file);
              }
              return FileVisitResult.CONTINUE;
            }

            @Override
            public FileVisitResult visitFileFailed(Path file, IOException e) {
              return FileVisitResult.CONTINUE; // a folder that may not be read holds nothing for us
            }
          });
    } catch (IOException e) {
      throw new InputError(folder.toString(), "", "the folder cannot be read", "", e);
    }
  }

  /** How many folders from the end are called alike. */
  private static int shared(Path old, Path candidate) {
    int n = 0;
    Path a = old.getParent();
    Path b = candidate.toAbsolutePath().getParent();
    while (a != null && b != null && a.endsWith(b.getFileName() == null ? b : b.getFileName())) {
      n++;
      a = a.getParent();
      b = b.getParent();
    }
    return n;
  }

  private static String spelled(ProjectFile project, Path file) {
    return DecisionJson.relative(project.folder(), file);
  }
}
