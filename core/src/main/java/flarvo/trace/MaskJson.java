package flarvo.trace;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/**
 * Drawn shapes as JSON, one object each; corners in canonical pixels of the plate:
 *
 * <pre>
 *   {"name": "cart", "keys": [{"frame": 1, "corners": [[310, 200], [480, 200], [480, 420]]}]}
 * </pre>
 */
public final class MaskJson {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final String ADVICE = "docs/trace.md shows what a mask looks like";

  private MaskJson() {}

  /**
   * @param file for errors
   * @param text an array of shapes
   * @throws InputError with the shape's place when it is none
   */
  public static List<MaskShape> parse(String file, String text) {
    try {
      JsonNode root = MAPPER.readTree(text);
      if (!root.isArray() || root.isEmpty()) {
        throw new InputError(file, "", "it holds no shapes", ADVICE);
      }
      List<MaskShape> out = new ArrayList<>();
      for (int i = 0; i < root.size(); i++) {
        try {
          out.add(read(StrictJson.of(root.get(i), "")));
        } catch (IllegalArgumentException e) {
          throw new InputError(file, "shape " + (i + 1), e.getMessage(), ADVICE, e);
        }
      }
      return out;
    } catch (JsonProcessingException e) {
      throw new InputError(file, "", "not valid JSON (" + e.getOriginalMessage() + ")", ADVICE, e);
    }
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  public static MaskShape read(StrictJson n) {
    TreeMap<Integer, double[]> keys = new TreeMap<>();
    n.list(
        "keys",
        k -> {
          List<double[]> corners = k.list("corners", c -> c.numbers(2));
          double[] flat = new double[2 * corners.size()];
          for (int i = 0; i < corners.size(); i++) {
            flat[2 * i] = corners.get(i)[0];
            flat[2 * i + 1] = corners.get(i)[1];
          }
          int frame = k.integer("frame");
          if (keys.put(frame, flat) != null) {
            throw k.error("frame " + frame + " has two keys");
          }
          return frame;
        });
    return new MaskShape(n.text("name"), keys);
  }

  /** As {@link #read} takes it. */
  public static ObjectNode write(MaskShape m) {
    ObjectNode o = JsonNodeFactory.instance.objectNode().put("name", m.name());
    ArrayNode keys = o.putArray("keys");
    m.keys()
        .forEach(
            (frame, p) -> {
              ArrayNode corners = keys.addObject().put("frame", frame).putArray("corners");
              for (int i = 0; i < p.length; i += 2) {
                corners.addArray().add(p[i]).add(p[i + 1]);
              }
            });
    return o;
  }
}
