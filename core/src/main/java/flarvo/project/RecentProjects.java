package flarvo.project;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Projects that were open, the last one first; one path a line. */
public final class RecentProjects {

  private static final int MOST = 12;

  private final Path file;

  public RecentProjects(Path userFolder) {
    this.file = userFolder.resolve("recent.txt");
  }

  /** Those that are still there. */
  public List<Path> list() {
    List<Path> out = new ArrayList<>();
    if (!Files.isRegularFile(file)) {
      return out;
    }
    try {
      for (String line : TextSource.read(file, ReadLimits.USUAL).split("\n", -1)) {
        if (!line.isBlank() && Files.isRegularFile(Path.of(line))) {
          out.add(Path.of(line));
        }
      }
    } catch (InputError | InvalidPathException e) {
      return out; // a list of conveniences: what cannot be read is not there
    }
    return out;
  }

  /**
   * Puts a project first.
   *
   * @throws InputError when the list cannot be written
   */
  public void add(Path project) {
    List<Path> all = new ArrayList<>(list());
    Path p = project.toAbsolutePath().normalize();
    all.remove(p);
    all.add(0, p);
    StringBuilder text = new StringBuilder();
    all.stream().limit(MOST).forEach(x -> text.append(x).append('\n'));
    AtomicFile.write(file, out -> out.write(text.toString().getBytes(StandardCharsets.UTF_8)));
  }
}
