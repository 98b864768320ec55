package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.format.SceneFormat;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Shot;
import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Files;
import java.nio.file.Path;
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
      description = "output file; its extension selects the format")
  private Path out;

  @Mixin private SourceOptions source;

  @Mixin private RecipientOptions recipient;

  @Mixin private LevelOption level;

  @Mixin private OnlyOption only;

  @Option(names = "--fbx-text", description = "write .fbx as text")
  private boolean fbxText;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    Dialects dialects = Dialects.shipped();
    Dialect to = recipient.dialect(dialects);
    IntakeOptions options = source.options(dialects);
    refuseOverInput();
    ShotIntake intake = new ShotIntake();
    progress.run(
        "reading",
        work -> {
          in.forEach(p -> intake.add(p, options, work));
          return intake;
        });
    Shot shot = level.applied(intake.shot(in.get(0).getFileName().toString(), options));
    Delivery delivery =
        new Delivery(to.name(), to, format(), only.contents(), out.getFileName().toString());
    Dispatcher.Sent sent = progress.run("writing", p -> Dispatcher.send(shot, delivery, out, p));
    PrintWriter text = spec.commandLine().getOut();
    text.println(
        "wrote "
            + out
            + ": frames "
            + sent.frames().recipientFrames()
            + " at "
            + sent.frames().recipientRate());
    intake.received(options).notes().forEach(n -> text.println("  read: " + n));
    for (Note n : sent.notes()) {
      text.println("  " + n.kind().word() + ": " + n);
    }
    return ExitCode.HOLDS;
  }

  /** What came in is never written over. */
  private void refuseOverInput() {
    for (Path p : in) {
      try {
        if (Files.exists(out) && Files.isSameFile(p, out)) {
          throw new InputError(
              out.toString(), "", "this is one of the inputs", "Write to another file");
        }
      } catch (IOException e) {
        throw new InputError(p.toString(), "", "the file cannot be read", "Check the path", e);
      }
    }
  }

  private SceneFormat format() {
    SceneFormat f = Formats.forWriting(out);
    return fbxText && f.extensions().contains(".fbx") ? Formats.byId("fbx-text") : f;
  }
}
