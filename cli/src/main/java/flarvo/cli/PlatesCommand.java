package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.lens.LensTrack;
import flarvo.lens.LensWork;
import flarvo.lens.ShotLens;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateStrays;
import flarvo.plate.PlateTable;
import flarvo.plate.field.Combing;
import flarvo.plate.field.Interlacing;
import flarvo.plate.match.PlateCheck;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "plates",
    description =
        "Lists the sequences in folders, and what does not go together; with a solve, also whether"
            + " each belongs behind its camera.",
    footer = {
      "",
      "Example:",
      "  flarvo plates plates/original plates/undistorted",
      "  flarvo plates plates/original plates/undistorted --with solve.usda --with lens.json"
    })
final class PlatesCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "FOLDER", description = "folders of sequences")
  private List<Path> folders;

  @Option(
      names = "--with",
      paramLabel = "FILE",
      description =
          "solve, 2D tracks or lens sheet; may be repeated. Trackers are then looked for in the"
              + " plates' pixels")
  private List<Path> with = List.of();

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    List<PlateSequence> all = new ArrayList<>();
    for (Path f : folders) {
      all.addAll(PlateFinder.find(f));
    }
    Map<PlateSequence, List<String>> strays =
        progress.run("looking for strays", p -> PlateStrays.of(all, p));
    List<PlateTable.Row> rows =
        PlateTable.of(all).stream().map(r -> r.noting(strays.get(r.plates()))).toList();
    List<PlateCheck> checks = with.isEmpty() ? List.of() : measured();
    Map<PlateSequence, Interlacing> fields =
        progress.run("looking for fields", p -> Combing.of(all, p));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(rows, checks, fields)));
    } else {
      for (PlateTable.Row r : rows) {
        say(text, r);
        check(checks, r).ifPresent(c -> text.println("  " + c.words()));
        if (isCombed(fields, r)) {
          text.println("  " + fields.get(r.plates()).words() + "; see flarvo deinterlace");
        }
      }
    }
    boolean belong =
        checks.stream().noneMatch(c -> c.verdict() == PlateCheck.Verdict.DOES_NOT_BELONG);
    return belong && rows.stream().allMatch(r -> r.notes().isEmpty() && !isCombed(fields, r))
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private static boolean isCombed(Map<PlateSequence, Interlacing> fields, PlateTable.Row r) {
    Interlacing i = fields.get(r.plates());
    return i != null && i.isCombed();
  }

  private List<PlateCheck> measured() {
    IntakeOptions options = IntakeOptions.NONE;
    ShotIntake intake = new ShotIntake();
    with.forEach(f -> intake.add(f, options, Progress.NONE));
    folders.forEach(f -> intake.add(f, options, Progress.NONE));
    ReceivedSet set = intake.received(options);
    Shot shot = set.shot(String.valueOf(with.get(0).getFileName()), options);
    Optional<LensTrack> lens = ShotLens.of(LensWork.NONE.choice(), set.lenses()).track();
    return progress.run("measuring", p -> PlateCheck.of(shot, lens, p));
  }

  private static Optional<PlateCheck> check(List<PlateCheck> all, PlateTable.Row r) {
    return all.stream().filter(c -> c.plates().equals(r.plates())).findFirst();
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
        r.relation()
            + (r.relation().isEmpty() || p.facts().colour().isEmpty() ? "" : ", ")
            + p.facts().colour());
    r.notes().forEach(n -> text.println("  " + n));
  }

  private static void put(ObjectNode o, PlateCheck c) {
    ObjectNode m = o.putObject("measured");
    m.put("verdict", c.verdict().name().toLowerCase(Locale.ROOT).replace('_', '-'));
    put(m, "fitPx", c.fit().px());
    put(m, "straightPx", c.straight().px());
    c.bent().ifPresent(b -> put(m, "throughLensPx", b.px()));
    c.registration()
        .ifPresent(
            r -> {
              put(m, "fromOriginalPx", r.px());
              m.put("framesOff", r.framesOff());
            });
    m.put("words", c.words());
  }

  private static void put(ObjectNode o, String name, double v) {
    if (Double.isNaN(v)) {
      o.putNull(name);
    } else {
      o.put(name, v);
    }
  }

  private static ObjectNode document(
      List<PlateTable.Row> rows, List<PlateCheck> checks, Map<PlateSequence, Interlacing> fields) {
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
      o.put("colour", p.facts().colour());
      p.facts().rate().ifPresent(f -> o.put("rate", f.toString()));
      p.facts().timecode().ifPresent(t -> o.put("timecode", t));
      o.put("relation", r.relation());
      ArrayNode notes = o.putArray("notes");
      r.notes().forEach(notes::add);
      check(checks, r).ifPresent(c -> put(o, c));
      if (fields.containsKey(p)) {
        DeinterlaceCommand.put(o, fields.get(p));
      }
    }
    return n;
  }
}
