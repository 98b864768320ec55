package flarvo.work;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/** Who may read and write a file, where the disk knows of it. */
final class Rights {

  private Rights() {}

  /** Gives a file the rights of another, where that exists. */
  static void copy(Path from, Path to) throws IOException {
    if (!Files.isRegularFile(from)) {
      return;
    }
    try {
      Files.setPosixFilePermissions(to, Files.getPosixFilePermissions(from));
    } catch (UnsupportedOperationException e) {
      // A disk without such rights.
    }
  }
}
