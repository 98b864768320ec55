package flarvo.desktop.state;

import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;

/** Files that are being written. Several deliveries are sent at once, and each has its own file. */
final class FilesInWork {

  private final Set<Path> files = ConcurrentHashMap.newKeySet();

  /**
   * Takes a file, until it is released.
   *
   * @throws InputError when somebody else has it
   */
  void claim(Path file) {
    if (!files.add(file)) {
      throw InputError.words(
          "another delivery is being written to " + file.getFileName(),
          "Use {recipient} in the file name");
    }
  }

  void release(Path file) {
    files.remove(file);
  }
}
