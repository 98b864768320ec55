package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** Frames that see too few trackers for a camera: it is interpolated there. */
public final class InterpolatedFrames {

  /** Three trackers leave a camera up to four places to stand. */
  private static final int FEWEST_TO_STAND = 4;

  /** One leaves the roll of a tripod free. */
  private static final int FEWEST_TO_TURN = 2;

  private InterpolatedFrames() {}

  /** Trackers that a frame has to see, for a camera that moves or a tripod. */
  public static int fewest(boolean tripod) {
    return tripod ? FEWEST_TO_TURN : FEWEST_TO_STAND;
  }

  /**
   * The frames of a solve whose camera is interpolated, in order.
   *
   * @param without trackers that are not in the solve
   */
  public static List<FrameRange> of(
      Observations o, Set<String> without, FrameRange frames, boolean tripod) {
    int[] rows = new int[frames.count()];
    for (String n : o.names()) {
      for (int row = o.firstRow(n); row < o.endRow(n) && !without.contains(n); row++) {
        if (frames.contains(o.frame(row))) {
          rows[o.frame(row) - frames.first()]++;
        }
      }
    }
    List<FrameRange> out = new ArrayList<>();
    for (int i = 0; i < rows.length; i++) {
      int from = i;
      while (i < rows.length && rows[i] < fewest(tripod)) {
        i++;
      }
      if (i > from) {
        out.add(new FrameRange(frames.first() + from, frames.first() + i - 1));
      }
    }
    return out;
  }

  /** As {@code 14–22}, or one number. */
  public static String words(FrameRange r) {
    return r.count() == 1 ? String.valueOf(r.first()) : r.first() + "–" + r.last();
  }

  /**
   * A sentence that names the frames at either end of the plates for which a solve has no camera;
   * empty where it has one for all.
   */
  public static String withoutCamera(FrameRange plates, FrameRange solved) {
    List<FrameRange> none = new ArrayList<>();
    if (plates.first() < solved.first()) {
      none.add(new FrameRange(plates.first(), Math.min(plates.last(), solved.first() - 1)));
    }
    if (plates.last() > solved.last()) {
      none.add(new FrameRange(Math.max(plates.first(), solved.last() + 1), plates.last()));
    }
    return none.isEmpty()
        ? ""
        : "There is no camera where no trackers are seen: frames " + words(none) + ".";
  }

  /** A sentence that names them; empty where there are none. */
  public static String sentence(List<FrameRange> interpolated) {
    return interpolated.isEmpty()
        ? ""
        : "The camera is interpolated where too few trackers are seen: frames "
            + words(interpolated)
            + ".";
  }

  private static String words(List<FrameRange> ranges) {
    return ranges.stream().map(InterpolatedFrames::words).collect(Collectors.joining(", "));
  }
}
