package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.format.table.TrackTable;
import flarvo.lens.LensSheet;
import flarvo.lens.LensTrack;
import flarvo.project.StudioDialects;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.trace.AutoSolve;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "auto",
    description = "From plates alone to a levelled solve: follows, solves, cleans and levels.",
    footer = {
      "",
      "Example:",
      "  flarvo auto plates/shot.####.jpg --film-back 23.76x13.365 --out solve.usda \\",
      "       --lens-out lens.json"
    })
final class AutoCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private TraceOptionsMixin trace;

  @Option(
      names = "--lens",
      paramLabel = "LENS.json",
      description = "lens of original plates; default: found")
  private Path lens;

  @Option(
      names = "--lens-terms",
      paramLabel = "N",
      description =
          "radial terms of the lens to find, 0 to 3, the third only where it pays; 0 for undistorted"
              + " plates (default: 3, and 0 with --lens)")
  private Integer lensTerms;

  @Option(
      names = "--target",
      paramLabel = "PX",
      defaultValue = "0.5",
      description = "target RMS in pixels (default ${DEFAULT-VALUE})")
  private double target;

  @Option(names = "--tracks-out", paramLabel = "CSV", description = "2D tracks to write")
  private Path tracksOut;

  @Option(
      names = "--lens-out",
      paramLabel = "LENS.json",
      description = "lens sheet to write, where a lens is found")
  private Path lensOut;

  @Mixin private MoverOptions movers;

  @Option(
      names = "--use-all",
      description = "solve from all features, also those on what moves against the rest")
  private boolean useAll;

  @Mixin private CameraOptions camera;

  @Mixin private SolveOutput output;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    if (output.file() == null) {
      throw InputError.words("auto needs --out FILE", "Name the file to write");
    }
    TrackSolve.Options solve = options();
    PlateSequence plates = trace.sequence();
    List<Path> inputs = lens == null ? List.of() : List.of(lens);
    output.check(inputs, tracksOut, lensOut, movers.file());
    if (useAll && movers.file() != null) {
      throw InputError.words("--use-all leaves nothing for --movers-out", "Give one of them");
    }
    Dialects dialects = StudioDialects.known();
    AutoSolve.Plate plate =
        new AutoSolve.Plate(
            name(),
            trace.frames(plates),
            TraceOptionsMixin.brightness(plates),
            plates.picture(),
            camera.rate(),
            Optional.ofNullable(lens).map(p -> LensSheet.read(p).track()));
    PrintWriter err = spec.commandLine().getErr();
    AutoSolve.Outcome o =
        progress.run(
            "plate to solve",
            p ->
                AutoSolve.of(
                    plate,
                    trace.options(),
                    trace.mask(plates),
                    !useAll,
                    solve,
                    step -> err.println("flarvo: " + step),
                    p));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(o)));
    } else {
      say(text, o);
    }
    write(o, dialects, json.asked() ? err : text);
    writeMovers(o, json.asked() ? err : text);
    return o.doubts().isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private TrackSolve.Options options() {
    if (lens != null && lensTerms != null && lensTerms != 0) {
      throw InputError.words("--lens-terms finds what --lens says", "Give one of them");
    }
    int terms = lensTerms != null ? lensTerms : lens != null || camera.zooms() ? 0 : 3;
    return camera.solve(terms, target);
  }

  private String name() {
    String n = output.file().getFileName().toString();
    int dot = n.indexOf('.');
    return dot > 0 ? n.substring(0, dot) : n;
  }

  private void write(AutoSolve.Outcome o, Dialects dialects, PrintWriter text) {
    output.write(o.shot(), dialects, text);
    if (tracksOut != null) {
      String table = TrackTable.text(o.shot().observations());
      AtomicFile.write(tracksOut, s -> s.write(table.getBytes(StandardCharsets.UTF_8)));
      text.println("wrote " + tracksOut + ": 2D tracks, undistorted");
    }
    if (lensOut != null) {
      LensTrack found = o.lens().orElse(null);
      if (found == null) {
        text.println("no lens was found, so " + lensOut + " was not written");
      } else {
        String sheet = LensSheet.text(found);
        AtomicFile.write(lensOut, s -> s.write(sheet.getBytes(StandardCharsets.UTF_8)));
        text.println("wrote " + lensOut + ": the lens of the original plates");
      }
    }
  }

  private void writeMovers(AutoSolve.Outcome o, PrintWriter text) {
    if (movers.file() != null) {
      movers.write(o.movers(), o.traced().observations(), trace.options(), text);
    }
  }

  private static double focalMm(Shot s) {
    return s.cameras().get(0).optics().at(s.frames().first()).focalLengthMm();
  }

  private void say(PrintWriter text, AutoSolve.Outcome o) {
    text.printf(
        Locale.ROOT,
        "%s, %.3f px RMS, %d of %d features; focal length %s (%s)%s%n",
        o.solve().kind().word(),
        o.solve().cleaned().afterPx(),
        o.shot().trackerCount(),
        o.traced().observations().names().size(),
        o.solve().focalWords(),
        camera.focalSource(),
        o.lens().isPresent() ? "; lens found" : "");
    MoverOptions.say(o.movers(), o.traced().observations(), text);
    text.println(o.ground());
    if (!camera.rateGiven()) {
      text.println("assumed: 24 fps (--rate was not given)");
    }
    text.println("not known from pictures: the size of things; state a distance with 'level'");
    o.doubts().forEach(d -> text.println("doubt: " + d));
  }

  private ObjectNode document(AutoSolve.Outcome o) {
    ObjectNode n = Json.object();
    n.put("kind", o.solve().kind().word()).put("reason", o.solve().kind().reason());
    n.put("rmsPx", o.solve().cleaned().afterPx()).put("focalLengthMm", focalMm(o.shot()));
    SolveCommand.zoom(n, o.shot());
    n.put("firstFrame", o.shot().frames().first()).put("lastFrame", o.shot().frames().last());
    n.put("followed", o.traced().observations().names().size());
    n.put("trackers", o.shot().trackerCount()).put("ground", o.ground());
    o.lens().ifPresent(l -> n.set("lens", LensSheet.document(l)));
    n.set("movers", MoverOptions.document(o.movers(), o.traced().observations()));
    n.set("notes", TraceCommand.notes(o.traced()));
    ArrayNode doubts = n.putArray("doubts");
    o.doubts().forEach(doubts::add);
    return n;
  }
}
