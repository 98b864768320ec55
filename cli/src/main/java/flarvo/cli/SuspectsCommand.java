package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Part;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.suspect.Mending;
import flarvo.suspect.Suspect;
import flarvo.suspect.SuspectReport;
import flarvo.suspect.SuspectSearch;
import flarvo.suspect.TrustedSolve;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.concurrent.Callable;
import java.util.stream.Collectors;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "suspects",
    description = "Finds which mix-up explains the error of a camera and its points.",
    footer = {
      "",
      "Example:",
      "  flarvo suspects returned.fbx --evidence tracks.csv --size 1920x1080 --mend mended.fbx",
      "",
      "Exit code 1 where a cause was found."
    })
final class SuspectsCommand implements Callable<Integer> {

  /** An error of tracking, not of a mix-up. */
  private static final double FINE_PX = 1;

  private static final int SHOWN = 4;

  @Spec private CommandSpec spec;

  @Parameters(
      arity = "1..*",
      paramLabel = "FILE",
      description = "file with the camera, and files with its points")
  private List<Path> in;

  @Option(
      names = "--evidence",
      required = true,
      paramLabel = "FILE",
      description = "2D tracks in plate frames, or a solve that is known to be right")
  private Path evidence;

  @Option(
      names = "--mend",
      paramLabel = "OUT",
      description = "write the file with the first cause undone, and measure it from disk")
  private Path mend;

  @Mixin private SourceOptions source;

  @Mixin private OutputFiles files;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  /** What the file is, laid on the frames of the evidence. */
  private record Asked(Shot shot, OptionalDouble backAspect, Optional<String> laid) {}

  @Override
  public Integer call() {
    Dialects dialects = Dialects.shipped();
    IntakeOptions options = source.options(dialects);
    if (mend != null) {
      List<Path> all = new java.util.ArrayList<>(in);
      all.add(evidence);
      files.check(all, List.of(mend));
    }
    Observations tracks = progress.run("reading", p -> tracks(options, p));
    Asked asked = progress.run("reading", p -> read(in, options, tracks, p));
    SuspectReport r =
        progress.run("searching", p -> SuspectSearch.of(asked.shot, tracks, asked.backAspect, p));
    Optional<SuspectReport> after =
        mend == null ? Optional.empty() : Optional.of(mended(asked, r, options, tracks));
    PrintWriter out = spec.commandLine().getOut();
    if (json.asked()) {
      out.println(Json.text(document(r, asked, after)));
    } else {
      print(out, r, asked, after);
    }
    return r.cause().isPresent() ? ExitCode.DOES_NOT_HOLD : ExitCode.HOLDS;
  }

  private Observations tracks(IntakeOptions options, Progress p) {
    ReceivedSet set = source.intake().add(evidence, options, p).received(options);
    for (ReceivedFile f : set.files()) {
      if (!f.scene().observations().isEmpty()) {
        return f.scene().observations();
      }
    }
    boolean camera = set.files().stream().anyMatch(f -> !f.scene().cameras().isEmpty());
    Observations seen =
        camera ? TrustedSolve.tracks(set.shot("evidence", options)) : Observations.NONE;
    if (seen.isEmpty()) {
      throw new InputError(
          evidence.toString(),
          "",
          "it contains neither 2D tracks nor a camera with points",
          "Give the tracks of the shot");
    }
    return seen;
  }

  /** Where the file counts other frames than the evidence altogether, first lies on first. */
  private Asked read(List<Path> paths, IntakeOptions options, Observations tracks, Progress p) {
    var intake = source.intake();
    paths.forEach(f -> intake.add(f, options, p));
    ReceivedSet set = intake.received(options);
    Shot shot = set.shot(paths.get(0).getFileName().toString(), options);
    FrameRange seen = range(tracks);
    boolean apart = shot.frames().last() < seen.first() || shot.frames().first() > seen.last();
    Optional<String> laid = Optional.empty();
    if (apart) {
      laid =
          Optional.of(
              "the file has frames "
                  + shot.frames()
                  + ", the evidence "
                  + seen
                  + ": first laid on first");
      shot = set.shot(shot.name(), options.withPlateFirst(seen.first()));
    }
    return new Asked(shot, backAspect(set), laid);
  }

  private static FrameRange range(Observations o) {
    int first = Integer.MAX_VALUE;
    int last = Integer.MIN_VALUE;
    for (int row = 0; row < o.size(); row++) {
      first = Math.min(first, o.frame(row));
      last = Math.max(last, o.frame(row));
    }
    return new FrameRange(first, last);
  }

