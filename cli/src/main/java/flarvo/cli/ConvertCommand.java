package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.dispatch.Outgoing;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.project.StudioDialects;
import flarvo.proof.KeySnapEffect;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "convert",
    description = "Writes one delivery in a recipient's dialect.",
    footer = {
      "",
      "Example:",
      "  flarvo convert solve.usda --to engine-zup-left-cm --out engine.fbx"
    })
final class ConvertCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(arity = "1..*", paramLabel = "IN", description = "scenes, tables, plates of one shot")
  private List<Path> in;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "FILE",
      description = "output file; its extension selects the format; - for standard output")
  private Path out;

  @Mixin private SourceOptions source;

  @Mixin private RecipientOptions recipient;

  @Mixin private LevelOption level;

  @Mixin private OnlyOption only;

  @Mixin private ExtractOptions extract;

  @Mixin private ObjectOptions object;

  @Mixin private OutputFiles files;

  @Option(
      names = "--format",
      paramLabel = "ID",
      description =
          "output format, such as fbx-text, usd-crate, gltf-binary; default: by the extension")
  private String formatId;

  @Option(names = "--fbx-text", description = "write .fbx as text")
  private boolean fbxText;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    Dialects dialects = StudioDialects.known();
    Dialect to = recipient.dialect(dialects);
    IntakeOptions options = source.options(dialects);
    SceneFormat written = format();
    files.check(in, List.of(out));
    ShotIntake intake = source.intake();
    progress.run(
        "reading",
        work -> {
          in.forEach(p -> intake.add(p, options, work));
          return intake;
        });
    ReceivedSet read = intake.received(options);
    ReceivedSet came = only.hasLocatorSize() ? read : read.withLocatorSizes();
    Shot whole =
        object.applied(
            level.applied(came.shotOrPoints(in.get(0).getFileName().toString(), options)),
            source.intake(),
            options);
    Contents contents = only.contents(whole);
    Shot shot = Outgoing.of(whole).shot(contents);
    Delivery delivery =
        new Delivery(
            to.name(), to, written, contents, extract.extract(shot), out.getFileName().toString());
    files.check(in, Dispatcher.companions(shot, delivery, out));
    Dispatcher.Sent sent = progress.run("writing", p -> send(shot, delivery, p));
    List<Note> said = new ArrayList<>(came.notes());
    if (options.snapKeys()) {
      progress
          .run("measuring", p -> KeySnapEffect.note(came, shot.name(), Rulings.NONE, p))
          .ifPresent(said::add);
    }
    PrintWriter text =
        OutputFiles.isStandard(out) ? spec.commandLine().getErr() : spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(shot, sent, said)));
    } else {
      print(shot, sent, said, text);
    }
    return ExitCode.HOLDS;
  }

  private Dispatcher.Sent send(Shot shot, Delivery delivery, Progress p) {
    return OutputFiles.isStandard(out)
        ? Dispatcher.send(shot, delivery, System.out, p)
        : Dispatcher.send(shot, delivery, out, p);
  }

  private void print(Shot shot, Dispatcher.Sent sent, List<Note> read, PrintWriter text) {
    text.println(
        "wrote "
            + (OutputFiles.isStandard(out) ? "standard output" : out.toString())
            + ": frames "
            + sent.frames().recipientFrames()
            + " at "
            + sent.frames().recipientRate());
    files.sayFolders(text);
    shot.cameras().forEach(c -> text.println("  camera: " + c.name()));
    read.forEach(n -> text.println("  read: " + n));
    for (Note n : sent.notes()) {
      text.println("  " + n.kind().word() + ": " + n);
    }
  }

  private ObjectNode document(Shot shot, Dispatcher.Sent sent, List<Note> read) {
    ObjectNode o = Json.object().put("file", out.toString());
    o.put("format", format().id());
    o.put("firstFrame", sent.frames().recipientFrames().first());
    o.put("lastFrame", sent.frames().recipientFrames().last());
    o.put("rate", sent.frames().recipientRate().toString());
    ArrayNode cameras = o.putArray("cameras");
    shot.cameras().forEach(c -> cameras.add(c.name()));
    o.put("trackers", shot.trackerCount());
    o.put("meshes", shot.meshes().size());
    ArrayNode folders = o.putArray("madeFolders");
    files.folders().forEach(folders::add);
    o.set("read", Json.notes(read));
    o.set("losses", Json.notes(sent.notes()));
    return o;
  }

  private SceneFormat format() {
    if (formatId != null) {
      return Formats.byId(formatId);
    }
    if (OutputFiles.isStandard(out)) {
      throw InputError.words("standard output has no extension", "Give --format, such as fbx-text");
    }
    SceneFormat f = Formats.forWriting(out);
    return fbxText && f.extensions().contains(".fbx") ? Formats.byId("fbx-text") : f;
  }
}
