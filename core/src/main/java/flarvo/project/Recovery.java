package flarvo.project;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Optional;
import java.util.UUID;

/**
 * Work that was not saved yet, kept apart from the project until it is. A copy that is still there
 * when its project is opened was left by a crash.
 */
public final class Recovery {

  private final Path folder;

  public Recovery(Path userFolder) {
    this.folder = userFolder.resolve("recovery");
  }

  private Path copyOf(Path project) {
    String key = project.toAbsolutePath().normalize().toString();
    return folder.resolve(UUID.nameUUIDFromBytes(key.getBytes(StandardCharsets.UTF_8)) + ".json");
  }

  /**
   * Writes a copy of a project, whole or not at all.
   *
   * @throws InputError when the disk refuses
   */
  public void keep(ProjectFile project) {
    byte[] text = project.toJson().getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(copyOf(project.file()), out -> out.write(text));
  }

  /** Deletes the copy of a project. */
  public void forget(Path project) {
    try {
      Files.deleteIfExists(copyOf(project));
    } catch (IOException e) {
      throw new InputError(
          copyOf(project).toString(), "", "the kept copy cannot be removed", "Remove it", e);
    }
  }

  /** Empty where nothing was left, or what was left says the same as the project. */
  public Optional<RecoveredWork> recovered(ProjectFile project) {
    Path copy = copyOf(project.file());
    if (!Files.isRegularFile(copy)) {
      return Optional.empty();
    }
    try {
      ProjectFile kept = ProjectFile.parse(project.file(), TextSource.read(copy, ReadLimits.USUAL));
      return kept.equals(project)
          ? Optional.empty()
          : Optional.of(new RecoveredWork(kept, Files.getLastModifiedTime(copy).toInstant()));
    } catch (InputError e) {
      return Optional.empty(); // a copy that was cut off helps nobody
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
