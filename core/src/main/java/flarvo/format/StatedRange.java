package flarvo.format;

import flarvo.report.Note;
import flarvo.scene.FrameRange;
import java.util.List;

/**
 * Which frames a camera has where a file states a range and the camera has keys: the stated ones.
 * Outside its keys a value holds. Where keys and range have no frame in common, or the range is one
 * frame, the range is a default that nobody set, and the keys count.
 */
public final class StatedRange {

  private StatedRange() {}

  /**
   * @param stated by the file; null where it states none
   * @param keyed from the first key to the last; null without keys
   * @param place of the camera in the file, for the note where keys lie outside the range
   */
  public static FrameRange of(FrameRange stated, FrameRange keyed, String place, List<Note> notes) {
    if (keyed == null || stated == null) {
      return keyed != null ? keyed : stated != null ? stated : new FrameRange(0, 0);
    }
    boolean apart = keyed.last() < stated.first() || keyed.first() > stated.last();
    boolean chance = stated.count() == 1 && keyed.count() > 1;
    if (apart || chance) {
      notes.add(
          Note.assumed(
              place, "the file states " + stated + ", its keys run " + keyed + "; the keys count"));
      return keyed;
    }
    if (keyed.first() < stated.first() || keyed.last() > stated.last()) {
      notes.add(
          Note.ignored(
              place,
              "its keys run " + keyed + ", beyond the stated " + stated + "; those are left out"));
    }
    return stated;
  }
}
