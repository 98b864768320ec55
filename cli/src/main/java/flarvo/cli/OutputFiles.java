package flarvo.cli;

import flarvo.report.InputError;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import picocli.CommandLine.Option;

/** Output files of a command: nothing that exists is replaced unless that was asked for. */
final class OutputFiles {

  private static final String STANDARD = "-";

  @Option(names = "--overwrite", description = "replace output files that exist")
  private boolean overwrite;

  private final Set<Path> made = new LinkedHashSet<>();

  /** Whether a name stands for standard output. */
  static boolean isStandard(Path file) {
    return file.toString().equals(STANDARD);
  }

  /**
   * Checks, before any work is done, that files may be written.
   *
   * @param inputs are never written over, whatever was asked for
   * @throws InputError when one is an input, or exists and was not to be replaced
   */
  void check(List<Path> inputs, List<Path> files) {
    for (Path file : files) {
      if (isStandard(file)) {
        continue;
      }
      for (Path in : inputs) {
        if (isSame(in, file)) {
          throw new InputError(
              file.toString(), "", "this is one of the inputs", "Write to another file");
        }
      }
      if (!overwrite && Files.exists(file)) {
        throw new InputError(
            file.toString(), "", "the file exists", "Add --overwrite to replace it");
      }
      Path folder = file.toAbsolutePath().getParent();
      if (folder != null && !Files.exists(folder)) {
        made.add(folder);
      }
    }
  }

  private static boolean isSame(Path in, Path file) {
    try {
      return Files.exists(file) && Files.exists(in) && Files.isSameFile(in, file);
    } catch (IOException e) {
      throw new InputError(in.toString(), "", "the file cannot be read", "Check the path", e);
    }
  }

  /** Folders that were missing and are there now; one each. */
  void sayFolders(PrintWriter text) {
    made.stream().filter(Files::isDirectory).forEach(f -> text.println("  made folder " + f));
  }

  List<String> folders() {
    return made.stream().filter(Files::isDirectory).map(Path::toString).toList();
  }
}
