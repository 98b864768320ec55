package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.format.table.TrackTable;
import flarvo.lens.LensSheet;
import flarvo.lens.ThroughLens;
import flarvo.scene.Observations;
import flarvo.scene.PlateSequence;
import flarvo.trace.MaskJson;
import flarvo.trace.MaskShape;
import flarvo.trace.Mover;
import flarvo.trace.MoverSearch;
import flarvo.trace.PlaneFollow;
import flarvo.trace.TraceNote;
import flarvo.trace.Traced;
import flarvo.trace.Tracer;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "trace",
    description = "Finds features in plates and follows them: 2D tracks from pictures alone.",
    footer = {
      "",
      "Example:",
      "  flarvo trace plates/shot.####.exr --lens lens.json --out tracks.csv"
    })
final class TraceCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private TraceOptionsMixin trace;

  @Option(
      names = "--lens",
      paramLabel = "LENS.json",
      description = "lens of original plates; the tracks are undistorted then")
  private Path lens;

  @Option(names = "--out", required = true, paramLabel = "CSV", description = "2D tracks to write")
  private Path out;

  @Option(
      names = "--planes",
      paramLabel = "JSON",
      description = "what is flat: shapes of four corners, followed as a whole. See docs/trace.md")
  private Path planes;

  @Mixin private MoverOptions movers;

  @Mixin private OutputFiles files;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    PlateSequence plates = trace.sequence();
    files.check(
        lens == null ? List.of() : List.of(lens),
        movers.file() == null ? List.of(out) : List.of(out, movers.file()));
    Traced traced =
        progress.run(
            "following",
            p ->
                Tracer.of(
                    trace.frames(plates),
                    TraceOptionsMixin.brightness(plates),
                    trace.options(),
                    trace.mask(plates),
                    p));
    Traced flat = planes(plates);
    Observations o = straight(traced.observations(), plates);
    List<Mover> found =
        movers.file() == null
            ? List.of()
            : progress.run(
                "what moves",
                p -> MoverSearch.of(o, plates.picture(), OptionalDouble.empty(), p).movers());
    Observations all =
        flat.observations().isEmpty()
            ? o
            : o.toBuilder().add(straight(flat.observations(), plates).toBuilder()).build();
    AtomicFile.write(out, s -> s.write(TrackTable.text(all).getBytes(StandardCharsets.UTF_8)));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(traced, flat, all)));
    } else {
      text.printf(
          Locale.ROOT,
          "wrote %s: %d features over %.0f frames each, in pixels of the %s plates%n",
          out,
          all.names().size(),
          (double) all.size() / all.names().size(),
          lens == null ? "same" : "undistorted");
      files.sayFolders(text);
      flat.notes().forEach(n -> text.println("  " + n.text()));
      traced.notes().forEach(n -> text.println("  " + n.text()));
    }
    if (movers.file() != null) {
      movers.write(
          found,
          traced.observations(),
          trace.options(),
          json.asked() ? spec.commandLine().getErr() : text);
    }
    return ExitCode.HOLDS;
  }

  /** What is flat, in pixels of the plates. */
  private Traced planes(PlateSequence s) {
    if (planes == null) {
      return new Traced(Observations.NONE, List.of());
    }
    Observations.Builder b = new Observations.Builder();
    List<TraceNote> notes = new ArrayList<>();
    for (MaskShape q :
        MaskJson.parse(planes.toString(), TextSource.read(planes, ReadLimits.USUAL))) {
      Traced t =
          progress.run(
              "following " + q.name(),
              p -> PlaneFollow.of(q, trace.frames(s), TraceOptionsMixin.brightness(s), p));
      b.add(t.observations().toBuilder());
      notes.addAll(t.notes());
    }
    return new Traced(b.build(), notes);
  }

  private Observations straight(Observations seen, PlateSequence s) {
    return lens == null
        ? seen
        : ThroughLens.undistorted(seen, LensSheet.read(lens).track(), s.picture());
  }

  private ObjectNode document(Traced t, Traced flat, Observations o) {
    ObjectNode n = Json.object();
    n.put("out", out.toString()).put("features", o.names().size());
    n.put("observations", o.size()).put("meanFrames", (double) o.size() / o.names().size());
    n.put("undistorted", lens != null);
    ArrayNode notes = notes(t);
    notes.addAll(notes(flat));
    n.set("notes", notes);
    return n;
  }

  /** What was noticed in the plates. */
  static ArrayNode notes(Traced t) {
    ArrayNode out = Json.object().putArray("notes");
    for (TraceNote x : t.notes()) {
      out.addObject().put("kind", x.kind().code()).put("frame", x.frame()).put("text", x.text());
    }
    return out;
  }
}
