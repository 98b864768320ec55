package flarvo.proof;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.Note;
import java.util.List;
import java.util.Optional;

/** A proof for programs: the same keys from the command line, in notes and in reports. */
public final class ProofJson {

  private ProofJson() {}

  /** The whole of it, without what it is of. */
  public static ObjectNode of(ProofReport r) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("holds", r.holds());
    o.put("sentence", r.sentence());
    drift(o, r.drift());
    o.put("limitPx", r.limitPx());
    checks(o.putArray("checks"), r.checks());
    ArrayNode losses = o.putArray("losses");
    for (Note n : r.losses()) {
      losses.add(n.toString());
    }
    return o;
  }

  /** The largest drift and where it is; null where nothing was compared. */
  public static void drift(ObjectNode o, Optional<DriftReport> drift) {
    Optional<DriftReport> d = drift.filter(x -> x.compared() > 0);
    finite(o, "maxDriftPx", d.map(DriftReport::maxPx).orElse(Double.NaN));
    finite(o, "rmsDriftPx", d.map(DriftReport::rmsPx).orElse(Double.NaN));
    o.put("worstFrame", d.map(DriftReport::worstFrame).orElse(null));
    o.put("worstTracker", d.map(DriftReport::worstTracker).orElse(null));
    o.put("compared", d.map(DriftReport::compared).orElse(0L));
  }

  /** Name, whether it holds, and what was expected and found. */
  public static void checks(ArrayNode out, List<Check> checks) {
    for (Check c : checks) {
      out.addObject()
          .put("name", c.name())
          .put("holds", c.holds())
          .put("expected", c.expected())
          .put("found", c.found());
    }
  }

  /** JSON has no infinity; a tracker behind the delivered camera has no drift that is a number. */
  static void finite(ObjectNode o, String key, double value) {
    if (Double.isFinite(value)) {
      o.put(key, value);
    } else {
      o.putNull(key);
    }
  }
}
