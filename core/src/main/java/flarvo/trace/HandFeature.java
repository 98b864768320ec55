package flarvo.trace;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import java.util.Collections;
import java.util.Locale;
import java.util.NavigableMap;
import java.util.Objects;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.TreeMap;

/**
 * A feature that was marked by hand, and where it was found from its marks.
 *
 * @param plates in which it is marked
 * @param radius of its pattern: pixels of the plates to each side of its centre
 * @param marks place by plate frame, in pixels of the shot's picture from its top left corner
 * @param within frames on which it may be; outside, it is known not to be seen
 * @param searchPx pixels of the shot's picture, from where its last step leads, within which it is
 *     looked for; empty as far as the pyramid reaches
 * @param path every place, the marks among them, as 2D track of its name
 */
public record HandFeature(
    String name,
    PlateRole plates,
    int radius,
    NavigableMap<Integer, Mark> marks,
    FrameRange within,
    OptionalDouble searchPx,
    Observations path) {

  public static final double SMALLEST_SEARCH_PX = 1;
  public static final double LARGEST_SEARCH_PX = 1000;

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
    if (searchPx.isPresent()
        && !(searchPx.getAsDouble() >= SMALLEST_SEARCH_PX
            && searchPx.getAsDouble() <= LARGEST_SEARCH_PX)) {
      throw new IllegalArgumentException(
          String.format(
              Locale.ROOT,
              "a search area is %.0f to %.0f px, not %s",
              SMALLEST_SEARCH_PX,
              LARGEST_SEARCH_PX,
              searchPx.getAsDouble()));
    }
    if (name.isBlank()) {
      throw new IllegalArgumentException("a feature needs a name");
    }
    marks = Collections.unmodifiableNavigableMap(new TreeMap<>(marks));
  }

  /** Nothing marked yet. */
  public static HandFeature of(String name, PlateRole plates, int radius, FrameRange within) {
    return new HandFeature(
        name, plates, radius, new TreeMap<>(), within, OptionalDouble.empty(), Observations.NONE);
  }

  /** With a mark more, or another one on its frame; its path is to be followed anew. */
  public HandFeature with(int frame, Mark m) {
    TreeMap<Integer, Mark> all = new TreeMap<>(marks);
    all.put(frame, m);
    FrameRange reach =
        within.contains(frame)
            ? within
            : new FrameRange(Math.min(frame, within.first()), Math.max(frame, within.last()));
    return new HandFeature(name, plates, radius, all, reach, searchPx, path);
  }

  /** With the path that was found. */
  public HandFeature along(Observations found) {
    return new HandFeature(name, plates, radius, marks, within, searchPx, found);
  }

  /**
   * With another search area; its path is to be followed anew.
   *
   * @throws IllegalArgumentException when it is out of range
   */
  public HandFeature searchedWithin(OptionalDouble px) {
    return new HandFeature(name, plates, radius, marks, within, px, path);
  }

  /**
   * Where it is expected on a frame: where the step between the two frames before leads; where it
   * was, or is, without one. Empty where it is seen nowhere near.
   *
   * @return x and y in pixels of the shot's picture
   */
  public Optional<double[]> expected(int frame) {
    int a = path.row(name, frame - 2);
    int b = path.row(name, frame - 1);
    int c = path.row(name, frame);
    if (b >= 0) {
      double vx = a < 0 ? 0 : path.x(b) - path.x(a);
      double vy = a < 0 ? 0 : path.y(b) - path.y(a);
      return Optional.of(new double[] {path.x(b) + vx, path.y(b) + vy});
    }
    return c < 0 ? Optional.empty() : Optional.of(new double[] {path.x(c), path.y(c)});
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
    return new HandFeature(name, plates, radius, left, part, searchPx, b.build());
  }
}
