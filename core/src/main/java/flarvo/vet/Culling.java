package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import java.util.Comparator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/** A reason to leave trackers out: it chooses them, and says what it is. */
public sealed interface Culling {

  /** Trackers that it would leave out. */
  Set<String> chosen(Shot shot, Measures measures);

  /** For undo and diary, such as {@code over 1.00 px}. */
  String title();

  private static Set<String> which(
      Measures m, java.util.function.Predicate<TrackerMeasure> condition) {
    return m.trackers().stream()
        .filter(condition)
        .map(TrackerMeasure::name)
        .collect(Collectors.toCollection(LinkedHashSet::new));
  }

  /** Trackers whose RMS is over a limit. */
  record Over(double limitPx) implements Culling {
    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      return which(m, t -> t.rmsPx() > limitPx);
    }

    @Override
    public String title() {
      return String.format(Locale.ROOT, "over %.2f px", limitPx);
    }
  }

  /**
   * All but the best.
   *
   * @param share that stays, 0 to 1
   */
  record KeepBest(double share) implements Culling {
    public KeepBest {
      if (!(share >= 0 && share <= 1)) {
        throw new IllegalArgumentException("a share lies between 0 and 1, not at " + share);
      }
    }

    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      List<TrackerMeasure> known =
          m.trackers().stream()
              .filter(t -> !Double.isNaN(t.rmsPx()))
              .sorted(Comparator.comparingDouble(TrackerMeasure::rmsPx))
              .toList();
      long keep = Math.round(share * known.size());
      return known.stream()
          .skip(keep)
          .map(TrackerMeasure::name)
          .collect(Collectors.toCollection(LinkedHashSet::new));
    }

    @Override
    public String title() {
      return String.format(Locale.ROOT, "outside the best %.0f%%", 100 * share);
    }
  }

  /** Trackers that were seen in fewer frames. */
  record ShorterThan(int frames) implements Culling {
    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      return which(m, t -> t.frames() < frames);
    }

    @Override
    public String title() {
      return "shorter than " + frames + " frames";
    }
  }

  /**
   * Trackers whose rays hardly open.
   *
   * @param angle in radians
   */
  record LittleParallax(double angle) implements Culling {
    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      return which(m, t -> t.frames() > 0 && !(t.angle() >= angle));
    }

    @Override
    public String title() {
      return String.format(Locale.ROOT, "rays within %.1f°", Math.toDegrees(angle));
    }
  }

  /**
   * Trackers whose error wanders steadily instead of jittering: they sit on what moves, on a
   * reflection, or where edges at different depths cross.
   */
  record OnWhatMoves(double driftPx) implements Culling {

    /** How alike an error must be to the one before; noise stays well under it. */
    private static final double STEADY = 0.5;

    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      return which(m, t -> wanders(t, driftPx));
    }

    static boolean wanders(TrackerMeasure t, double driftPx) {
      // A few frames alone look alike by chance.
      double chance = 2 / Math.sqrt(Math.max(1, t.frames()));
      return t.likeness() > Math.max(STEADY, chance) && Math.max(t.driftPx(), t.rmsPx()) > driftPx;
    }

    @Override
    public String title() {
      return String.format(Locale.ROOT, "slipping, over %.2f px", driftPx);
    }
  }

  /**
   * Trackers that were seen inside a drawn region.
   *
   * @param outline x and y of each corner in canonical pixels, in turn
   */
  record InRegion(List<Double> outline, FrameRange frames) implements Culling {
    public InRegion {
      outline = List.copyOf(outline);
      if (outline.size() < 6 || outline.size() % 2 != 0) {
        throw new IllegalArgumentException("a region needs three corners or more");
      }
    }

    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      Observations o = shot.observations();
      return which(m, t -> seenInside(o, t.name()));
    }

    private boolean seenInside(Observations o, String name) {
      for (int row = o.firstRow(name); row >= 0 && row < o.endRow(name); row++) {
        if (frames.contains(o.frame(row)) && contains(o.x(row), o.y(row))) {
          return true;
        }
      }
      return false;
    }

    /** Even-odd rule. */
    public boolean contains(double x, double y) {
      boolean in = false;
      int n = outline.size();
      for (int i = 0; i < n; i += 2) {
        double ax = outline.get(i);
        double ay = outline.get(i + 1);
        double bx = outline.get((i + 2) % n);
        double by = outline.get((i + 3) % n);
        if (ay > y != by > y && x < ax + (y - ay) / (by - ay) * (bx - ax)) {
          in = !in;
        }
      }
      return in;
    }

    @Override
    public String title() {
      return "in a region, frames " + frames;
    }
  }

  /** Trackers that somebody chose. */
  record ByHand(Set<String> names) implements Culling {
    public ByHand {
      names = Set.copyOf(names);
    }

    @Override
    public Set<String> chosen(Shot shot, Measures m) {
      return which(m, t -> names.contains(t.name()));
    }

    @Override
    public String title() {
      return names.size() == 1 ? names.iterator().next() : names.size() + " chosen";
    }
  }
}
