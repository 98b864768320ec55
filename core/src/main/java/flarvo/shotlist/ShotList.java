package flarvo.shotlist;

import flarvo.format.ReadLimits;
import flarvo.format.TextSource;
import flarvo.report.InputError;
import flarvo.report.Note;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;

/**
 * The shots of a show as editorial lists them: a table (CSV) or a timeline (OpenTimelineIO JSON).
 *
 * @param notes what was left out or assumed
 */
public record ShotList(Path file, List<ShotEntry> shots, List<Note> notes) {

  public ShotList {
    shots = List.copyOf(shots);
    notes = List.copyOf(notes);
  }

  /**
   * Reads a list. The content decides which kind it is, not the extension.
   *
   * @throws InputError when it is neither kind, or a value cannot be read, with its place
   */
  public static ShotList read(Path file) {
    String text = TextSource.read(file, ReadLimits.USUAL);
    ShotList list =
        text.stripLeading().startsWith("{")
            ? new TimelineReader(file).read(text)
            : new ShotTable(file).read(text);
    if (list.shots.isEmpty()) {
      throw new InputError(file.toString(), "", "the list contains no shot", "Check the file");
    }
    return list;
  }

  /** The entry of a shot; upper and lower case do not matter. */
  public Optional<ShotEntry> of(String shot) {
    return shots.stream().filter(s -> s.name().equalsIgnoreCase(shot)).findFirst();
  }
}
