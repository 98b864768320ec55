package flarvo.shotlist;

import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * What a shot list states about one shot.
 *
 * @param cut the frames in the edit, in the numbers of the plates; empty where the list does not
 *     state them
 * @param head frames of handle before the cut
 * @param tail frames of handle after the cut
 * @param count frames in the edit where only their number is stated
 * @param place where in the list, such as {@code line 4}
 */
public record ShotEntry(
    String name,
    Optional<FrameRange> cut,
    int head,
    int tail,
    OptionalInt count,
    Optional<Rate> rate,
    String place) {

  public ShotEntry {
    if (name.isBlank()) {
      throw new IllegalArgumentException("a shot needs a name");
    }
    if (head < 0 || tail < 0) {
      throw new IllegalArgumentException("handles cannot be negative");
    }
    if (cut.isPresent()) {
      whole(cut.get(), head, tail); // no shot is longer than a range can be
    }
  }

  /** The cut with its handles: the frames that plates and solve should have. */
  public Optional<FrameRange> frames() {
    return cut.map(c -> whole(c, head, tail));
  }

  private static FrameRange whole(FrameRange cut, int head, int tail) {
    return new FrameRange(cut.first() - head, cut.last() + tail);
  }

  /** The handles in words: {@code handles of 8}, {@code handles of 8 and 12}, or empty. */
  public String handles() {
    return head == 0 && tail == 0
        ? ""
        : head == tail ? "handles of " + head : "handles of " + head + " and " + tail;
  }
}
