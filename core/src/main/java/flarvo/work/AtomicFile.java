package flarvo.work;

import flarvo.report.InputError;
import java.io.BufferedOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * Writes a file whole or not at all: to a neighbour first, forced to disk, then moved into place. A
 * write that fails, is cancelled or is killed leaves the old file, or none.
 */
public final class AtomicFile {

  private AtomicFile() {}

  /** What goes into the file. */
  @FunctionalInterface
  public interface Content {
    /** Writes the contents. */
    void writeTo(OutputStream out) throws IOException;
  }

  /**
   * Writes a neighbour and moves it into place when it is complete.
   *
   * @throws InputError when the disk refuses; the old file is left as it was
   */
  public static void write(Path target, Content content) {
    Path absolute = target.toAbsolutePath();
    Path folder = absolute.getParent();
    Path part = null;
    try {
      Files.createDirectories(folder);
      part = Files.createTempFile(folder, "." + absolute.getFileName(), ".part");
      try (FileChannel channel = FileChannel.open(part, StandardOpenOption.WRITE)) {
        OutputStream out = new BufferedOutputStream(Channels.newOutputStream(channel), 1 << 16);
        content.writeTo(out);
        out.flush();
        channel.force(true);
      }
      move(part, absolute);
      part = null;
    } catch (IOException e) {
      throw new InputError(
          target.toString(),
          "",
          "cannot be written (" + e.getClass().getSimpleName() + ": " + e.getMessage() + ")",
          "Check that the folder exists and has room",
          e);
    } finally {
      if (part != null) {
        deleteQuietly(part);
      }
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
