package flarvo.receive;

import flarvo.report.Note;
import flarvo.scene.Observations;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * 2D tracks of several files put together. A tracker that several files track is taken from the
 * last of them, whole, since two trackings of one feature do not agree to the pixel.
 */
final class TrackMerge {

  private TrackMerge() {}

  private static List<ReceivedFile> tracked(List<ReceivedFile> files) {
    return files.stream().filter(f -> !f.scene().observations().isEmpty()).toList();
  }

  /** Every tracker's own file. */
  private static Map<String, ReceivedFile> owners(List<ReceivedFile> tracked) {
    Map<String, ReceivedFile> owner = new HashMap<>();
    for (ReceivedFile f : tracked) {
      f.scene().observations().names().forEach(n -> owner.put(n, f));
    }
    return owner;
  }

  /** In plate frames and canonical pixels. */
  @SuppressWarnings("ReferenceEquality") // one and the same file
  static Observations of(List<ReceivedFile> files) {
    List<ReceivedFile> tracked = tracked(files);
    if (tracked.size() < 2) {
      return tracked.isEmpty() ? Observations.NONE : tracked.get(0).scene().observations();
    }
    Map<String, ReceivedFile> owner = owners(tracked);
    Observations.Builder all = new Observations.Builder();
    for (ReceivedFile f : tracked) {
      Observations o = f.scene().observations();
      for (String name : o.names()) {
        if (owner.get(name) == f) {
          for (int row = o.firstRow(name); row < o.endRow(name); row++) {
            all.add(name, o.frame(row), o.x(row), o.y(row));
          }
        }
      }
    }
    return all.build();
  }

  /** What was put together, and whose track stands where several files have one. */
  @SuppressWarnings("ReferenceEquality")
  static List<Note> notes(List<ReceivedFile> files) {
    List<ReceivedFile> tracked = tracked(files);
    List<Note> notes = new ArrayList<>();
    if (tracked.size() < 2) {
      return notes;
    }
    Map<String, ReceivedFile> owner = owners(tracked);
    notes.add(Note.changed("2D tracks", "merged from " + tracked.size() + " files"));
    Map<String, Integer> replaced = new LinkedHashMap<>();
    for (ReceivedFile f : tracked) {
      for (String name : f.scene().observations().names()) {
        if (owner.get(name) != f) {
          replaced.merge(name(f.path()) + " and " + name(owner.get(name).path()), 1, Integer::sum);
        }
      }
    }
    replaced.forEach(
        (both, n) ->
            notes.add(
                Note.changed(
                    "2D tracks",
                    n
                        + (n == 1 ? " tracker is" : " trackers are")
                        + " in both "
                        + both
                        + "; the latter's tracks are used")));
    return notes;
  }

  private static String name(Path p) {
    return p.getFileName().toString();
  }
}
