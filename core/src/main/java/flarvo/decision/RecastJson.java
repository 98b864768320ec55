package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.motion.Framing;
import flarvo.motion.Held;
import flarvo.motion.Recast;
import flarvo.motion.Retime;
import flarvo.motion.ZoomOn;
import flarvo.report.StrictJson;
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
              n.put("frame", h.frame()).put("into", h.into());
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
    return o;
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
            n.optional("picture").map(RecastJson::framing));
    return out;
  }

  private static Retime retime(StrictJson n) {
    try {
      return new Retime(n.integer("first"), n.member("source").numbers());
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }

  private static Held held(StrictJson n) {
    Optional<String> group = n.optional("group").map(StrictJson::text);
    try {
      return new Held(group, n.integer("frame"), n.text("into"));
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
