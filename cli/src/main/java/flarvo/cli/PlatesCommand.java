package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateTable;
import flarvo.scene.PlateSequence;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "plates",
    description = "Lists the sequences in folders, and what does not go together.",
    footer = {"", "Example:", "  flarvo plates plates/original plates/undistorted"})
final class PlatesCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "FOLDER", description = "folders of sequences")
  private List<Path> folders;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    List<PlateSequence> all = new ArrayList<>();
    for (Path f : folders) {
      all.addAll(PlateFinder.find(f));
    }
    List<PlateTable.Row> rows = PlateTable.of(all);
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(rows)));
    } else {
      rows.forEach(r -> say(text, r));
    }
    return rows.stream().allMatch(r -> r.notes().isEmpty())
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private static void say(PrintWriter text, PlateTable.Row r) {
    PlateSequence p = r.plates();
    text.printf(
        Locale.ROOT,
        "%-12s %-28s %-12s %-11s %-12s %s%n",
        p.role().word(),
        p.pattern(),
        p.frames(),
        p.size(),
        p.facts().depth() + (p.facts().alpha() ? " alpha" : ""),
        r.relation());
    r.notes().forEach(n -> text.println("  " + n));
  }

  private static ObjectNode document(List<PlateTable.Row> rows) {
    ObjectNode n = Json.object();
    ArrayNode list = n.putArray("plates");
    for (PlateTable.Row r : rows) {
      PlateSequence p = r.plates();
      ObjectNode o = list.addObject();
      o.put("folder", p.folder().toString()).put("pattern", p.pattern());
      o.put("role", p.role().word());
      o.put("firstFrame", p.frames().first()).put("lastFrame", p.frames().last());
      ArrayNode missing = o.putArray("missing");
      p.missing().forEach(missing::add);
      o.put("width", p.size().width()).put("height", p.size().height());
      o.put("pixelAspect", p.size().pixelAspect());
      o.put("bits", p.facts().bits()).put("floating", p.facts().floating());
      o.put("alpha", p.facts().alpha());
      p.facts().rate().ifPresent(f -> o.put("rate", f.toString()));
      p.facts().timecode().ifPresent(t -> o.put("timecode", t));
      o.put("relation", r.relation());
      ArrayNode notes = o.putArray("notes");
      r.notes().forEach(notes::add);
    }
    return n;
  }
}
