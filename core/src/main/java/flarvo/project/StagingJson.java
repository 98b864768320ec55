package flarvo.project;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.level.StatementJson;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Locator;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;

/** What was decided at Level, as the project file keeps it. */
final class StagingJson {

  private StagingJson() {}

  static ObjectNode write(Staging s) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    if (!s.statements().isEmpty()) {
      ArrayNode a = o.putArray("statements");
      s.statements().forEach(t -> a.add(StatementJson.write(t)));
    }
    if (!s.gauges().isEmpty()) {
      ArrayNode a = o.putArray("gauges");
      for (Gauge g : s.gauges()) {
        ObjectNode n = a.addObject().put("name", g.name()).put("kind", g.kind().word());
        n.set("foot", vector(g.foot()));
        n.put("metres", g.metres()).put("turn", g.turn());
        g.tracker().ifPresent(t -> n.put("tracker", t));
      }
    }
    if (!s.standIns().isEmpty()) {
      ArrayNode a = o.putArray("standIns");
      for (StandIn i : s.standIns()) {
        ObjectNode n = a.addObject().put("name", i.name()).put("group", i.group());
        n.put("corners", i.corners());
        ArrayNode points = n.putArray("points");
        i.points().forEach(p -> points.add(vector(p)));
        ArrayNode faces = n.putArray("faces");
        for (List<Integer> f : i.faces()) {
          ArrayNode face = faces.addArray();
          f.forEach(face::add);
        }
      }
    }
    if (!s.locators().isEmpty()) {
      ArrayNode a = o.putArray("locators");
      for (Locator l : s.locators()) {
        ObjectNode n = a.addObject().put("name", l.name()).put("group", l.group());
        n.put("tracker", l.tracker()).put("metres", l.metres()).set("place", vector(l.place()));
      }
    }
    if (!s.depths().isEmpty()) {
      ArrayNode a = o.putArray("depths");
      for (GivenDepth d : s.depths()) {
        a.addObject().put("tracker", d.tracker()).put("distance", d.distance()).put("how", d.how());
      }
    }
    return o;
  }

  private static ArrayNode vector(Vec3 v) {
    return JsonNodeFactory.instance.arrayNode().add(v.x()).add(v.y()).add(v.z());
  }

  /**
   * @throws IllegalArgumentException with a sentence for the user when it is none
   */
  static Staging read(JsonNode n) {
    if (n.isMissingNode()) {
      return Staging.NONE;
    }
    return new Staging(
        list(n.path("statements"), StatementJson::read),
        list(n.path("gauges"), StagingJson::gauge),
        list(n.path("standIns"), StagingJson::standIn),
        list(
            n.path("locators"),
            l ->
                new Locator(
                    l.path("name").asText(),
                    l.path("group").asText(),
                    l.path("tracker").asText(),
                    vector(l.path("place")),
                    l.path("metres").asDouble(Double.NaN))),
        list(
            n.path("depths"),
            d ->
                new GivenDepth(
                    d.path("tracker").asText(),
                    d.path("distance").asDouble(Double.NaN),
                    d.path("how").asText())));
  }

  private static Gauge gauge(JsonNode g) {
    Gauge.Kind kind =
        Arrays.stream(Gauge.Kind.values())
            .filter(k -> k.word().equals(g.path("kind").asText()))
            .findFirst()
            .orElseThrow(
                () -> new IllegalArgumentException("no gauge '" + g.path("kind").asText() + "'"));
    return new Gauge(
        g.path("name").asText(),
        kind,
        vector(g.path("foot")),
        g.path("metres").asDouble(Double.NaN),
        g.path("turn").asDouble(0),
        g.path("tracker").isTextual() ? Optional.of(g.path("tracker").asText()) : Optional.empty());
  }

  private static StandIn standIn(JsonNode s) {
    List<List<Integer>> faces =
        list(s.path("faces"), f -> list(f, i -> i.canConvertToInt() ? i.asInt() : -1));
    if (faces.isEmpty() || faces.stream().anyMatch(f -> f.size() < 3)) {
      throw new IllegalArgumentException("stand-in '" + s.path("name").asText() + "' has no face");
    }
    return new StandIn(
        s.path("name").asText(),
        s.path("group").asText(),
        list(s.path("points"), StagingJson::vector),
        faces,
        s.path("corners").asBoolean(false));
  }

  private static Vec3 vector(JsonNode a) {
    if (a.size() != 3 || !a.path(0).isNumber() || !a.path(1).isNumber() || !a.path(2).isNumber()) {
      throw new IllegalArgumentException("a place is three numbers, not " + a);
    }
    return new Vec3(a.path(0).asDouble(), a.path(1).asDouble(), a.path(2).asDouble());
  }

  private static <T> List<T> list(JsonNode array, Function<JsonNode, T> each) {
    List<T> out = new ArrayList<>();
    array.forEach(n -> out.add(each.apply(n)));
    return out;
  }
}
