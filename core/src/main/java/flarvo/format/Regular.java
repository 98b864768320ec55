package flarvo.format;

import flarvo.report.InputError;
import java.nio.file.Files;
import java.nio.file.Path;

/** Tells files from what only looks like one. */
public final class Regular {

  private Regular() {}

  /** The error of a path where nothing is. */
  public static InputError absent(Path file, Throwable from) {
    boolean unreadable = file.toString().indexOf('\uFFFD') >= 0;
    return new InputError(
        file.toString(),
        "",
        "file not found",
        unreadable
            ? "Its name is not UTF-8 text; rename it, or name the folder that it lies in"
            : "Check the path",
        from);
  }

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
