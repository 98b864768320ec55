package flarvo.level;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.StrictJson;
import flarvo.scene.Rotation;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;

/**
 * A similarity as JSON: {@code {"scale": 1, "rotation": [w, x, y, z], "translation": [x, y, z]}}.
 */
public final class SimilarityJson {

  private SimilarityJson() {}

  /** As {@link #read} takes it. */
  public static ObjectNode write(Similarity s) {
    ObjectNode o = JsonNodeFactory.instance.objectNode().put("scale", s.scale());
    Rotation r = s.rotation();
    o.putArray("rotation").add(r.w()).add(r.x()).add(r.y()).add(r.z());
    Vec3 t = s.translation();
    o.putArray("translation").add(t.x()).add(t.y()).add(t.z());
    return o;
  }

  /**
   * @throws IllegalArgumentException with its place when it is none; a rotation that is a unit
   *     quaternion but for rounding is taken as written
   */
  public static Similarity read(StrictJson n) {
    double[] r = n.member("rotation").numbers(4);
    double[] t = n.member("translation").numbers(3);
    double length = Math.sqrt(r[0] * r[0] + r[1] * r[1] + r[2] * r[2] + r[3] * r[3]);
    boolean unit = Math.abs(length - 1) < 1e-12;
    try {
      return new Similarity(
          n.number("scale"),
          unit ? new Rotation(r[0], r[1], r[2], r[3]) : Rotation.normalized(r[0], r[1], r[2], r[3]),
          new Vec3(t[0], t[1], t[2]));
    } catch (IllegalArgumentException e) {
      throw n.error(e.getMessage());
    }
  }
}
