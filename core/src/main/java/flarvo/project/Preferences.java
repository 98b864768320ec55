package flarvo.project;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ObjectNode;
import flarvo.format.Reach;
import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.report.StrictJson;
import flarvo.work.AtomicFile;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * What the user prefers, in one file: {@code preferences.json}, version 1.
 *
 * @param keepOnClose closing with unsaved work keeps it for later without a question
 * @param readOutside what scenes refer to is read wherever it lies
 * @param watchFiles files of the open shot that change, or get newer, are offered
 */
public record Preferences(boolean keepOnClose, boolean readOutside, boolean watchFiles) {

  public static final Preferences USUAL = new Preferences(false, false, true);

  private static final int VERSION = 1;
  private static final ObjectMapper MAPPER = new ObjectMapper();

  private static Path file(Path userFolder) {
    return userFolder.resolve("preferences.json");
  }

  /** As they were written; the usual ones where there are none, or what is there cannot be read. */
  public static Preferences read(Path userFolder) {
    Path file = file(userFolder);
    if (!Files.isRegularFile(file)) {
      return USUAL;
    }
    try {
      StrictJson n =
          StrictJson.of(MAPPER.readTree(TextSource.read(file, ReadLimits.USUAL)), "preferences");
      return new Preferences(
          n.flag("keepOnClose", false), n.flag("readOutside", false), n.flag("watchFiles", true));
    } catch (JsonProcessingException | InputError | IllegalArgumentException e) {
      return USUAL; // preferences are conveniences; the next change writes them anew
    }
  }

  /**
   * @throws InputError when the disk refuses
   */
  public void write(Path userFolder) {
    ObjectNode o = MAPPER.createObjectNode().put("version", VERSION);
    o.put("keepOnClose", keepOnClose).put("readOutside", readOutside).put("watchFiles", watchFiles);
    byte[] text = (o.toPrettyString() + "\n").getBytes(StandardCharsets.UTF_8);
    AtomicFile.write(file(userFolder), out -> out.write(text));
  }

  public Preferences withKeepOnClose(boolean keep) {
    return new Preferences(keep, readOutside, watchFiles);
  }

  public Preferences withReadOutside(boolean read) {
    return new Preferences(keepOnClose, read, watchFiles);
  }

  public Preferences withWatchFiles(boolean watch) {
    return new Preferences(keepOnClose, readOutside, watch);
  }

  /** Where files that scenes refer to may lie. */
  public Reach reach() {
    return readOutside ? Reach.ANYWHERE : Reach.BESIDE;
  }
}
