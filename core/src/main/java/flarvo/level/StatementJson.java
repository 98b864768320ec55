package flarvo.level;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.SignedAxis;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * Statements as JSON, one object each:
 *
 * <pre>
 *   {"says": "at", "trackers": ["t020"], "place": [0, 0, 0]}
 *   {"says": "along", "trackers": ["t002", "t003"], "axis": "+X"}
 *   {"says": "ground", "trackers": ["t001", "t002", "t003"], "height": 0}
 *   {"says": "wall", "trackers": ["t050", "t051", "t052"], "axis": "+Z"}
 *   {"says": "distance", "trackers": ["t002", "t003"], "metres": 0.6}
 *   {"says": "vertical", "trackers": ["t060", "t061"]}
 * </pre>
 *
 * with {@code "on": false} and {@code "weight"} where they differ from the usual.
 */
public final class StatementJson {

  private static final ObjectMapper MAPPER = new ObjectMapper();

  /** What each kind says, without its trackers. */
  private static final Statement.Visitor<ObjectNode> WRITTEN =
      new Statement.Visitor<>() {
        @Override
        public ObjectNode at(Statement.At s) {
          return says("at").set("place", vector(s.place()));
        }

        @Override
        public ObjectNode along(Statement.Along s) {
          return says("along").put("axis", s.axis().toString());
        }

        @Override
        public ObjectNode onGround(Statement.OnGround s) {
          return says("ground").put("height", s.height());
        }

        @Override
        public ObjectNode onWall(Statement.OnWall s) {
          return says("wall").put("axis", s.facing().toString());
        }

        @Override
        public ObjectNode distance(Statement.Distance s) {
          return says("distance").put("metres", s.metres());
        }

        @Override
        public ObjectNode vertical(Statement.Vertical s) {
          return says("vertical");
        }
      };

  private StatementJson() {}

  /**
   * @param file for errors
   * @param text an array of statements, or an object that holds one as {@code statements}
   */
  public static List<Stated> parse(String file, String text) {
    String advice = "docs/level.md shows what a statement looks like";
    try {
      JsonNode root = MAPPER.readTree(text);
      JsonNode list = root.isArray() ? root : root.path("statements");
      if (!list.isArray() || list.isEmpty()) {
        throw new InputError(file, "", "it holds no statements", advice);
      }
      List<Stated> out = new ArrayList<>();
      for (int i = 0; i < list.size(); i++) {
        try {
          out.add(read(StrictJson.of(list.get(i), "")));
        } catch (IllegalArgumentException e) {
          throw new InputError(file, "statement " + (i + 1), e.getMessage(), advice, e);
        }
      }
      return out;
    } catch (JsonProcessingException e) {
      throw new InputError(file, "", "not valid JSON (" + e.getOriginalMessage() + ")", advice, e);
    }
  }

  private static ObjectNode says(String what) {
    return JsonNodeFactory.instance.objectNode().put("says", what);
  }

  /** As {@link #parse} takes it. */
  public static ObjectNode write(Stated t) {
    ObjectNode o = t.what().accept(WRITTEN);
    ArrayNode names = o.putArray("trackers");
    t.what().trackers().forEach(names::add);
    if (!t.on()) {
      o.put("on", false);
    }
    if (t.weight() != 1) {
      o.put("weight", t.weight());
    }
    return o;
  }

  private static ArrayNode vector(Vec3 v) {
    return JsonNodeFactory.instance.arrayNode().add(v.x()).add(v.y()).add(v.z());
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  public static Stated read(StrictJson n) {
    List<String> t = n.member("trackers").list(StrictJson::text);
    Set<String> names = new LinkedHashSet<>(t);
    String says = n.text("says");
    int expected =
        switch (says) {
          case "at" -> 1;
          case "along", "distance", "vertical" -> 2;
          default -> 0;
        };
    if (expected > 0 && t.size() != expected) {
      throw n.error("a statement '" + says + "' names " + t.size() + " trackers, not " + expected);
    }
    Statement s =
        switch (says) {
          case "at" -> new Statement.At(t.get(0), vector(n.member("place")));
          case "along" -> new Statement.Along(t.get(0), t.get(1), axis(n));
          case "ground" ->
              new Statement.OnGround(
                  names, n.optional("height").map(StrictJson::number).orElse(0.0));
          case "wall" -> new Statement.OnWall(names, axis(n));
          case "distance" -> new Statement.Distance(t.get(0), t.get(1), n.number("metres"));
          case "vertical" -> new Statement.Vertical(t.get(0), t.get(1));
          default -> throw n.error("no statement says '" + says + "'");
        };
    return new Stated(
        s, n.flag("on", true), n.optional("weight").map(StrictJson::number).orElse(1.0));
  }

  private static SignedAxis axis(StrictJson n) {
    return SignedAxis.parse(n.text("axis"));
  }

  private static Vec3 vector(StrictJson n) {
    double[] v = n.numbers(3);
    return new Vec3(v[0], v[1], v[2]);
  }
}
