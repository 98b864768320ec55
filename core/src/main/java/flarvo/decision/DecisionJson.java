package flarvo.decision;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.DatabindException;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.level.SimilarityJson;
import flarvo.report.StrictJson;
import flarvo.scene.Similarity;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * A log as JSON. Each entry is
 *
 * <pre>
 *   {"id": 3, "do": {"decision": "cull", "criterion": {"by": "over", "limitPx": 1.0}},
 *    "input": "…", "outcome": {"outcome": "trackers", "names": ["t013"]},
 *    "level": {…}, "problem": "…", "missed": ["…"]}
 * </pre>
 *
 * with the words of {@link DecisionCode} and, as members, what the decision's record holds. A value
 * that cannot be read is an error with its place.
 */
public final class DecisionJson {

  /** Paths as they are: for identities, in which only a file's name counts. */
  private static final ObjectMapper NAMES =
      DecisionTypes.mapper(p -> p.getFileName().toString(), Path::of, Dialects.shipped());

  private final ObjectMapper mapper;

  /**
   * @param folder what paths are relative to
   * @param dialects by which deliveries name their recipients
   */
  public DecisionJson(Path folder, Dialects dialects) {
    Path from = folder.toAbsolutePath().normalize();
    mapper =
        DecisionTypes.mapper(
            p -> relative(from, p), text -> from.resolve(text).normalize(), dialects);
  }

  /** As project files spell a path: relative where both are on one disk, with forward slashes. */
  public static String relative(Path folder, Path file) {
    Path from = folder.toAbsolutePath().normalize();
    Path to = file.toAbsolutePath().normalize();
    boolean near = from.getRoot() != null && from.getRoot().equals(to.getRoot());
    return (near ? from.relativize(to) : to).toString().replace('\\', '/');
  }

  /** One line that is the same for equal decisions, wherever their files are. */
  static String canonical(Decision d) {
    try {
      return NAMES.writeValueAsString(d);
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a decision can always be written", e);
    }
  }

  /** One decision, as {@link #decision} takes it. */
  public ObjectNode write(Decision d) {
    return mapper.valueToTree(d);
  }

  /**
   * Reads one decision.
   *
   * @throws IllegalArgumentException with the place of what cannot be read
   */
  public Decision decision(StrictJson n) {
    return value(n.node(), Decision.class, n);
  }

  /** One delivery, as {@link #delivery} takes it. */
  public ObjectNode write(Delivery d) {
    return mapper.valueToTree(d);
  }

  /**
   * Reads one delivery.
   *
   * @throws IllegalArgumentException with the place of what cannot be read
   */
  public Delivery delivery(StrictJson n) {
    return value(n.node(), Delivery.class, n);
  }

  /** As {@link #read} takes it. */
  public ObjectNode write(DecisionLog log) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("base", log.base()).put("at", log.at()).put("nextId", log.nextId());
    ArrayNode list = o.putArray("entries");
    log.entries().forEach(e -> list.add(write(e)));
    return o;
  }

  private ObjectNode write(DecisionEntry e) {
    ObjectNode o = JsonNodeFactory.instance.objectNode().put("id", e.id());
    o.set("do", mapper.valueToTree(e.decision()));
    o.put("input", e.input());
    e.outcome().ifPresent(x -> o.set("outcome", outcome(x)));
    e.level().ifPresent(l -> o.set("level", SimilarityJson.write(l)));
    e.problem().ifPresent(p -> o.put("problem", p));
    if (!e.missed().isEmpty()) {
      ArrayNode missed = o.putArray("missed");
      e.missed().forEach(missed::add);
    }
    return o;
  }

  private JsonNode outcome(Outcome x) {
    ObjectNode o = mapper.valueToTree(x);
    // What was read from files is read again, not stored.
    o.remove(List.of("set", "file", "plates"));
    return o;
  }

  /**
   * @throws IllegalArgumentException with the place of what cannot be read
   */
  public DecisionLog read(StrictJson n) {
    List<DecisionEntry> entries = n.list("entries", this::entry);
    long next = n.member("nextId").integer();
    try {
      return new DecisionLog(n.text("base"), entries, n.integer("at"), next);
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }

  private DecisionEntry entry(StrictJson n) {
    StrictJson what = n.member("do");
    Optional<Outcome> outcome = n.optional("outcome").map(this::outcome);
    Optional<Similarity> level = n.optional("level").map(SimilarityJson::read);
    return new DecisionEntry(
        n.integer("id"),
        value(what.node(), Decision.class, what),
        n.text("input"),
        outcome,
        level,
        n.optional("problem").map(StrictJson::text),
        n.list("missed", StrictJson::text));
  }

  private Outcome outcome(StrictJson n) {
    JsonNode copy = n.node().deepCopy();
    if (copy instanceof ObjectNode o) {
      String code = o.path("outcome").asText();
      if (code.equals("alignment") || code.equals("reread")) {
        o.putNull("set");
      } else if (code.equals("undistorted")) {
        o.putNull("plates");
      } else if (code.equals("table")) {
        o.putNull("file");
      }
    }
    return value(copy, Outcome.class, n);
  }

  private <T> T value(JsonNode node, Class<T> type, StrictJson at) {
    try {
      return mapper.treeToValue(node, type);
    } catch (JsonMappingException e) {
      String path =
          e.getPath().stream()
              .map(
                  r -> r.getFieldName() == null ? "[" + r.getIndex() + "]" : "." + r.getFieldName())
              .collect(Collectors.joining());
      throw new IllegalArgumentException(at.place() + path + ": " + reason(e), e);
    } catch (JsonProcessingException e) {
      throw new IllegalArgumentException(at.place() + ": " + e.getOriginalMessage(), e);
    }
  }

  /** Our own words where one of our records refused a value. */
  private static String reason(DatabindException e) {
    Throwable t = e;
    while (t.getCause() != null && t.getCause() != t) {
      t = t.getCause();
    }
    String words = t instanceof JsonMappingException m ? m.getOriginalMessage() : t.getMessage();
    return words == null ? t.toString() : words.lines().findFirst().orElse("");
  }
}
