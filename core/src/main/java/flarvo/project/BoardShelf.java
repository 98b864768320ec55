package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionJson;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.PathPattern;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * Boards of deliveries that the user saved by name, for any shot: one file of schema {@code
 * flarvo-boards}. The newest comes first.
 */
public final class BoardShelf {

  private static final String SCHEMA = "flarvo-boards";
  private static final int VERSION = 1;
  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  /** A saved board. */
  public record Board(String name, List<Delivery> deliveries) {
    public Board {
      deliveries = List.copyOf(deliveries);
    }
  }

  private final Path file;
  private final DecisionJson json;

  public BoardShelf(Path userFolder, Dialects dialects) {
    this.file = userFolder.resolve("boards.json");
    this.json = new DecisionJson(userFolder, dialects);
  }

  /**
   * Saved boards.
   *
   * @throws InputError when the file is there and cannot be read: nothing is saved over it then
   */
  public List<Board> list() {
    if (!Files.isRegularFile(file)) {
      return List.of();
    }
    try {
      JsonNode root = MAPPER.readTree(TextSource.read(file, ReadLimits.USUAL));
      if (root == null || !SCHEMA.equals(root.path("schema").asText())) {
        throw new InputError(file.toString(), "schema", "not a list of boards", "Remove the file");
      }
      StrictJson n = StrictJson.of(root, "");
      if (n.integer("version") != VERSION) {
        throw n.member("version").error("only version " + VERSION + " is supported");
      }
      return n.list("boards", b -> new Board(b.text("name"), b.list("deliveries", json::delivery)));
    } catch (JsonProcessingException | IllegalArgumentException e) {
      throw new InputError(file.toString(), "", e.getMessage(), "Correct or remove the file", e);
    }
  }

  /**
   * Saves a board under a name, in the place of one with the same name. File names become patterns,
   * so that they fit other shots.
   *
   * @param shot that the board is of
   * @throws InputError when it has no name or no delivery, or the disk refuses
   */
  public void save(String name, List<Delivery> deliveries, String shot) {
    if (name.isBlank()) {
      throw InputError.words("the board has no name", "Type one");
    }
    if (deliveries.isEmpty()) {
      throw InputError.words("the board has no delivery", "Add one first");
    }
    List<Board> all = new ArrayList<>(list());
    all.removeIf(b -> b.name.equals(name.strip()));
    all.add(0, new Board(name.strip(), general(deliveries, shot)));
    write(all);
  }

  /** Deletes a saved board. */
  public void remove(String name) {
    List<Board> all = new ArrayList<>(list());
    all.removeIf(b -> b.name.equals(name));
    write(all);
  }

  /** The deliveries of one shot as they are for another: file names that follow the shot. */
  public static List<Delivery> general(List<Delivery> deliveries, String shot) {
    return deliveries.stream()
        .map(d -> d.fileName().contains("{shot}") ? d : PathPattern.generalised(d, shot))
        .toList();
  }

  private void write(List<Board> all) {
    ObjectNode root = MAPPER.createObjectNode().put("schema", SCHEMA).put("version", VERSION);
    ArrayNode boards = root.putArray("boards");
    for (Board b : all) {
      ArrayNode list = boards.addObject().put("name", b.name).putArray("deliveries");
      b.deliveries.forEach(d -> list.add(json.write(d)));
    }
    try {
      byte[] text = (MAPPER.writeValueAsString(root) + "\n").getBytes(StandardCharsets.UTF_8);
      AtomicFile.write(file, out -> out.write(text));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can always be written", e);
    }
  }
}