  private static OptionalDouble backAspect(ReceivedSet set) {
    return set.files().stream()
        .flatMap(f -> f.scene().cameras().stream())
        .filter(c -> c.filmBackStated())
        .map(c -> c.camera().optics().at(c.camera().frames().first()))
        .mapToDouble((Optics o) -> o.filmWidthMm() / o.filmHeightMm())
        .findFirst();
  }

  /** Written, and measured again as it lies on disk. */
  private SuspectReport mended(
      Asked asked, SuspectReport r, IntakeOptions options, Observations tracks) {
    Suspect cause =
        r.cause()
            .orElseThrow(() -> InputError.words("no cause was found", "There is nothing to mend"));
    Shot shot = Mending.of(asked.shot, cause);
    String name = mend.getFileName().toString().toLowerCase(Locale.ROOT);
    SceneFormat format =
        Formats.all().stream()
            .filter(SceneFormat::writes)
            .filter(f -> f.extensions().stream().anyMatch(name::endsWith))
            .findFirst()
            .orElseThrow(
                () -> new InputError(mend.toString(), "", "unknown file extension", "Use .usda"));
    Dialect to = options.from().orElse(Dialect.CANONICAL);
    boolean points = shot.trackerCount() > 0;
    Delivery d =
        new Delivery(
            "mended",
            to.withFrames(flarvo.convention.FrameNumbering.PLATE),
            format,
            points ? Contents.of(Part.CAMERA, Part.TRACKERS) : Contents.CAMERA,
            mend.getFileName().toString());
    progress.run("writing", p -> Dispatcher.send(shot, d, mend, p));
    List<Path> written = new java.util.ArrayList<>(List.of(mend));
    written.addAll(Dispatcher.companions(shot, d, mend));
    IntakeOptions as = options.withFrom(to).withSize(shot.picture());
    return progress.run(
        "measuring",
        p ->
            SuspectSearch.of(read(written, as, tracks, p).shot, tracks, OptionalDouble.empty(), p));
  }

  private void print(PrintWriter out, SuspectReport r, Asked asked, Optional<SuspectReport> after) {
    asked.laid.ifPresent(t -> out.println("  note: " + t));
    r.notes().forEach(n -> out.println("  note: " + n));
    out.printf(Locale.ROOT, "error %.2f px on %d observations%n", r.errorPx(), r.observations());
    if (r.cause().isEmpty() && r.errorPx() <= FINE_PX) {
      out.println("nothing is wrong that this evidence shows");
      return;
    }
    if (r.cause().isEmpty()) {
      out.println("no cause found; the best that was tried:");
    }
    int i = 0;
    List<Suspect> shown =
        r.suspects().stream()
            .filter(s -> r.cause().isEmpty() || s.confident())
            .limit(SHOWN)
            .toList();
    for (Suspect s : shown) {
      out.printf(
          Locale.ROOT,
          "%2d. %s  [%s]%s%n",
          ++i,
          s.sentence(),
          s.causes().stream()
              .map(c -> c.code() + " " + c.value())
              .collect(Collectors.joining(", ")),
          s.confident() ? "" : "  (does not explain it)");
      if (s.confident() && !s.alike().isEmpty()) {
        out.println(
            "    the evidence cannot tell it from "
                + s.alike().stream()
                    .map(c -> c.code() + " " + c.value())
                    .collect(Collectors.joining(", ")));
      }
    }
    after.ifPresent(
        a -> {
          out.printf(Locale.ROOT, "wrote %s: %.2f px, read from disk%n", mend, a.errorPx());
          files.sayFolders(out);
        });
  }

  private ObjectNode document(SuspectReport r, Asked asked, Optional<SuspectReport> after) {
    ObjectNode o = Json.object();
    o.put("errorPx", r.errorPx()).put("observations", r.observations());
    ArrayNode list = o.putArray("suspects");
    for (Suspect s : r.suspects()) {
      ObjectNode n = list.addObject();
      n.put("cause", s.causes().get(0).code()).put("value", s.causes().get(0).value());
      ArrayNode causes = n.putArray("causes");
      s.causes().forEach(c -> causes.addObject().put("cause", c.code()).put("value", c.value()));
      n.put("errorPxAfter", s.errorPxAfter());
      n.put("confident", s.confident());
      n.put("sentence", s.sentence());
      ArrayNode alike = n.putArray("alike");
      s.alike().forEach(c -> alike.addObject().put("cause", c.code()).put("value", c.value()));
    }
    ArrayNode notes = o.putArray("notes");
    asked.laid.ifPresent(notes::add);
    r.notes().forEach(notes::add);
    after.ifPresent(
        a -> o.putObject("mended").put("file", mend.toString()).put("errorPx", a.errorPx()));
    return o;
  }
}
