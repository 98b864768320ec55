package flarvo.project;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.charset.StandardCharsets;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.stream.Stream;

/**
 * Work that was not saved yet, kept apart from projects until it is. Every run of the program
 * writes copies of its own, {@code PROJECT_RUN.json}, so that none takes the place of another's; a
 * run that goes on holds a lock, and what a run without one left behind is offered back. Shots
 * without a project are kept too, as {@code unnamed-N_RUN.json}. For any thread.
 */
public final class Recovery {

  private static final String UNNAMED = "unnamed-";
  private static final Duration YOUNG = Duration.ofMinutes(1);

  private final Path folder;
  private final String run = UUID.randomUUID().toString();
  private final Map<Path, Long> written = new HashMap<>(); // the newest edit in each own copy
  private FileChannel lock; // held while this run goes on; null before its first copy
  private int unnamed;

  public Recovery(Path userFolder) {
    this.folder = userFolder.resolve("recovery");
  }

  private static String key(Path project) {
    String path = project.toAbsolutePath().normalize().toString();
    return UUID.nameUUIDFromBytes(path.getBytes(StandardCharsets.UTF_8)).toString();
  }

  private Path copyOf(Path project) {
    return isUnnamed(project) ? project : folder.resolve(key(project) + "_" + run + ".json");
  }

  /** A place for the next shot that has no project yet. */
  public synchronized Path unnamed() {
    return folder.resolve(UNNAMED + ++unnamed + "_" + run + ".json");
  }

  /** Whether a project is a shot without one, which only lies here. */
  public boolean isUnnamed(Path project) {
    return project.toAbsolutePath().startsWith(folder.toAbsolutePath())
        && project.getFileName().toString().startsWith(UNNAMED);
  }

  /**
   * Writes a copy of a project, whole or not at all.
   *
   * @param edit number of the newest edit that is in it
   * @throws InputError when the disk refuses
   */
  public synchronized void keep(ProjectFile project, long edit) {
    lock();
    byte[] text = project.toJson().getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(copyOf(project.file()), out -> out.write(text));
    written.put(project.file(), edit);
  }

  /** Deletes this run's copy of a project, unless it holds edits after {@code edit}. */
  public synchronized void forget(Path project, long edit) {
    if (written.getOrDefault(project, Long.MIN_VALUE) <= edit) {
      delete(copyOf(project));
      written.remove(project);
    }
  }

  /** Deletes a copy that was offered. */
  public void discard(RecoveredWork work) {
    delete(work.copy());
  }

  private static void delete(Path copy) {
    try {
      Files.deleteIfExists(copy);
    } catch (IOException e) {
      throw new InputError(copy.toString(), "", "the kept copy cannot be removed", "Remove it", e);
    }
  }

  /** Copies of a project that say something else than it does, newest first. */
  public List<RecoveredWork> recovered(ProjectFile project) {
    List<RecoveredWork> out = new ArrayList<>();
    for (Path copy : copies(key(project.file()) + "_")) {
      read(copy, project.file()).filter(w -> !w.project().equals(project)).ifPresent(out::add);
    }
    return out;
  }

  /** Shots that never were in a project, newest first. */
  public List<RecoveredWork> recoveredUnnamed() {
    List<RecoveredWork> out = new ArrayList<>();
    for (Path copy : copies(UNNAMED)) {
      if (!copy.toString().endsWith("_" + run + ".json")) {
        read(copy, copy).ifPresent(out::add);
      }
    }
    return out;
  }

  private List<Path> copies(String prefix) {
    try (Stream<Path> all = Files.list(folder)) {
      return all.filter(p -> p.getFileName().toString().startsWith(prefix))
          .filter(p -> p.toString().endsWith(".json") && !isHeld(p))
          .sorted(Comparator.comparing(Recovery::at).reversed())
          .toList();
    } catch (IOException e) {
      return List.of(); // nothing was ever kept
    }
  }

  private static Instant at(Path copy) {
    try {
      return Files.getLastModifiedTime(copy).toInstant();
    } catch (IOException e) {
      return Instant.EPOCH; // gone meanwhile
    }
  }

  private static Optional<RecoveredWork> read(Path copy, Path project) {
    try {
      ProjectFile kept = ProjectFile.parse(project, TextSource.read(copy, ReadLimits.USUAL));
      return Optional.of(new RecoveredWork(kept, at(copy), copy));
    } catch (InputError e) {
      return Optional.empty(); // a copy that was cut off helps nobody
    }
  }

  private void lock() {
    if (lock != null) {
      return;
    }
    try {
      Files.createDirectories(folder);
      sweep();
      FileChannel c =
          FileChannel.open(lockOf(run), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
      FileLock held = c.tryLock();
      if (held == null) {
        c.close();
      } else {
        lock = c;
      }
    } catch (IOException e) {
      lock = null; // a disk without locks: another window may offer what this one still edits
    }
  }

  /** Removes the locks of runs that were killed; one that was made just now may not be held yet. */
  private void sweep() throws IOException {
    Instant old = Instant.now().minus(YOUNG);
    try (DirectoryStream<Path> locks = Files.newDirectoryStream(folder, "*.lock")) {
      for (Path p : locks) {
        if (at(p).isBefore(old) && !isLocked(p)) {
          Files.deleteIfExists(p);
        }
      }
    }
  }

  private Path lockOf(String ofRun) {
    return folder.resolve(ofRun + ".lock");
  }

  /** Whether another run that goes on wrote a copy. */
  private boolean isHeld(Path copy) {
    String name = copy.getFileName().toString();
    String of = name.substring(name.lastIndexOf('_') + 1).replace(".json", "");
    Path file = lockOf(of);
    return !of.equals(run) && Files.exists(file) && isLocked(file);
  }

  private static boolean isLocked(Path file) {
    try (FileChannel c = FileChannel.open(file, StandardOpenOption.WRITE)) {
      FileLock l = c.tryLock();
      if (l == null) {
        return true;
      }
      l.release();
      return false;
    } catch (OverlappingFileLockException e) {
      return true; // another window of this process
    } catch (IOException e) {
      return false;
    }
  }

  /** Lets go of the lock: what is still kept may be offered by others. */
  public synchronized void close() {
    if (lock == null) {
      return;
    }
    try {
      lock.close();
      Files.deleteIfExists(lockOf(run));
    } catch (IOException e) {
      // A lock file without a lock holds nothing back.
    }
    lock = null;
  }
}
