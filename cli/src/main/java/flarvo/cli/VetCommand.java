package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.project.StudioDialects;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.vet.CullAndRefine;
import flarvo.vet.Culling;
import flarvo.vet.Measures;
import flarvo.vet.Refinement;
import flarvo.vet.Reprojection;
import flarvo.vet.SolveKind;
import flarvo.vet.TrackerMeasure;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "vet",
    description = "Measures a solve against its 2D tracks; culls; refines; repeats to a target.",
    footer = {
      "",
      "Example:",
      "  flarvo vet solve.fbx --tracks tracks.csv --target 0.35 --out vetted.usda"
    })
final class VetCommand implements Callable<Integer> {

  private static final int WORST = 10;

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "FILE", description = "the solve, in one file or more")
  private List<Path> in;

  @Option(names = "--tracks", paramLabel = "CSV", description = "2D tracks of the solve")
  private Path tracks;

  @Mixin private SourceOptions source;

  @Mixin private TakenRulings taken;

  @Option(names = "--limit", paramLabel = "PX", description = "cull trackers with an RMS over it")
  private Double limit;

  @Option(names = "--refine", description = "adjust camera and points to the tracks")
  private boolean refine;

  @Option(names = "--target", paramLabel = "PX", description = "cull and refine to this RMS")
  private Double target;

  @Option(
      names = "--fewest",
      paramLabel = "N",
      defaultValue = "8",
      description = "live trackers to keep per frame (default ${DEFAULT-VALUE})")
  private int fewest;

  @Mixin private RefineOptions refining;

  @Mixin private SolveOutput output;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    positive("--limit", limit);
    positive("--target", target);
    Dialects dialects = StudioDialects.known();
    List<Path> all = new ArrayList<>(in);
    if (tracks != null) {
      all.add(tracks);
    }
    output.check(all);
    Shot came =
        progress.run("reading", p -> taken.shot(source.intake(), all, source.options(dialects), p));
    Measures before =
        progress
            .run("measuring", p -> Measures.of(came, Set.of(), p))
            .orElseThrow(
                () ->
                    new InputError(
                        in.get(0).toString(),
                        "",
                        "no 2D track has the name of a solved tracker on the camera's frames",
                        "Give them with --tracks, and check their frame numbers and names"));
    Optional<SolveKind> kind =
        progress.run("detecting camera type", p -> SolveKind.of(came, Set.of(), p));
    Vetting vetting = vetted(came, before, kind);
    Shot now = vetting.applied(came);
    Measures after = progress.run("measuring", p -> Measures.of(now, Set.of(), p)).orElse(before);
    PrintWriter text = spec.commandLine().getOut();
    output.write(now, dialects, json.asked() ? spec.commandLine().getErr() : text);
    if (json.asked()) {
      text.println(Json.text(document(kind, before.errors(), after, vetting)));
    } else {
      say(text, kind, before, after, vetting);
    }
    double wanted = target != null ? target : limit != null ? limit : Double.POSITIVE_INFINITY;
    return after.errors().rmsPx() <= wanted ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private static void positive(String name, Double v) {
    if (v != null && !(v > 0 && Double.isFinite(v))) {
      throw InputError.words(name + " takes a number of pixels over 0, not " + v, "");
    }
  }

  private Vetting vetted(Shot came, Measures before, Optional<SolveKind> kind) {
    AdjustOptions options = CullAndRefine.optionsFor(kind, refining.options());
    Vetting v = Vetting.NONE;
    if (limit != null) {
      v = v.culling(new Culling.Over(limit).chosen(came, before));
    }
    Shot now = v.applied(came);
    if (target != null) {
      CullAndRefine.Outcome o =
          progress.run(
              "culling and refining",
              p -> CullAndRefine.of(now, Set.of(), target, fewest, options, p));
      o.rounds().forEach(r -> spec.commandLine().getErr().println("flarvo: " + r));
      spec.commandLine().getErr().println("flarvo: " + o.sentence());
      return v.culling(o.culled()).withSolve(o.solve());
    }
    return refine
        ? v.withSolve(
            progress.run("refining", p -> Refinement.of(now, Set.of(), options, p)).solve())
        : v;
  }

  private static ObjectNode document(
      Optional<SolveKind> kind, Reprojection before, Measures m, Vetting v) {
    ObjectNode o = Json.object();
    o.put("kind", kind.map(SolveKind::word).orElse("free"));
    kind.ifPresent(k -> o.put("reason", k.reason()));
    o.put("rmsPxBefore", before.rmsPx());
    o.put("rmsPx", m.errors().rmsPx());
    o.put("maxPx", m.errors().maxPx());
    ArrayNode culled = o.putArray("culled");
    v.culledInOrder().forEach(culled::add);
    v.solve().ifPresent(s -> o.put("solve", s.how()));
    ArrayNode frames = o.putArray("perFrame");
    Reprojection e = m.errors();
    for (int f = e.frames().first(); f <= e.frames().last(); f++) {
      ObjectNode n = frames.addObject().put("frame", f);
      if (e.live(f) > 0) {
        n.put("rmsPx", e.frameRmsPx(f)).put("maxPx", e.frameMaxPx(f));
      } else {
        n.putNull("rmsPx").putNull("maxPx");
      }
      n.put("live", e.live(f)).put("jumpPx", m.jumps().px(f)).put("cover", m.cover().share(f));
    }
    ArrayNode trackers = o.putArray("perTracker");
    for (TrackerMeasure t : m.trackers()) {
      ObjectNode n = trackers.addObject().put("name", t.name());
      number(n, "rmsPx", t.rmsPx());
      number(n, "maxPx", t.maxPx());
      n.put("live", t.frames());
      number(n, "driftPx", t.driftPx());
      number(n, "angleDegrees", Math.toDegrees(t.angle()));
      number(n, "depth", t.depth());
      number(n, "depthError", t.depthError());
    }
    return o;
  }

  private static void number(ObjectNode n, String name, double v) {
    if (Double.isFinite(v)) {
      n.put(name, v);
    } else {
      n.putNull(name);
    }
  }

  private void say(
      PrintWriter text, Optional<SolveKind> kind, Measures before, Measures m, Vetting v) {
    kind.ifPresent(k -> text.println(k.word() + ": " + k.reason()));
    Reprojection e = m.errors();
    text.printf(
        Locale.ROOT,
        "error %.3f px RMS, %.2f px at most%s%n",
        e.rmsPx(),
        e.maxPx(),
        v.equals(Vetting.NONE)
            ? ""
            : String.format(Locale.ROOT, " (before: %.3f px)", before.errors().rmsPx()));
    int thinnest = e.frames().first();
    for (int f = e.frames().first(); f <= e.frames().last(); f++) {
      thinnest = e.live(f) < e.live(thinnest) ? f : thinnest;
    }
    text.printf(
        Locale.ROOT,
        "%d trackers over %d frames; the fewest live in frame %d: %d; %.0f%% of the picture is"
            + " covered%n",
        m.trackers().size(),
        e.frames().count(),
        thinnest,
        e.live(thinnest),
        100 * m.cover().meanShare());
    if (!v.culled().isEmpty()) {
      text.println("culled: " + String.join(", ", v.culledInOrder()));
    }
    if (!m.jumps().outliers().isEmpty()) {
      text.println("the path jumps at " + m.jumps().outliers());
    }
    text.println("worst trackers:");
    m.trackers().stream()
        .filter(t -> !Double.isNaN(t.rmsPx()))
        .sorted(Comparator.comparingDouble(TrackerMeasure::rmsPx).reversed())
        .limit(WORST)
        .forEach(
            t ->
                text.printf(
                    Locale.ROOT,
                    "  %-12s %7.2f px  max %7.2f  %4d frames%n",
                    t.name(),
                    t.rmsPx(),
                    t.maxPx(),
                    t.frames()));
  }
}
