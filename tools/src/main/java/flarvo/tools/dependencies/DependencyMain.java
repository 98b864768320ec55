package flarvo.tools.dependencies;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.List;

/**
 * Writes {@code docs/dependencies.md} from a CycloneDX document. Exit code 1 where a library has a
 * known fault.
 */
public final class DependencyMain {

  private DependencyMain() {}

  /** Arguments: the document, the list of known faults, the page to write. */
  public static void main(String[] args) throws IOException {
    Collection<Dependency> all =
        Dependency.all(new ObjectMapper().readTree(Path.of(args[0]).toFile()));
    List<KnownFault> faults = KnownFault.read(Path.of(args[1]));
    Files.writeString(Path.of(args[2]), page(all));
    List<String> found = found(all, faults);
    found.forEach(System.out::println);
    System.out.println(
        all.size() + " libraries, " + (found.isEmpty() ? "no" : found.size()) + " known faults");
    System.exit(found.isEmpty() ? 0 : 1);
  }

  /** One sentence for each library with a known fault. */
  static List<String> found(Collection<Dependency> all, List<KnownFault> faults) {
    return all.stream()
        .flatMap(
            d ->
                faults.stream()
                    .filter(f -> f.isIn(d))
                    .map(
                        f ->
                            d.name()
                                + " "
                                + d.version()
                                + ": "
                                + f.what()
                                + "; mended in "
                                + f.below()))
        .toList();
  }

  /** The page as Markdown. */
  static String page(Collection<Dependency> all) {
    StringBuilder s = new StringBuilder("# Libraries\n\n");
    s.append("What the program ships with, written by `./flarvo dependencies`. Where several\n");
    s.append("licences stand, any of them may be chosen. Known faults are checked against\n");
    s.append(
        "[known-faults.csv](known-faults.csv), without a network. That list is kept by hand\n");
    s.append(
        "and was not made from a database of faults: read the libraries' own notices before a\n");
    s.append("release and add what is new.\n\n");
    s.append("| library | version | licence |\n|---|---|---|\n");
    for (Dependency d : all) {
      s.append("| ").append(d.group()).append(':').append(d.name()).append(" | ");
      s.append(d.version()).append(" | ").append(String.join(" or ", d.licences()));
      s.append(" |\n");
    }
    return s.toString();
  }
}
