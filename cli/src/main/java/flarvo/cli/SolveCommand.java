package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.project.StudioDialects;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.OpticsTrack;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import flarvo.vet.CullAndRefine;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "solve",
    description = "Solves a camera and points from 2D tracks alone.",
    footer = {
      "",
      "Example:",
      "  flarvo solve --tracks tracks.csv --size 1920x1080 --film-back 23.76x13.365 \\",
      "       --out solve.usda"
    })
final class SolveCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Option(names = "--tracks", required = true, paramLabel = "CSV", description = "2D tracks")
  private Path tracks;

  @Option(
      names = "--size",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "image resolution")
  private PictureSize size;

  @Option(
      names = "--lens-terms",
      paramLabel = "N",
      description =
          "0 to 3 radial terms of a lens to find, for tracks of original plates; the third only where"
              + " it pays")
  private int lensTerms;

  @Option(
      names = "--target",
      paramLabel = "PX",
      defaultValue = "1",
      description = "target RMS in pixels (default ${DEFAULT-VALUE})")
  private double target;

  @Mixin private CameraOptions camera;

  @Mixin private SolveOutput output;

  @Mixin private TableOptions tables;

  @Mixin private OutsideOption outside;

  @Mixin private ProgressOption progress;

  @Mixin private JsonOption json;

  @Override
  public Integer call() {
    TrackSolve.Options options = camera.solve(lensTerms, target);
    Dialects dialects = StudioDialects.known();
    if (output.file() == null) {
      throw InputError.words("solve needs --out FILE", "Name the file to write");
    }
    output.check(List.of(tracks));
    Observations seen = observations();
    TrackSolve.Outcome o =
        progress.run("solving", p -> TrackSolve.of(name(), seen, size, camera.rate(), options, p));
    // What was left out stays out of the file.
    Shot good =
        o.shot()
            .withTrackers(
                o.shot().trackers().stream().map(t -> t.without(o.cleaned().culled())).toList());
    PrintWriter out = spec.commandLine().getOut();
    say(o, good);
    if (!camera.rateGiven() && !json.asked()) {
      out.println("assumed: 24 fps (--rate was not given)");
    }
    output.write(good, dialects, json.asked() ? spec.commandLine().getErr() : out);
    return o.cleaned().reached() && o.interpolated().isEmpty()
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private Observations observations() {
    ShotIntake intake = new ShotIntake(tables.advice());
    IntakeOptions options = IntakeOptions.NONE.withSize(size).withReach(outside.reach());
    intake.add(tracks, options, Progress.NONE);
    ReceivedSet set = intake.received(options);
    return set.files().stream()
        .map(f -> f.scene().observations())
        .filter(x -> !x.isEmpty())
        .findFirst()
        .orElseThrow(
            () ->
                new InputError(
                    tracks.toString(),
                    "",
                    "there are no 2D tracks in it",
                    "Expected a table with the header tracker,frame,x,y"));
  }

  private String name() {
    String n = output.file().getFileName().toString();
    int dot = n.indexOf('.');
    return dot > 0 ? n.substring(0, dot) : n;
  }

  private void say(TrackSolve.Outcome o, Shot good) {
    PrintWriter text = spec.commandLine().getOut();
    CullAndRefine.Outcome c = o.cleaned();
    double mm = good.cameras().get(0).optics().at(good.frames().first()).focalLengthMm();
    if (!json.asked()) {
      text.println(o.kind().word() + ": " + o.kind().reason());
      text.println(o.how());
      c.rounds().forEach(r -> text.println("  " + r));
      text.printf(Locale.ROOT, "%s; focal length %s%n", c.sentence(), o.focalWords());
      if (!o.interpolated().isEmpty()) {
        text.println(InterpolatedFrames.sentence(o.interpolated()));
      }
      return;
    }
    ObjectNode n = Json.object();
    n.put("kind", o.kind().word()).put("reason", o.kind().reason());
    n.put("rmsPx", c.afterPx()).put("focalLengthMm", mm).put("how", o.how());
    zoom(n, good);
    n.put("firstFrame", good.frames().first()).put("lastFrame", good.frames().last());
    n.put("trackers", good.trackerCount());
    ArrayNode guessed = n.putArray("interpolatedFrames");
    o.interpolated().forEach(r -> guessed.addArray().add(r.first()).add(r.last()));
    ArrayNode culled = n.putArray("culled");
    new TreeSet<>(c.culled()).forEach(culled::add);
    text.println(Json.text(n));
  }

  /** The focal length of every frame, where it changes. */
  static void zoom(ObjectNode n, Shot s) {
    OpticsTrack o = s.cameras().get(0).optics();
    if (!o.isConstant()) {
      ArrayNode all = n.putArray("focalLengthsMm");
      for (int f = o.frames().first(); f <= o.frames().last(); f++) {
        all.add(o.at(f).focalLengthMm());
      }
    }
  }
}
