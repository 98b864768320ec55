package flarvo.work;

import flarvo.report.InputError;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;

/**
 * Writes files whole or not at all: to a neighbour first, forced to disk, then moved into place. A
 * write that fails, is cancelled or is killed leaves the old file, or none.
 *
 * <p>New files get the rights that the user's mask gives them, existing ones keep theirs; a
 * symbolic link is followed. Neighbours that a killed process left behind are removed by the next
 * write into the same folder.
 */
public final class AtomicFile {

  private AtomicFile() {}

  /** What goes into the file. */
  @FunctionalInterface
  public interface Content {
    /** Writes the contents. */
    void writeTo(OutputStream out) throws IOException;
  }

  /** A file to be written. */
  public record Target(Path file, Content content) {}

  /**
   * Writes a neighbour and moves it into place when it is complete.
   *
   * @throws InputError when the disk refuses; the old file is left as it was
   */
  public static void write(Path target, Content content) {
    write(List.of(new Target(target, content)));
  }

  /**
   * Writes several files and moves them into place when all of them are complete.
   *
   * @throws InputError when the disk refuses; then none of them is changed
   */
  public static void write(List<Target> targets) {
    List<Path> parts = new ArrayList<>();
    List<Path> places = new ArrayList<>();
    List<CompletableFuture<Void>> forced = new ArrayList<>();
    Path at = targets.get(0).file();
    try {
      for (Target t : targets) {
        at = t.file();
        Path place = followed(t.file().toAbsolutePath());
        Path folder = place.getParent();
        Files.createDirectories(folder);
        Leftovers.remove(folder);
        Path part = Leftovers.name(folder);
        parts.add(part);
        places.add(place);
        forced.add(fill(part, t.content(), forced.size() + 1 < targets.size()));
        Rights.copy(place, part);
      }
      for (CompletableFuture<Void> f : forced) {
        finished(f);
      }
      moveAll(parts, places);
    } catch (IOException e) {
      throw new InputError(
          at.toString(),
          "",
          "cannot be written (" + e.getClass().getSimpleName() + ": " + e.getMessage() + ")",
          "Check that the folder exists and has room",
          e);
    } finally {
      forced.forEach(f -> f.exceptionally(e -> null).join()); // open files cannot go everywhere
      parts.forEach(AtomicFile::deleteQuietly);
    }
  }

  /**
   * @param more whether another file is written next, while this one is forced to disk
   * @return ends when it is on disk
   */
  private static CompletableFuture<Void> fill(Path part, Content content, boolean more)
      throws IOException {
    FileChannel channel =
        FileChannel.open(part, StandardOpenOption.CREATE_NEW, StandardOpenOption.WRITE);
    boolean whole = false;
    try {
      OutputStream out = new BufferedOutputStream(Channels.newOutputStream(channel), 1 << 16);
      content.writeTo(out);
      out.flush();
      whole = true;
    } finally {
      if (!whole) {
        channel.close();
      }
    }
    if (more) {
      return CompletableFuture.runAsync(() -> force(channel));
    }
    force(channel);
    return CompletableFuture.completedFuture(null);
  }

  private static void force(FileChannel channel) {
    try (channel) {
      channel.force(true);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void finished(CompletableFuture<Void> f) throws IOException {
    try {
      f.join();
    } catch (CompletionException e) {
      throw e.getCause() instanceof UncheckedIOException io ? io.getCause() : new IOException(e);
    }
  }

  /** Where a link leads, also where there is nothing yet. */
  private static Path followed(Path file) throws IOException {
    Path at = file;
    for (int i = 0; Files.isSymbolicLink(at); i++) {
      if (i == 40) {
        throw new IOException("the links lead round in a circle");
      }
      at = at.resolveSibling(Files.readSymbolicLink(at)).normalize();
    }
    return at;
  }

  /** One after the other; where one cannot be moved, those before it are put back. */
  private static void moveAll(List<Path> parts, List<Path> places) throws IOException {
    List<Path> olds = new ArrayList<>();
    int done = 0;
    try {
      for (; done < parts.size(); done++) {
        Path old = null;
        if (parts.size() > 1 && Files.isRegularFile(places.get(done))) {
          old = Leftovers.name(places.get(done).getParent());
          keep(places.get(done), old);
        }
        olds.add(old);
        move(parts.get(done), places.get(done));
      }
    } catch (IOException e) {
      for (int i = 0; i < done; i++) {
        if (olds.get(i) == null) {
          deleteQuietly(places.get(i));
        } else {
          move(olds.get(i), places.get(i));
        }
      }
      throw e;
    } finally {
      olds.stream().filter(o -> o != null).forEach(AtomicFile::deleteQuietly);
    }
  }

  /** Keeps a file under a second name, which replacing the first does not touch. */
  private static void keep(Path file, Path old) throws IOException {
    try {
      Files.createLink(old, file);
    } catch (IOException | UnsupportedOperationException e) {
      // A disk without hard links.
      Files.copy(file, old, StandardCopyOption.COPY_ATTRIBUTES);
    }
  }

  private static void move(Path part, Path target) throws IOException {
    try {
      Files.move(part, target, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } catch (AtomicMoveNotSupportedException e) {
      Files.move(part, target, StandardCopyOption.REPLACE_EXISTING);
    }
  }

  private static void deleteQuietly(Path part) {
    try {
      Files.deleteIfExists(part);
    } catch (IOException e) {
      // The first failure is what the user must hear of; a leftover ".part" is no delivery.
    }
  }
}
