package flarvo.trace;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Something in the picture that does not move as the scene does.
 *
 * @param features that are on it, sorted
 */
public record Mover(String name, List<String> features) {

  /**
   * @throws IllegalArgumentException without a name, or without features
   */
  public Mover {
    features = List.copyOf(new TreeSet<>(features));
    if (name.isBlank() || features.isEmpty()) {
      throw new IllegalArgumentException("what moves has a name, and features");
    }
  }

  /** Frames on which any of its features is seen; empty where none is there. */
  public Optional<FrameRange> frames(Observations o) {
    return only(o, Set.copyOf(features), true).range();
  }

  /** The tracks of its features alone. */
  public Observations of(Observations o) {
    return only(o, Set.copyOf(features), true);
  }

  /** What was found, in words without an end. */
  public static String words(List<Mover> movers) {
    if (movers.isEmpty()) {
      return "nothing moves against the rest";
    }
    int features = movers.stream().mapToInt(m -> m.features().size()).sum();
    return (movers.size() == 1 ? "one object moves" : movers.size() + " objects move")
        + " against the rest; their "
        + features
        + " features are left out";
  }

  /** Tracks without what is on any of some movers. */
  static Observations without(Observations o, List<Mover> movers) {
    if (movers.isEmpty()) {
      return o;
    }
    Set<String> on = new TreeSet<>();
    movers.forEach(m -> on.addAll(m.features()));
    return only(o, on, false);
  }

  private static Observations only(Observations o, Set<String> names, boolean in) {
    Observations.Builder b = new Observations.Builder();
    for (String n : o.names()) {
      if (names.contains(n) == in) {
        for (int row = o.firstRow(n); row < o.endRow(n); row++) {
          b.add(n, o.frame(row), o.x(row), o.y(row));
        }
      }
    }
    return b.build();
  }
}
