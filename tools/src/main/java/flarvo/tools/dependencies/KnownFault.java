package flarvo.tools.dependencies;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * A published fault of a library, as {@code docs/known-faults.csv} keeps them.
 *
 * @param below the first version without it
 */
record KnownFault(String group, String name, String below, String what) {

  /** Rows of group, name, version, description after one row of titles. */
  static List<KnownFault> read(Path file) throws IOException {
    List<KnownFault> out = new ArrayList<>();
    for (String line : Files.readAllLines(file).stream().skip(1).toList()) {
      String[] cells = line.split(",", 4);
      if (cells.length == 4) {
        out.add(new KnownFault(cells[0], cells[1], cells[2], cells[3]));
      } else if (!line.isBlank()) {
        throw new IOException(file + ": not four cells: " + line);
      }
    }
    return out;
  }

  boolean isIn(Dependency d) {
    return d.group().equals(group)
        && d.name().equals(name)
        && Dependency.compare(d.version(), below) < 0;
  }
}
