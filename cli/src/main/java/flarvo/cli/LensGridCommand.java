package flarvo.cli;

import flarvo.lens.fit.LinesTable;
import flarvo.lens.fit.StraightLine;
import flarvo.plate.PlateFinder;
import flarvo.plate.PlateLuma;
import flarvo.plate.edge.ChequerGrid;
import flarvo.report.InputError;
import flarvo.scene.PlateSequence;
import flarvo.work.AtomicFile;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;
import picocli.CommandLine.Spec;

@Command(
    name = "grid",
    description =
        "Finds a filmed chequer board, of any size, and writes its rows and columns as a table of"
            + " straight lines for 'lens fit'.",
    footer = {
      "",
      "Example:",
      "  flarvo lens grid plates/chart --out lines.csv",
      "  flarvo lens fit lines.csv --size 1920x1080 --out lens.json"
    })
final class LensGridCommand implements Callable<Integer> {

  @Spec private CommandSpec spec;

  @Parameters(paramLabel = "PLATES", description = "folder or picture of a sequence")
  private Path plates;

  @Option(names = "--out", required = true, paramLabel = "FILE", description = "table of lines")
  private Path out;

  @Option(
      names = "--every",
      paramLabel = "N",
      defaultValue = "1",
      description = "take every Nth frame (default ${DEFAULT-VALUE})")
  private int every;

  @Mixin private JsonOption json;

  @Mixin private ProgressOption progress;

  @Override
  public Integer call() {
    if (every < 1) {
      throw InputError.words("--every " + every + " takes no frame", "Give 1 or more");
    }
    PlateSequence p = PlateFinder.find(plates).get(0);
    List<Integer> frames = new ArrayList<>();
    List<StraightLine> lines = progress.run("searching", x -> lines(p, frames, x));
    if (lines.isEmpty()) {
      throw new InputError(
          plates.toString(),
          "",
          "no chequer board was found on any frame",
          "Its fields need 10 pixels or more, and three rows of corners");
    }
    AtomicFile.write(out, s -> s.write(LinesTable.text(lines).getBytes(StandardCharsets.UTF_8)));
    PrintWriter text = spec.commandLine().getOut();
    if (json.asked()) {
      var n = Json.object().put("file", out.toString()).put("lines", lines.size());
      var list = n.putArray("frames");
      frames.forEach(list::add);
      text.println(Json.text(n));
    } else {
      text.printf(
          Locale.ROOT,
          "%s%n%d lines on %d of %d frames%n",
          out,
          lines.size(),
          frames.size(),
          (p.frames().count() + every - 1) / every);
    }
    return ExitCode.HOLDS;
  }

  private List<StraightLine> lines(PlateSequence p, List<Integer> frames, Progress progress) {
    List<StraightLine> lines = new ArrayList<>();
    for (int f = p.frames().first(); f <= p.frames().last(); f += every) {
      progress.step(f - p.frames().first(), p.frames().count());
      int frame = f;
      int before = lines.size();
      PlateLuma.of(p, f)
          .map(ChequerGrid::in)
          .ifPresent(
              all -> {
                for (int i = 0; i < all.size(); i++) {
                  lines.addAll(all.get(i).lines("board " + (i + 1), frame));
                }
              });
      if (lines.size() > before) {
        frames.add(f);
      }
    }
    return lines;
  }
}
