package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.decision.ShotState;
import flarvo.render.Previews;
import flarvo.render.RenderJob;
import flarvo.render.RenderLook;
import flarvo.render.RenderScene;
import flarvo.render.ShotRender;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Vec3;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Spec;

@Command(
    name = "render",
    description =
        "Draws what was built on a shot over its plates: witness pictures for sign-off, and passes"
            + " for compositing.",
    footer = {
      "",
      "Example:",
      "  flarvo render show/project.json --shot sh010 --out witness --movie sh010.mp4",
      "",
      "Exit code 1 where a frame could not be made."
    })
final class RenderCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Mixin private ProjectShotOption shot;

  @Option(
      names = "--out",
      paramLabel = "DIR",
      required = true,
      description = "folder for SHOT_witness.####.png and SHOT_passes.####.exr")
  private Path out;

  @Option(names = "--passes", description = "also the passes, as multichannel OpenEXR")
  private boolean passes;

  @Option(names = "--no-witness", description = "passes alone")
  private boolean noWitness;

  @Option(
      names = "--frames",
      paramLabel = "A-B",
      converter = Converters.Frames.class,
      description = "default: the whole shot")
  private FrameRange range;

  @Option(
      names = "--light",
      paramLabel = "X,Y,Z",
      description = "direction to the light in the world (default: the shot's own, or -0.5,1,0.4)")
  private String light;

  @Option(
      names = "--holdout",
      paramLabel = "NAME",
      description = "this cuts away what is behind it and is not drawn; may be repeated")
  private List<String> holdouts = new ArrayList<>();

  @Option(
      names = "--overscan",
      paramLabel = "PX",
      description = "pixels more on each side than the plates have")
  private int overscan;

  @Option(
      names = "--keyed",
      description = "the shot's keyed plates lie over what is drawn, by their alpha")
  private boolean keyed;

  @Option(names = "--no-trackers", description = "leave the trackers out")
  private boolean noTrackers;

  @Option(names = "--movie", paramLabel = "FILE.mp4", description = "a small movie of them")
  private Path movie;

  @Option(
      names = "--animation",
      paramLabel = "FILE.gif",
      description = "an animated picture of them, for mail")
  private Path animation;

  @Option(names = "--jobs", paramLabel = "N", description = "frames at once (default: 2)")
  private int jobs = 2;

  @Mixin private OutputFiles files;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    ShotState s = progress.run("reading", shot::open);
    RenderScene scene = RenderScene.of(s.shot(), s.staging());
    RenderLook look = new RenderLook(light(scene), held(scene));
    RenderJob job =
        new RenderJob(
            scene,
            look,
            ShotRender.plates(s.shot(), s.lens().track().isPresent()),
            keyed ? Optional.of(ShotRender.keyed(s.shot())) : Optional.empty(),
            !noTrackers,
            overscan,
            noWitness ? Optional.empty() : Optional.of(ShotRender.witness(out, s.name())),
            passes || noWitness ? Optional.of(ShotRender.passes(out, s.name())) : Optional.empty());
    FrameRange frames = range == null ? s.shot().frames() : range;
    if (noWitness && (movie != null || animation != null)) {
      throw InputError.words(
          "a movie is made of witness pictures", "Leave out --no-witness, or the movie");
    }
    List<Path> all = new ArrayList<>(job.files(frames));
    Optional.ofNullable(movie).ifPresent(all::add);
    Optional.ofNullable(animation).ifPresent(all::add);
    files.check(List.of(), all);
    RenderJob.Outcome o = progress.run("rendering", p -> job.run(frames, jobs, p));
    List<Path> previews = previews(job, o, s);
    PrintWriter to = spec.commandLine().getOut();
    if (json.asked()) {
      to.println(Json.text(document(scene, job, o, previews)));
    } else {
      print(to, scene, job, o, previews);
    }
    return o.failed().isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private Vec3 light(RenderScene scene) {
    if (light == null) {
      return scene.look().light();
    }
    String[] p = light.split(",", -1);
    try {
      if (p.length == 3) {
        return new Vec3(
            Double.parseDouble(p[0]), Double.parseDouble(p[1]), Double.parseDouble(p[2]));
      }
    } catch (NumberFormatException e) {
      // said below
    }
    throw InputError.words("'" + light + "' is no direction", "Write it as -0.5,1,0.4");
  }

  private Set<String> held(RenderScene scene) {
    for (String h : holdouts) {
      if (scene.id(h).isEmpty()) {
        throw InputError.words(
            "there is nothing called '" + h + "' to hold out",
            scene.names().isEmpty()
                ? "The shot has no geometry"
                : "There are: " + String.join(", ", scene.names()));
      }
    }
    return new HashSet<>(holdouts);
  }

  private List<Path> previews(RenderJob job, RenderJob.Outcome o, ShotState s) {
    List<Path> made = new ArrayList<>();
    List<Path> pictures = ShotRender.pictures(job, o);
    if (movie != null) {
      progress.run(
          "movie",
          p -> {
            Previews.movie(pictures, s.shot().rate(), movie, p);
            return made.add(movie);
          });
    }
    if (animation != null) {
      progress.run(
          "animation",
          p -> {
            Previews.animation(pictures, s.shot().rate(), animation, p);
            return made.add(animation);
          });
    }
    return made;
  }

  private void print(
      PrintWriter to, RenderScene scene, RenderJob job, RenderJob.Outcome o, List<Path> previews) {
    job.witness().ifPresent(w -> to.println("  " + out.resolve(w.pattern())));
    job.passes().ifPresent(w -> to.println("  " + out.resolve(w.pattern())));
    previews.forEach(p -> to.println("  " + p));
    to.printf(
        Locale.ROOT,
        "%d %s at %s%n",
        o.made().size(),
        o.made().size() == 1 ? "frame" : "frames",
        job.picture());
    for (int i = 0; i < scene.names().size(); i++) {
      to.println("  id " + (i + 1) + ": " + scene.names().get(i));
    }
    if (scene.names().isEmpty()) {
      to.println("  the shot has no gauges, stand-ins or meshes; only trackers are drawn");
    }
    if (!scene.isLevelled()) {
      to.println("  the shot is not levelled, so its ground and shadows may be anywhere");
    }
    o.failed().forEach((f, why) -> to.println("  frame " + f + ": " + why));
    files.sayFolders(to);
  }

  private ObjectNode document(
      RenderScene scene, RenderJob job, RenderJob.Outcome o, List<Path> previews) {
    ObjectNode d = Json.object();
    job.witness().ifPresent(w -> d.put("witness", out.resolve(w.pattern()).toString()));
    job.passes().ifPresent(w -> d.put("passes", out.resolve(w.pattern()).toString()));
    d.putArray("picture").add(job.picture().width()).add(job.picture().height());
    d.put("levelled", scene.isLevelled());
    Vec3 from = job.look().light();
    d.putArray("light").add(from.x()).add(from.y()).add(from.z());
    ArrayNode made = d.putArray("frames");
    o.made().forEach(made::add);
    ObjectNode failed = d.putObject("failed");
    o.failed().forEach((f, why) -> failed.put(f.toString(), why));
    ObjectNode ids = d.putObject("ids");
    for (int i = 0; i < scene.names().size(); i++) {
      ids.put(Integer.toString(i + 1), scene.names().get(i));
    }
    ArrayNode small = d.putArray("previews");
    previews.forEach(p -> small.add(p.toString()));
    return d;
  }
}
