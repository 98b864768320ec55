package flarvo.work;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;

/** A folder in the system's place for temporary files, gone when it is closed. */
public final class TempFolder implements AutoCloseable {

  private final Path path;

  private TempFolder(Path path) {
    this.path = path;
  }

  /**
   * Makes one that nobody else uses.
   *
   * @throws InputError when the disk refuses
   */
  public static TempFolder make(String name) {
    try {
      return new TempFolder(Files.createTempDirectory("flarvo-" + name));
    } catch (IOException e) {
      throw new InputError(
          System.getProperty("java.io.tmpdir"),
          "",
          "no temporary folder can be made (" + e.getMessage() + ")",
          "Free some space there",
          e);
    }
  }

  public Path path() {
    return path;
  }

  /** Deletes it with all that it contains; what cannot be deleted is left to the system. */
  @Override
  public void close() {
    try (Stream<Path> all = Files.walk(path)) {
      List<Path> deepest = all.sorted(Comparator.reverseOrder()).toList();
      for (Path p : deepest) {
        Files.deleteIfExists(p);
      }
    } catch (IOException e) {
      path.toFile().deleteOnExit();
    }
  }
}
