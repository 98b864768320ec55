package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.DialectJson;
import flarvo.convention.Dialects;
import flarvo.project.StudioDialects;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Spec;

@Command(
    name = "dialects",
    description = "Lists the dialects with their conventions.",
    footer = {"", "Example:", "  flarvo dialects --json"})
final class DialectsCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    PrintWriter out = spec.commandLine().getOut();
    Dialects dialects = StudioDialects.known();
    if (json.asked()) {
      ArrayNode list = Json.array();
      dialects.all().forEach(d -> list.add(node(d)));
      out.println(Json.text(list));
      return ExitCode.HOLDS;
    }
    for (Dialect d : dialects.all()) {
      out.printf(
          Locale.ROOT,
          "%-20s up %s  %-5s  %-8s first %-6s %s%n",
          d.name(),
          d.world().up(),
          d.handedness().word(),
          d.pixels().isPresent() ? "pixels" : d.unit(),
          d.frames().firstFrame().isPresent() ? d.frames().firstFrame().getAsInt() : "plate",
          d.description());
    }
    dialects.unreadable().values().forEach(e -> out.println("left out: " + e.getMessage()));
    return ExitCode.HOLDS;
  }

  /** The stable keys first, then the whole dialect as its file would spell it. */
  private static ObjectNode node(Dialect d) {
    ObjectNode o = Json.object();
    o.put("name", d.name());
    o.put("up", d.world().up().toString());
    o.put("handedness", d.handedness().word());
    o.put("metresPerUnit", d.unit().metresPerUnit());
    if (d.frames().firstFrame().isPresent()) {
      o.put("firstFrame", d.frames().firstFrame().getAsInt());
    } else {
      o.putNull("firstFrame");
    }
    o.set("dialect", DialectJson.write(d));
    return o;
  }
}
