package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.plate.field.Combing;
import flarvo.plate.field.FieldMethod;
import flarvo.plate.field.FieldOrder;
import flarvo.plate.field.Interlacing;
import flarvo.plate.field.SequenceFields;
import flarvo.plate.remap.SequenceName;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "deinterlace",
    description = {
      "Takes interlaced plates apart: each field becomes a frame at double rate, or both are blended.",
      "The order of the fields is measured where it is not given. Exit code 1 where a frame could"
          + " not be made."
    },
    footer = {
      "",
      "Example:",
      "  flarvo deinterlace plates/take3 --out plates/take3_fields/take3.####.png"
    })
final class DeinterlaceCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(
      paramLabel = "PLATES",
      description = "folder of a sequence, one of its files, or name.####.ext")
  private Path plates;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "PATTERN",
      description = "output sequence, such as fields/name.####.png")
  private Path out;

  @Option(
      names = "--method",
      paramLabel = "M",
      defaultValue = "split",
      description = "split or blend (default ${DEFAULT-VALUE})")
  private String method;

  @Option(
      names = "--order",
      paramLabel = "O",
      description = "field that was taken first: upper or lower; default: as measured")
  private String order;

  @Option(
      names = "--jobs",
      paramLabel = "N",
      description = "pictures at once; default: one a processor")
  private Integer jobs;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    PlateSequence source = SequenceCommand.sequence(plates);
    SequenceName target = SequenceName.parse(out);
    FieldMethod how =
        Arrays.stream(FieldMethod.values())
            .filter(m -> m.word().equals(method))
            .findFirst()
            .orElseThrow(() -> word("--method", method));
    int workers = jobs == null ? Runtime.getRuntime().availableProcessors() : jobs;
    if (workers < 1) {
      throw InputError.words("--jobs takes a number from 1 on, not " + workers, "");
    }
    Interlacing measured = progress.run("measuring", p -> Combing.of(source, p));
    FieldOrder first = how == FieldMethod.BLEND ? FieldOrder.UPPER : order(measured);
    SequenceFields.Outcome o =
        progress.run(
            "making " + target.pattern(),
            p -> SequenceFields.run(source, target, how, first, workers, p));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      text.println(Json.text(document(target, measured, how, first, o)));
    } else {
      text.println(target.folder().resolve(target.pattern()));
      text.println("  the plates are " + measured.words());
      text.println(
          "  frames "
              + o.frames()
              + (how == FieldMethod.SPLIT
                  ? ", " + first.word() + " field first, at double rate"
                  : ", both fields blended"));
      SequenceCommand.sayLeftOut(o.leftOut(), target, text);
      o.failed().forEach((f, why) -> text.println("  frame " + f + ": " + why));
    }
    return o.failed().isEmpty() ? ExitCode.HOLDS : ExitCode.DOES_NOT_HOLD;
  }

  private FieldOrder order(Interlacing measured) {
    if (order != null) {
      return Arrays.stream(FieldOrder.values())
          .filter(f -> f.word().equals(order))
          .findFirst()
          .orElseThrow(() -> word("--order", order));
    }
    return measured
        .order()
        .orElseThrow(
            () ->
                new InputError(
                    plates.toString(),
                    "",
                    measured.isCombed()
                        ? "it cannot be measured which field was taken first"
                        : "the plates are " + measured.words(),
                    "Give --order to split them anyway"));
  }

  private static InputError word(String option, String typed) {
    return InputError.words(option + " does not know '" + typed + "'", "See --help");
  }

  static void put(ObjectNode o, Interlacing m) {
    ObjectNode n = o.putObject("interlacing");
    n.put("kind", m.kind().word());
    m.order().ifPresentOrElse(f -> n.put("first", f.word()), () -> n.putNull("first"));
    n.put("looked", m.looked()).put("moving", m.moving()).put("combed", m.combed());
  }

  private static ObjectNode document(
      SequenceName target,
      Interlacing measured,
      FieldMethod how,
      FieldOrder first,
      SequenceFields.Outcome o) {
    ObjectNode n = Json.object();
    n.put("out", target.folder().resolve(target.pattern()).toString());
    put(n, measured);
    n.put("method", how.word());
    if (how == FieldMethod.SPLIT) {
      n.put("first", first.word());
    }
    n.put("firstFrame", o.frames().first()).put("lastFrame", o.frames().last());
    n.put("written", o.written());
    ArrayNode leftOut = n.putArray("leftOut");
    o.leftOut().forEach(leftOut::add);
    ObjectNode failed = n.putObject("failed");
    o.failed().forEach((f, why) -> failed.put(String.valueOf(f), why));
    return n;
  }
}
