package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.level.StatementJson;
import flarvo.report.StrictJson;
import flarvo.scene.Vec3;
import flarvo.stage.Gauge;
import flarvo.stage.GivenDepth;
import flarvo.stage.Locator;
import flarvo.stage.Staging;
import flarvo.stage.StandIn;
import java.util.List;

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
      s.standIns().forEach(i -> a.add(write(i)));
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
    s.light().ifPresent(v -> o.set("light", vector(v)));
    return o;
  }

  static ObjectNode write(StandIn i) {
    ObjectNode n = JsonNodeFactory.instance.objectNode();
    n.put("name", i.name()).put("group", i.group()).put("corners", i.corners());
    ArrayNode points = n.putArray("points");
    i.points().forEach(p -> points.add(vector(p)));
    ArrayNode faces = n.putArray("faces");
    for (List<Integer> f : i.faces()) {
      ArrayNode face = faces.addArray();
      f.forEach(face::add);
    }
    return n;
  }

  private static ArrayNode vector(Vec3 v) {
    return JsonNodeFactory.instance.arrayNode().add(v.x()).add(v.y()).add(v.z());
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  static Staging read(StrictJson n) {
    return new Staging(
        n.list("statements", StatementJson::read),
        n.list("gauges", StagingJson::gauge),
        n.list("standIns", StagingJson::standIn),
        n.list(
            "locators",
            l ->
                new Locator(
                    l.text("name"),
                    l.text("group"),
                    l.text("tracker"),
                    vector(l.member("place")),
                    l.number("metres"))),
        n.list("depths", StagingJson::depth),
        n.optional("light").map(StagingJson::vector));
  }

  static GivenDepth depth(StrictJson d) {
    return new GivenDepth(d.text("tracker"), d.number("distance"), d.text("how"));
  }

  private static Gauge gauge(StrictJson g) {
    return new Gauge(
        g.text("name"),
        g.member("kind").word(Gauge.Kind.values(), Gauge.Kind::word),
        vector(g.member("foot")),
        g.number("metres"),
        g.optional("turn").map(StrictJson::number).orElse(0.0),
        g.optional("tracker").map(StrictJson::text));
  }

  static StandIn standIn(StrictJson s) {
    List<List<Integer>> faces = s.list("faces", f -> f.list(StrictJson::integer));
    if (faces.isEmpty() || faces.stream().anyMatch(f -> f.size() < 3)) {
      throw s.error("stand-in '" + s.text("name") + "' has no face");
    }
    return new StandIn(
        s.text("name"),
        s.text("group"),
        s.list("points", StagingJson::vector),
        faces,
        s.flag("corners", false));
  }

  private static Vec3 vector(StrictJson n) {
    double[] v = n.numbers(3);
    return new Vec3(v[0], v[1], v[2]);
  }
}
