package flarvo.desktop;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;

/** The demo's project file in a folder of the test's own, so that nothing is written beside it. */
final class DemoProject {

  static final Path MERIDIAN = Path.of("../demo/meridian").toAbsolutePath().normalize();

  private DemoProject() {}

  static Path in(Path folder) throws IOException {
    ObjectMapper mapper = new ObjectMapper();
    ObjectNode root = (ObjectNode) mapper.readTree(MERIDIAN.resolve("project.json").toFile());
    for (var shot : root.get("shots")) {
      ArrayNode files = (ArrayNode) shot.get("files");
      for (int i = 0; i < files.size(); i++) {
        files.set(i, MERIDIAN.resolve(files.get(i).asText()).toString());
      }
      for (var e : shot.path("decisions").path("entries")) {
        if (e.path("do").path("files") instanceof ArrayNode read) {
          for (int i = 0; i < read.size(); i++) {
            read.set(i, MERIDIAN.resolve(read.get(i).asText()).toString());
          }
        }
      }
      for (var p : shot.get("plates")) {
        ((ObjectNode) p).put("path", MERIDIAN.resolve(p.get("path").asText()).toString());
      }
    }
    Path copy = folder.resolve("project.json");
    Files.writeString(copy, mapper.writeValueAsString(root));
    return copy;
  }

  /** The terrace itself, beside which a project file may name it, for tests that move it about. */
  static void copyTerrace(Path folder) throws IOException {
    try (Stream<Path> all = Files.walk(MERIDIAN.resolve("mer_010_terrace"))) {
      for (Path f : (Iterable<Path>) all::iterator) {
        Path to = folder.resolve(MERIDIAN.relativize(f).toString());
        if (Files.isDirectory(f)) {
          Files.createDirectories(to);
        } else {
          Files.copy(f, to);
        }
      }
    }
  }
}
