package flarvo.desktop;

import flarvo.desktop.state.Session;
import flarvo.desktop.work.Lane;
import flarvo.project.UserFolder;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Stream;

/** The demo that came along: opened from a copy of the user's own, so that it can be worked on. */
final class DemoCopy {

  /** Names the demo's project file, where the launcher knows it. */
  static final String PROPERTY = "flarvo.demo";

  private DemoCopy() {}

  /** What opens it; empty where it did not come along. */
  static Optional<Runnable> opener(Session session) {
    String named = System.getProperty(PROPERTY, "");
    if (named.isEmpty() || !Files.isRegularFile(Path.of(named))) {
      return Optional.empty();
    }
    Path project = Path.of(named);
    return Optional.of(
        () ->
            session
                .jobs()
                .run(
                    Lane.KEEP,
                    "Copying the demo",
                    p -> copied(project, UserFolder.data().resolve("demo")),
                    copy -> session.project().open(List.of(copy)),
                    session.message()::set));
  }

  /** Files that are there already are left as they are: they may have been worked on. */
  static Path copied(Path project, Path to) {
    Path from = project.getParent();
    try (Stream<Path> all = Files.walk(from)) {
      for (Path p : (Iterable<Path>) all::iterator) {
        Path there = to.resolve(from.relativize(p).toString());
        if (Files.isDirectory(p)) {
          Files.createDirectories(there);
        } else if (!Files.exists(there)) {
          Files.copy(p, there);
        }
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return to.resolve(project.getFileName().toString());
  }
}
