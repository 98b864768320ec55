package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialects;
import flarvo.convention.FilmBack;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.vet.CullAndRefine;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Locale;
import java.util.OptionalDouble;
import java.util.TreeSet;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(name = "solve", description = "A camera and points from 2D tracks alone.")
final class SolveCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Option(names = "--tracks", required = true, paramLabel = "CSV", description = "2D tracks")
  private Path tracks;

  @Option(
      names = "--size",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Size.class,
      description = "the picture in pixels")
  private PictureSize size;

  @Option(
      names = "--film-back",
      required = true,
      paramLabel = "WxH",
      converter = Converters.Back.class,
      description = "film back in millimetres")
  private FilmBack filmBack;

  @Option(
      names = "--focal",
      paramLabel = "MM",
      description = "focal length; it is found where it is not given")
  private Double focal;

  @Option(
      names = "--rate",
      paramLabel = "R",
      converter = Converters.Fps.class,
      description = "the plate's rate, such as 24000/1001; 24 without it")
  private Rate rate;

  @Option(
      names = "--target",
      paramLabel = "PX",
      defaultValue = "1",
      description = "the error that is good enough (default ${DEFAULT-VALUE})")
  private double target;

  @Option(
      names = "--fewest",
      paramLabel = "N",
      defaultValue = "8",
      description = "live trackers that a frame should keep (default ${DEFAULT-VALUE})")
  private int fewest;

  @Option(names = "--out", required = true, paramLabel = "FILE", description = "where it goes")
  private Path out;

  @Option(
      names = "--to",
      paramLabel = "D",
      description = "how that file's recipient speaks; right-handed, Y up, metres without it")
  private String to;

  @Option(names = "--json", description = "print one JSON document")
  private boolean json;

  @Override
  public Integer call() {
    if (focal != null && !(focal > 0 && Double.isFinite(focal))) {
      throw InputError.words("--focal takes millimetres over 0, not " + focal, "");
    }
    if (!(target > 0)) {
      throw InputError.words("--target takes a number of pixels over 0, not " + target, "");
    }
    Dialects dialects = Dialects.shipped();
    TrackSolve.Outcome o =
        TrackSolve.of(
            name(),
            observations(),
            size,
            rate == null ? Rate.FPS_24 : rate,
            filmBack.widthMm(),
            filmBack.heightMm(),
            focal == null ? OptionalDouble.empty() : OptionalDouble.of(focal),
            target,
            fewest,
            Progress.NONE);
    // What was left out stays out of the file.
    Shot good =
        o.shot()
            .withTrackers(
                o.shot().trackers().stream().map(t -> t.without(o.cleaned().culled())).toList());
    SolveFile.write(good, out, to, dialects);
    say(o, good);
    return o.cleaned().reached() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private Observations observations() {
    ShotIntake intake = new ShotIntake();
    IntakeOptions options = IntakeOptions.NONE.withSize(size);
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
                    "A table with the header tracker,frame,x,y is wanted"));
  }

  private String name() {
    String n = out.getFileName().toString();
    int dot = n.indexOf('.');
    return dot > 0 ? n.substring(0, dot) : n;
  }

  private void say(TrackSolve.Outcome o, Shot good) {
    PrintWriter text = spec.commandLine().getOut();
    CullAndRefine.Outcome c = o.cleaned();
    double mm = good.cameras().get(0).optics().at(good.frames().first()).focalLengthMm();
    if (!json) {
      text.println(o.kind().word() + ": " + o.kind().reason());
      text.println(o.how());
      c.rounds().forEach(r -> text.println("  " + r));
      text.printf(Locale.ROOT, "%s; focal length %.3f mm; wrote %s%n", c.sentence(), mm, out);
      return;
    }
    ObjectNode n = Json.object();
    n.put("kind", o.kind().word()).put("reason", o.kind().reason());
    n.put("rmsPx", c.afterPx()).put("focalLengthMm", mm).put("how", o.how());
    n.put("firstFrame", good.frames().first()).put("lastFrame", good.frames().last());
    n.put("trackers", good.trackerCount());
    ArrayNode culled = n.putArray("culled");
    new TreeSet<>(c.culled()).forEach(culled::add);
    text.println(Json.text(n));
  }
}
