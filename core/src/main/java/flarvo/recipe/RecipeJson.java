package flarvo.recipe;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.decision.DecisionJson;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.proof.ProofReport;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import java.nio.file.Path;

/** A recipe as JSON of schema {@code flarvo-recipe}, version 1; docs/recipes.md describes it. */
public final class RecipeJson {

  private static final String SCHEMA = "flarvo-recipe";
  private static final int VERSION = 1;
  private static final ObjectMapper MAPPER =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  private RecipeJson() {}

  /** As {@link #read} takes it. */
  public static String text(Recipe r) {
    DecisionJson json = new DecisionJson(Path.of(""), Dialects.shipped());
    ObjectNode o = MAPPER.createObjectNode();
    o.put("schema", SCHEMA).put("version", VERSION).put("project", r.project());
    o.put("limitPx", r.limitPx());
    ArrayNode decisions = o.putArray("decisions");
    r.decisions().forEach(d -> decisions.add(json.write(d)));
    ArrayNode deliveries = o.putArray("deliveries");
    r.deliveries().forEach(d -> deliveries.add(json.write(d)));
    try {
      return MAPPER.writeValueAsString(o) + "\n";
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a recipe can always be written", e);
    }
  }

  /**
   * Reads a recipe.
   *
   * @throws InputError when it is none, or a value in it cannot be read, with its place
   */
  public static Recipe read(Path file) {
    return parse(file, TextSource.read(file, ReadLimits.USUAL));
  }

  static Recipe parse(Path file, String text) {
    JsonNode root;
    try {
      root = MAPPER.readTree(text);
    } catch (JsonProcessingException e) {
      throw new InputError(
          file.toString(), "", "this is no JSON (" + e.getOriginalMessage() + ")", "", e);
    }
    if (root == null || !SCHEMA.equals(root.path("schema").asText())) {
      throw new InputError(
          file.toString(), "", "this is no recipe", "'flarvo recipe PROJECT' makes one of a shot");
    }
    try {
      StrictJson n = StrictJson.of(root, "");
      if (n.integer("version") != VERSION) {
        throw n.member("version").error("only version " + VERSION + " is known here");
      }
      // Decisions that name files do not belong into a recipe; paths mean nothing here.
      DecisionJson json = new DecisionJson(file.toAbsolutePath().getParent(), Dialects.shipped());
      return new Recipe(
          n.text("project"),
          n.list("decisions", json::decision),
          n.list("deliveries", json::delivery),
          n.optional("limitPx").map(StrictJson::number).orElse(ProofReport.USUAL_LIMIT_PX));
    } catch (IllegalArgumentException e) {
      throw new InputError(
          file.toString(), "", e.getMessage(), "The schema is described in docs/recipes.md", e);
    }
  }
}
