package flarvo.recipe;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.StrictJson;
import java.util.List;
import java.util.OptionalDouble;

/** What became of shots, as JSON for reports and for records of a run. */
public final class ResultJson {

  private ResultJson() {}

  /** As {@link #read} takes it. */
  public static ObjectNode write(ShotResult r) {
    ObjectNode o = JsonNodeFactory.instance.objectNode();
    o.put("shot", r.shot()).put("state", r.state().word()).put("said", r.said());
    o.put("seconds", r.seconds());
    ArrayNode decisions = o.putArray("decisions");
    for (ShotResult.Made m : r.decisions()) {
      ObjectNode n = decisions.addObject().put("title", m.title()).put("applied", m.applied());
      n.set("missed", strings(m.why()));
    }
    ArrayNode deliveries = o.putArray("deliveries");
    r.deliveries().forEach(d -> deliveries.add(write(d)));
    o.set("losses", strings(r.losses()));
    return o;
  }

  static ObjectNode write(ShotResult.Sent d) {
    ObjectNode n = JsonNodeFactory.instance.objectNode();
    n.put("recipient", d.recipient()).put("file", d.file()).put("holds", d.holds());
    n.put("fresh", d.fresh()).put("said", d.said());
    d.driftPx().ifPresent(px -> n.put("driftPx", px));
    return n;
  }

  private static ArrayNode strings(List<String> all) {
    ArrayNode a = JsonNodeFactory.instance.arrayNode();
    all.forEach(a::add);
    return a;
  }

  /**
   * Reads one shot's result.
   *
   * @throws IllegalArgumentException with the place of what cannot be read
   */
  public static ShotResult read(StrictJson n) {
    return new ShotResult(
        n.text("shot"),
        n.member("state").word(ShotResult.State.values(), ShotResult.State::word),
        n.text("said"),
        n.list(
            "decisions",
            m ->
                new ShotResult.Made(
                    m.text("title"), m.flag("applied", false), m.list("missed", StrictJson::text))),
        n.list("deliveries", ResultJson::sent),
        n.list("losses", StrictJson::text),
        n.number("seconds"));
  }

  static ShotResult.Sent sent(StrictJson n) {
    return new ShotResult.Sent(
        n.text("recipient"),
        n.text("file"),
        n.flag("holds", false),
        n.flag("fresh", false),
        n.text("said"),
        n.optional("driftPx")
            .map(x -> OptionalDouble.of(x.number()))
            .orElse(OptionalDouble.empty()));
  }
}
