package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.level.SimilarityJson;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.Parent;
import flarvo.motion.Parents;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.motion.Stand;
import flarvo.motion.ZoomOn;
import flarvo.report.StrictJson;
import flarvo.scene.Vec3;
import java.util.Optional;

/** How motion, film and time are recast, as JSON; what stays as it is, is left out. */
final class RecastJson {

  private RecastJson() {}

  static ObjectNode write(Recast r) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    r.retime()
        .ifPresent(
            t -> {
              ObjectNode n = o.putObject("retime").put("first", t.frames().first());
              ArrayNode all = n.putArray("source");
              for (double d : t.sources()) {
                all.add(d);
              }
            });
    r.held()
        .ifPresent(
            h -> {
              ObjectNode n = o.putObject("hold");
              h.group().ifPresent(g -> n.put("group", g));
              stand(n, h.stand());
              n.put("into", h.into());
            });
    if (r.zoom() != ZoomOn.AS_SHOT) {
      o.put("zoom", r.zoom().word());
    }
    r.framing()
        .ifPresent(
            f -> {
              ObjectNode n = o.putObject("picture");
              n.putArray("part").add(f.x()).add(f.y()).add(f.width()).add(f.height());
              n.putArray("size").add(f.outWidth()).add(f.outHeight());
            });
    if (!r.parents().equals(Parents.NONE)) {
      parents(o.putObject("parents"), r.parents());
    }
    return o;
  }

  private static void parents(ObjectNode o, Parents p) {
    if (p.baked()) {
      o.put("baked", true);
    }
    p.cameraIn().ifPresent(g -> o.put("cameraIn", g));
    p.under()
        .ifPresent(
            u ->
                o.putObject("under")
                    .put("name", u.name())
                    .set("place", SimilarityJson.write(u.place())));
  }

  private static Parents parents(StrictJson n) {
    return new Parents(
        n.flag("baked", false),
        n.optional("cameraIn").map(StrictJson::text),
        n.optional("under")
            .map(
                u -> {
                  String name = u.text("name");
                  if (name.isBlank()) {
                    throw u.error("a parent needs a name");
                  }
                  return new Parent(name, SimilarityJson.read(u.member("place")));
                }));
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  static Recast read(StrictJson n) {
    Recast out =
        new Recast(
            n.optional("retime").map(RecastJson::retime),
            n.optional("hold").map(RecastJson::held),
            n.optional("zoom")
                .map(z -> z.word(ZoomOn.values(), ZoomOn::word))
                .orElse(ZoomOn.AS_SHOT),
            n.optional("picture").map(RecastJson::framing),
            n.optional("parents").map(RecastJson::parents).orElse(Parents.NONE));
    return out;
  }

  private static Retime retime(StrictJson n) {
    try {
      return new Retime(n.integer("first"), n.member("source").numbers());
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }

  private static void stand(ObjectNode n, Stand stand) {
    stand.accept(
        new Stand.Visitor<ObjectNode>() {
          @Override
          public ObjectNode frame(Stand.Frame s) {
            return n.put("frame", s.frame());
          }

          @Override
          public ObjectNode as(Stand.As s) {
            return n.put("camera", s.camera());
          }

          @Override
          public ObjectNode at(Stand.At s) {
            Vec3 m = s.metres();
            n.putArray("at").add(m.x()).add(m.y()).add(m.z());
            n.putArray("panTiltRoll").add(s.panDegrees()).add(s.tiltDegrees()).add(s.rollDegrees());
            return n;
          }
        });
  }

  private static Stand stand(StrictJson n) {
    if (n.has("camera")) {
      return new Stand.As(n.text("camera"));
    }
    if (n.has("at")) {
      double[] p = n.member("at").numbers(3);
      double[] a = n.member("panTiltRoll").numbers(3);
      return new Stand.At(new Vec3(p[0], p[1], p[2]), a[0], a[1], a[2]);
    }
    return new Stand.Frame(n.integer("frame"));
  }

  private static Held held(StrictJson n) {
    Optional<String> group = n.optional("group").map(StrictJson::text);
    try {
      return new Held(group, stand(n), n.text("into"));
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }

  private static Framing framing(StrictJson n) {
    double[] part = n.member("part").numbers(4);
    double[] size = n.member("size").numbers(2);
    if (size[0] != Math.rint(size[0]) || size[1] != Math.rint(size[1])) {
      throw n.error("a size is whole pixels");
    }
    try {
      return new Framing(part[0], part[1], part[2], part[3], (int) size[0], (int) size[1]);
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }
}
