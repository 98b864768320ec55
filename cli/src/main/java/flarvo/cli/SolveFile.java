package flarvo.cli;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.format.Formats;
import flarvo.scene.Shot;
import flarvo.work.Progress;
import java.nio.file.Path;

/** Writes a solve as a file; its extension tells the format. */
final class SolveFile {

  private SolveFile() {}

  /**
   * @param to a dialect's name; null keeps the canonical space and plate frames
   */
  static void write(Shot shot, Path out, String to, Dialects dialects) {
    Dialect d = to == null ? Dialect.CANONICAL : dialects.get(to);
    Dispatcher.send(
        shot,
        new Delivery(
            d.name(),
            d,
            Formats.forWriting(out),
            Delivery.Contents.CAMERA_AND_TRACKERS,
            out.getFileName().toString()),
        out,
        Progress.NONE);
  }
}
