package flarvo.plate.remap;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.report.InputError;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.HashMap;
import java.util.Map;

/**
 * Says of a sequence's pictures from what each was made: one line of JSON a picture, the last of a
 * frame counts. A line is added after its picture stands complete, so that a run which is killed at
 * any moment leaves no picture that passes for fresh and is not; a line that is cut off is no line.
 * Several processes may add to it.
 */
final class Stamp {

  private static final ObjectMapper MAPPER = new ObjectMapper();
  private static final int LONGEST_FILE = 256 << 20;

  private record Made(String how, String from, String to) {}

  private final Path file;
  private final Map<Integer, Made> made = new HashMap<>();

  private Stamp(Path file) {
    this.file = file;
  }

  /** The stamp as it stands; empty where there is none. */
  static Stamp read(Path file) {
    Stamp s = new Stamp(file);
    try {
      if (Files.isRegularFile(file) && Files.size(file) <= LONGEST_FILE) {
        String text = new String(Files.readAllBytes(file), StandardCharsets.UTF_8);
        text.lines().forEach(s::line);
      }
    } catch (IOException e) {
      throw new InputError(file.toString(), "", "the stamp cannot be read", "Remove it", e);
    }
    return s;
  }

  private void line(String line) {
    try {
      JsonNode n = MAPPER.readTree(line);
      if (n != null && n.path("frame").isInt()) {
        made.put(
            n.get("frame").asInt(),
            new Made(n.path("how").asText(), n.path("from").asText(), n.path("to").asText()));
      }
    } catch (JsonProcessingException e) {
      return; // cut off by the end of its process; its picture is made again
    }
  }

  /** Whether a picture is there and was made from this, in this way. */
  boolean isFresh(int frame, String how, Path from, Path to) {
    Made m = made.get(frame);
    return m != null
        && m.how.equals(how)
        && m.from.equals(identity(from))
        && !m.to.isEmpty()
        && m.to.equals(identity(to));
  }

  /**
   * Adds a line for a picture that stands complete.
   *
   * @param source identity of what it was made from, taken before it was read
   */
  synchronized void add(int frame, String how, String source, Path to) throws IOException {
    ObjectNode n = MAPPER.createObjectNode();
    n.put("frame", frame).put("how", how).put("from", source).put("to", identity(to));
    // A break before it, too: the line before may be one that was cut off.
    byte[] line = ("\n" + n + "\n").getBytes(StandardCharsets.UTF_8);
    try (FileChannel c =
        FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.APPEND)) {
      ByteBuffer b = ByteBuffer.wrap(line);
      while (b.hasRemaining()) {
        c.write(b);
      }
    }
  }

  /** Name, size and time of a file; empty where there is none. */
  static String identity(Path file) {
    try {
      return file.getFileName()
          + " "
          + Files.size(file)
          + " "
          + Files.getLastModifiedTime(file).toInstant();
    } catch (IOException e) {
      return "";
    }
  }
}
