package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TableGuess;
import flarvo.format.table.TableMapping;
import flarvo.format.table.TableMappingJson;
import flarvo.report.InputError;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Mappings of tables that the user saved by name, each with what its tables have in common, so that
 * the next table of that kind is understood at once. The newest comes first.
 */
public final class MappingShelf {

  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private record Kept(String signature, TableMapping mapping) {}

  private final Path file;

  public MappingShelf(Path userFolder) {
    this.file = userFolder.resolve("mappings.json");
  }

  /** Saved mappings by name. */
  public List<TableMapping> list() {
    return kept().stream().map(Kept::mapping).toList();
  }

  /** A saved mapping for a table that looks as the one it was made for. */
  public Optional<TableMapping> suggest(String text) {
    return kept().stream()
        .filter(k -> TableGuess.signature(text, k.mapping.layout()).equals(k.signature))
        .map(Kept::mapping)
        .findFirst();
  }

  /** Keeps a mapping under its name, in the place of one with the same name. */
  public void save(TableMapping mapping, String text) {
    if (mapping.name().isBlank()) {
      throw InputError.words("the mapping has no name", "Type one");
    }
    List<Kept> all = new ArrayList<>(kept());
    all.removeIf(k -> k.mapping.name().equals(mapping.name()));
    all.add(0, new Kept(TableGuess.signature(text, mapping.layout()), mapping));
    write(all);
  }

  /** Deletes a saved mapping. */
  public void remove(String name) {
    List<Kept> all = new ArrayList<>(kept());
    all.removeIf(k -> k.mapping.name().equals(name));
    write(all);
  }

  private void write(List<Kept> all) {
    ArrayNode list = MAPPER.createArrayNode();
    for (Kept k : all) {
      list.addObject().put("tables", k.signature).set("mapping", TableMappingJson.write(k.mapping));
    }
    try {
      byte[] text = (MAPPER.writeValueAsString(list) + "\n").getBytes(StandardCharsets.UTF_8);
      AtomicFile.write(file, out -> out.write(text));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can always be written", e);
    }
  }

  private List<Kept> kept() {
    List<Kept> out = new ArrayList<>();
    if (!Files.isRegularFile(file)) {
      return out;
    }
    try {
      for (JsonNode n : MAPPER.readTree(TextSource.read(file, ReadLimits.USUAL))) {
        out.add(new Kept(n.path("tables").asText(), TableMappingJson.read(n.path("mapping"))));
      }
    } catch (JsonProcessingException | InputError | IllegalArgumentException e) {
      return out; // conveniences: what cannot be read is not there
    }
    return out;
  }
}
