package flarvo.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.trace.MaskJson;
import flarvo.trace.Mover;
import flarvo.trace.MoverMask;
import flarvo.trace.TraceOptions;
import flarvo.work.AtomicFile;
import java.io.PrintWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import picocli.CommandLine.Option;

/** Where what moves against the rest is written as masks; shared by several commands. */
final class MoverOptions {

  @Option(
      names = "--movers-out",
      paramLabel = "JSON",
      description = "what moves against the rest, as masks to write; see docs/trace.md")
  private Path file;

  /** Null where none is asked for. */
  Path file() {
    return file;
  }

  /**
   * Writes a mask around each.
   *
   * @param o features in pixels of the plates that were followed
   */
  void write(List<Mover> movers, Observations o, TraceOptions options, PrintWriter text) {
    if (movers.isEmpty()) {
      text.println("nothing moves against the rest, so " + file + " was not written");
      return;
    }
    ArrayNode masks = Json.object().putArray("masks");
    movers.forEach(m -> masks.add(MaskJson.write(MoverMask.of(m, o, 2.0 * options.radius()))));
    String json = Json.text(masks);
    AtomicFile.write(file, s -> s.write(json.getBytes(StandardCharsets.UTF_8)));
    text.println("wrote " + file + ": what moves, as masks");
  }

  /** A line for each. */
  static void say(List<Mover> movers, Observations o, PrintWriter text) {
    movers.forEach(
        m ->
            text.printf(
                Locale.ROOT,
                "left out: %s, %d features, frames %s%n",
                m.name(),
                m.features().size(),
                m.frames(o).map(FrameRange::toString).orElse("none")));
  }

  /** What moves, with its frames and features. */
  static ArrayNode document(List<Mover> movers, Observations o) {
    ArrayNode out = Json.object().putArray("movers");
    for (Mover m : movers) {
      ObjectNode n = out.addObject().put("name", m.name());
      m.frames(o).ifPresent(f -> n.put("firstFrame", f.first()).put("lastFrame", f.last()));
      ArrayNode features = n.putArray("features");
      m.features().forEach(features::add);
    }
    return out;
  }
}
