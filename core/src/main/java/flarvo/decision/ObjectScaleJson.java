package flarvo.decision;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.motion.ObjectScale;
import flarvo.report.StrictJson;
import flarvo.scene.Vec3;

/** What settles an object's scale, as JSON. */
final class ObjectScaleJson {

  private ObjectScaleJson() {}

  static ObjectNode write(ObjectScale s) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    if (s instanceof ObjectScale.Factor f) {
      return o.put("by", "factor").put("factor", f.k());
    }
    if (s instanceof ObjectScale.Length l) {
      return o.put("by", "length")
          .put("from", l.one())
          .put("to", l.other())
          .put("metres", l.metres());
    }
    if (s instanceof ObjectScale.Away a) {
      return o.put("by", "distance")
          .put("tracker", a.tracker())
          .put("frame", a.frame())
          .put("metres", a.metres());
    }
    if (s instanceof ObjectScale.OnGround g) {
      return o.put("by", "ground").put("tracker", g.tracker()).put("frame", g.frame());
    }
    ObjectScale.At at = (ObjectScale.At) s;
    o.put("by", "place").put("tracker", at.tracker()).put("frame", at.frame());
    o.putArray("metres").add(at.metres().x()).add(at.metres().y()).add(at.metres().z());
    return o;
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  static ObjectScale read(StrictJson n) {
    switch (n.text("by")) {
      case "factor":
        return new ObjectScale.Factor(n.number("factor"));
      case "length":
        return new ObjectScale.Length(n.text("from"), n.text("to"), n.number("metres"));
      case "distance":
        return new ObjectScale.Away(n.text("tracker"), n.integer("frame"), n.number("metres"));
      case "ground":
        return new ObjectScale.OnGround(n.text("tracker"), n.integer("frame"));
      case "place":
        double[] v = n.member("metres").numbers(3);
        return new ObjectScale.At(
            n.text("tracker"), n.integer("frame"), new Vec3(v[0], v[1], v[2]));
      default:
        throw n.error("by is factor, length, distance, ground or place");
    }
  }
}
