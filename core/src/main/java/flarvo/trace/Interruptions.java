package flarvo.trace;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Tells a cut from a flash: nearly everything is lost at once in both, and behind a flash it is
 * there again.
 */
final class Interruptions {

  /** Frames that a flash may last. */
  private static final int LONGEST_FLASH = 4;

  /** Share of what was lost that is there again behind a flash. */
  private static final double BACK_AGAIN = 0.3;

  private List<Feature> lost = List.of();
  private int since;

  /** Nearly all were lost in this frame. */
  void begin(int frame, List<Feature> gone) {
    if (lost.isEmpty()) {
      lost = new ArrayList<>(gone);
      since = frame;
    }
  }

  /** After each frame: what is known by now. */
  Optional<TraceNote> at(int frame) {
    if (lost.isEmpty() || frame == since) {
      return Optional.empty();
    }
    long again = lost.stream().filter(Feature::live).count();
    if (again >= BACK_AGAIN * lost.size()) {
      int last = frame - 1;
      String where =
          last == since ? "frame " + since + " shows" : "frames " + since + "–" + last + " show";
      return end(TraceNote.Kind.FLASH, where + " something else for a moment");
    }
    return frame - since >= LONGEST_FLASH ? cut() : Optional.empty();
  }

  /** At the plate's end, where no more frames decide. */
  Optional<TraceNote> last() {
    return lost.isEmpty() ? Optional.empty() : cut();
  }

  private Optional<TraceNote> cut() {
    return end(TraceNote.Kind.CUT, "another picture begins at frame " + since);
  }

  private Optional<TraceNote> end(TraceNote.Kind kind, String text) {
    lost = List.of();
    return Optional.of(new TraceNote(kind, since, text));
  }
}
