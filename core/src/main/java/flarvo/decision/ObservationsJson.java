package flarvo.decision;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.StrictJson;
import flarvo.scene.Observations;

/** 2D tracks as JSON: for each tracker frame, x, y, frame, x, y and so on, in canonical pixels. */
final class ObservationsJson {

  private static final int A_ROW = 3;

  private ObservationsJson() {}

  static ObjectNode write(Observations o) {
    ObjectNode out = JsonNodeFactory.instance.objectNode();
    for (String name : o.names()) {
      ArrayNode rows = out.putArray(name);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        rows.add(o.frame(row)).add(o.x(row)).add(o.y(row));
      }
    }
    return out;
  }

  /**
   * @throws IllegalArgumentException with its place when it is none
   */
  static Observations read(StrictJson n) {
    Observations.Builder b = new Observations.Builder();
    n.members(
            m -> {
              double[] v = m.numbers();
              if (v.length % A_ROW != 0) {
                throw m.error("frame, x and y of each row expected");
              }
              return v;
            })
        .forEach(
            (name, v) -> {
              for (int i = 0; i < v.length; i += A_ROW) {
                if (v[i] != Math.rint(v[i]) || Math.abs(v[i]) > Integer.MAX_VALUE) {
                  throw n.error("frames are whole numbers, not " + v[i]);
                }
                b.add(name, (int) v[i], v[i + 1], v[i + 2]);
              }
            });
    return b.build();
  }
}
