package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Contents;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.report.Note;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Where a solve is written, and in which dialect; its extension tells the format. */
final class SolveOutput {

  @Option(names = "--out", paramLabel = "FILE", description = "output file")
  private Path out;

  @Option(
      names = "--to",
      paramLabel = "D",
      description = "output dialect; default: right-handed, Y up, metres")
  private String to;

  @Mixin private OutputFiles files;

  /**
   * Checks before the work that the file may be written; nothing where none is asked for.
   *
   * @param beside other files of the command; null for one that is not asked for
   */
  void check(List<Path> inputs, Path... beside) {
    files.check(
        inputs,
        Stream.concat(Arrays.stream(beside), Stream.ofNullable(out))
            .filter(Objects::nonNull)
            .toList());
  }

  /** Null where nothing is to be written. */
  Path file() {
    return out;
  }

  /**
   * Writes the solve where that was asked for.
   *
   * @param text told what was written, and what was lost or changed
   */
  void write(Shot shot, Dialects dialects, PrintWriter text) {
    if (out == null) {
      return;
    }
    Dialect d = to == null ? Dialect.CANONICAL : dialects.get(to);
    Dispatcher.Sent sent =
        Dispatcher.send(
            shot,
            new Delivery(
                d.name(),
                d,
                Formats.forWriting(out),
                Contents.CAMERA_AND_TRACKERS,
                out.getFileName().toString()),
            out,
            Progress.NONE);
    text.println(
        "wrote "
            + out
            + ": camera and "
            + shot.trackerCount()
            + " trackers, frames "
            + sent.frames().recipientFrames()
            + " at "
            + sent.frames().recipientRate()
            + ", "
            + (to == null ? "right-handed, Y up, metres (--to was not given)" : d.name()));
    files.sayFolders(text);
    for (Note n : sent.notes()) {
      text.println("  " + n.kind().word() + ": " + n);
    }
  }
}
