package flarvo.decision;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.motion.ObjectScale;
import flarvo.report.StrictJson;
import flarvo.scene.Vec3;

/** What settles an object's scale, as JSON. */
final class ObjectScaleJson {

  private ObjectScaleJson() {}

  private static final ObjectScale.Visitor<ObjectNode> WRITTEN =
      new ObjectScale.Visitor<>() {
        @Override
        public ObjectNode factor(ObjectScale.Factor s) {
          return by("factor").put("factor", s.k());
        }

        @Override
        public ObjectNode length(ObjectScale.Length s) {
          return by("length").put("from", s.one()).put("to", s.other()).put("metres", s.metres());
        }

        @Override
        public ObjectNode away(ObjectScale.Away s) {
          return by("distance")
              .put("tracker", s.tracker())
              .put("frame", s.frame())
              .put("metres", s.metres());
        }

        @Override
        public ObjectNode onGround(ObjectScale.OnGround s) {
          return by("ground").put("tracker", s.tracker()).put("frame", s.frame());
        }

        @Override
        public ObjectNode at(ObjectScale.At s) {
          ObjectNode o = by("place").put("tracker", s.tracker()).put("frame", s.frame());
          o.putArray("metres").add(s.metres().x()).add(s.metres().y()).add(s.metres().z());
          return o;
        }
      };

  private static ObjectNode by(String what) {
    return JsonNodeFactory.instance.objectNode().put("by", what);
  }

  static ObjectNode write(ObjectScale s) {
    return s.accept(WRITTEN);
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
