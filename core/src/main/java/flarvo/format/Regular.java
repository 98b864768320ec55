package flarvo.format;

import flarvo.report.InputError;
import java.nio.file.Files;
import java.nio.file.Path;

/** Tells files from what only looks like one. */
final class Regular {

  private Regular() {}

  /**
   * Refuses pipes, sockets and devices, which have no size and may never answer. What is not there,
   * and folders, are left to whoever opens it.
   */
  static void check(Path file) {
    if (Files.exists(file) && !Files.isRegularFile(file) && !Files.isDirectory(file)) {
      throw new InputError(
          file.toString(), "", "this is a pipe or a device, not a file", "Save it to a file first");
    }
  }
}
