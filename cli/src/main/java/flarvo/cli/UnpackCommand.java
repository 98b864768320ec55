package flarvo.cli;

import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.plate.Movie;
import flarvo.plate.MovieUnpacker;
import flarvo.plate.field.Combing;
import flarvo.plate.field.Interlacing;
import flarvo.plate.remap.SequenceName;
import flarvo.report.InputError;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "unpack",
    description =
        "Unpacks a movie into numbered PNG pictures and says its true rate. Exit code 1 where"
            + " pictures are missing, do not follow at one rate, or are interlaced.",
    footer = {"", "Example:", "  flarvo unpack take3.mov --out plates/take3.####.png"})
final class UnpackCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "MOVIE", description = "QuickTime, MP4, Matroska, AVI or MXF")
  private Path movie;

  @Option(
      names = "--out",
      required = true,
      paramLabel = "PATTERN",
      description = "name of the pictures, such as plates/take3.####.png")
  private Path out;

  @Option(
      names = "--first",
      paramLabel = "N",
      defaultValue = "1001",
      description = "number of the first frame (default ${DEFAULT-VALUE})")
  private int first;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    SequenceName name = SequenceName.parse(out);
    if (!name.suffix().toLowerCase(Locale.ROOT).equals(".png")) {
      throw new InputError(
          out.toString(), "", "pictures of a movie are written as PNG", "Write name.####.png");
    }
    Movie m =
        progress.run(
            "unpacking",
            p -> MovieUnpacker.into(movie, name.folder(), name.prefix(), name.padding(), first, p));
    Interlacing fields =
        progress.run("looking for fields", p -> Combing.of(SequenceCommand.sequence(out), p));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      ObjectNode n = document(name, m);
      DeinterlaceCommand.put(n, fields);
      text.println(Json.text(n));
    } else {
      say(text, name, m);
      text.println("fields    " + fields.words());
      m.stated().ifPresent(s -> text.println("          the movie states " + s));
    }
    return m.broken() == 0 && m.uneven() == 0 && m.rate().isPresent() && !fields.isCombed()
        ? ExitCode.HOLDS
        : ExitCode.DOES_NOT_HOLD;
  }

  private int last(Movie m) {
    return first + m.frames() - 1;
  }

  private void say(PrintWriter text, SequenceName name, Movie m) {
    text.println(name.folder().resolve(name.pattern()));
    text.printf(Locale.ROOT, "frames    %d-%d%n", first, last(m));
    text.println("rate      " + m.rate().map(Object::toString).orElse("not stated"));
    if (m.pixelAspect() != 1) {
      text.printf(Locale.ROOT, "pixel aspect %.4f%n", m.pixelAspect());
    }
    m.timecode().ifPresent(t -> text.println("timecode  " + t + " on the first frame"));
    if (m.uneven() > 0) {
      text.printf(
          Locale.ROOT,
          "variable rate: %d of %d pictures do not follow after the usual time%n",
          m.uneven(),
          m.frames());
    }
    if (m.broken() > 0) {
      text.println(m.broken() + " pieces could not be decoded and are missing");
    }
  }

  private ObjectNode document(SequenceName name, Movie m) {
    ObjectNode n = Json.object();
    n.put("folder", name.folder().toString()).put("pattern", name.pattern());
    n.put("firstFrame", first).put("lastFrame", last(m)).put("frames", m.frames());
    m.rate().ifPresentOrElse(r -> n.put("rate", r.toString()), () -> n.putNull("rate"));
    n.put("pixelAspect", m.pixelAspect());
    m.timecode().ifPresent(t -> n.put("timecode", t));
    m.stated().ifPresent(s -> n.put("statedFields", s));
    n.put("unevenFrames", m.uneven()).put("brokenPieces", m.broken());
    return n;
  }
}
