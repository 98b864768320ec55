package flarvo.tools.dependencies;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The list of libraries is that of what is shipped, and none of them has a known fault. */
class DependencyTest {

  private static final Path DOCS = Path.of("..", "docs");

  private static List<Dependency> listed() throws IOException {
    return Files.readAllLines(DOCS.resolve("dependencies.md")).stream()
        .filter(l -> l.startsWith("| ") && l.contains(":"))
        .map(l -> l.split("\\|"))
        .map(
            c -> {
              String[] id = c[1].strip().split(":");
              return new Dependency(id[0], id[1], c[2].strip(), List.of(c[3].strip()));
            })
        .toList();
  }

  @Test
  void whatIsShippedIsListedInItsVersion() throws IOException {
    TreeSet<String> listed =
        listed().stream()
            .map(d -> d.name() + "-" + d.version())
            .collect(Collectors.toCollection(TreeSet::new));
    for (String module : List.of("core", "cli", "desktop")) {
      try (Stream<Path> jars = Files.list(Path.of("..", module, "target", "lib"))) {
        for (Path jar : jars.toList()) {
          String name = jar.getFileName().toString().replace(".jar", "");
          assertThat(listed)
              .as("run './flarvo dependencies'; it lacks %s", name)
              .anyMatch(l -> name.equals(l) || name.startsWith(l + "-"));
        }
      }
    }
  }

  @Test
  void noLibraryHasAKnownFault() throws IOException {
    assertThat(DependencyMain.found(listed(), KnownFault.read(DOCS.resolve("known-faults.csv"))))
        .isEmpty();
  }

  @Test
  void anOldVersionIsFound() throws IOException {
    Collection<Dependency> all =
        Dependency.all(
            new ObjectMapper()
                .readTree(
                    "{\"components\":[{\"group\":\"ch.qos.logback\",\"name\":\"logback-core\","
                        + "\"version\":\"1.5.9\",\"licenses\":[{\"license\":{\"id\":\"EPL-1.0\"}}]},"
                        + "{\"group\":\"flarvo\",\"name\":\"flarvo-core\",\"version\":\"1\"}]}"));
    assertThat(DependencyMain.page(all))
        .contains("| ch.qos.logback:logback-core | 1.5.9 | EPL-1.0 |");
    assertThat(DependencyMain.found(all, KnownFault.read(DOCS.resolve("known-faults.csv"))))
        .hasSizeGreaterThan(1)
        .first()
        .asString()
        .contains("mended in 1.5.13");
    assertThat(Dependency.compare("2.13.4.2", "2.13.4")).isPositive();
    assertThat(Dependency.compare("7.1.1-1.5.12", "7.1.1-1.5.13")).isNegative();
    assertThat(Dependency.compare("1.10.0", "1.9.9")).isPositive();
  }
}
