package flarvo.cli;

import flarvo.report.InputError;
import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** Folders by name or by pattern, for shells that leave patterns as they are. */
final class ShotFolders {

  private ShotFolders() {}

  /**
   * Folders in the order of their names within each pattern.
   *
   * @throws InputError when a pattern matches no folder
   */
  static List<Path> of(List<String> patterns) {
    List<Path> out = new ArrayList<>();
    for (String p : patterns) {
      if (Files.isDirectory(Path.of(p))) {
        out.add(Path.of(p)); // a name, whatever is in it
        continue;
      }
      List<Path> found = new ArrayList<>(List.of(p.startsWith("/") ? Path.of("/") : Path.of("")));
      for (String part : p.replace('\\', '/').split("/")) {
        if (!part.isEmpty()) {
          found = part(found, part);
        }
      }
      found.removeIf(f -> !Files.isDirectory(f) || String.valueOf(f.getFileName()).startsWith("."));
      if (found.isEmpty()) {
        throw InputError.words("--shots " + p + " matches no folder", "Check the path");
      }
      out.addAll(found);
    }
    return out;
  }

  private static List<Path> part(List<Path> from, String part) {
    List<Path> out = new ArrayList<>();
    boolean pattern = part.matches(".*[*?\\[{].*");
    for (Path f : from) {
      if (!pattern) {
        out.add(f.resolve(part));
        continue;
      }
      Path folder = String.valueOf(f).isEmpty() ? Path.of(".") : f;
      try (DirectoryStream<Path> list = Files.newDirectoryStream(folder, part)) {
        list.forEach(out::add);
      } catch (IOException e) {
        out.remove(f); // no folder: it matches nothing
      }
    }
    out.sort(null);
    return out;
  }
}
