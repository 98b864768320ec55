package flarvo.trace;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import java.util.Collections;
import java.util.NavigableMap;
import java.util.Objects;
import java.util.TreeMap;

/**
 * A feature that was marked by hand, and where it was found from its marks.
 *
 * @param plates in whose pixels it is
 * @param radius of its pattern: pixels to each side of its centre
 * @param marks place by plate frame, in pixels from the top left corner of the picture
 * @param within frames on which it may be; outside, it is known not to be seen
 * @param path every place, the marks among them, as 2D track of its name
 */
public record HandFeature(
    String name,
    PlateRole plates,
    int radius,
    NavigableMap<Integer, Mark> marks,
    FrameRange within,
    Observations path) {

  /** A place in the picture, in pixels. */
  public record Mark(double x, double y) {
    public Mark {
      if (!(Math.abs(x) < 1e6 && Math.abs(y) < 1e6)) {
        throw new IllegalArgumentException("a mark at " + x + ", " + y);
      }
    }
  }

  public HandFeature {
    Objects.requireNonNull(plates);
    Objects.requireNonNull(within);
    Objects.requireNonNull(path);
    if (name.isBlank()) {
      throw new IllegalArgumentException("a feature needs a name");
    }
    marks = Collections.unmodifiableNavigableMap(new TreeMap<>(marks));
  }

  /** Nothing marked yet. */
  public static HandFeature of(String name, PlateRole plates, int radius, FrameRange within) {
    return new HandFeature(name, plates, radius, new TreeMap<>(), within, Observations.NONE);
  }

  /** With a mark more, or another one on its frame; its path is to be followed anew. */
  public HandFeature with(int frame, Mark m) {
    TreeMap<Integer, Mark> all = new TreeMap<>(marks);
    all.put(frame, m);
    FrameRange reach =
        within.contains(frame)
            ? within
            : new FrameRange(Math.min(frame, within.first()), Math.max(frame, within.last()));
    return new HandFeature(name, plates, radius, all, reach, path);
  }

  /** With the path that was found. */
  public HandFeature along(Observations found) {
    return new HandFeature(name, plates, radius, marks, within, found);
  }

  /**
   * On some of its frames only; marks outside are taken away.
   *
   * @throws IllegalArgumentException when no mark is left
   */
  public HandFeature only(FrameRange part) {
    TreeMap<Integer, Mark> left =
        new TreeMap<>(marks.subMap(part.first(), true, part.last(), true));
    if (left.isEmpty()) {
      throw new IllegalArgumentException("no mark of " + name + " is on frames " + part);
    }
    Observations.Builder b = new Observations.Builder();
    for (int row = path.firstRow(name); row >= 0 && row < path.endRow(name); row++) {
      if (part.contains(path.frame(row))) {
        b.add(name, path.frame(row), path.x(row), path.y(row));
      }
    }
    return new HandFeature(name, plates, radius, left, part, b.build());
  }
}
