package flarvo.trace;

import flarvo.report.InputError;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.IntFunction;

/**
 * Follows a feature that was marked by hand: from its first mark back, from its last on, and
 * between two marks from both, so that a correction on any frame is what the rest goes by.
 */
public final class HandFollow {

  /** Frames that it may be hidden. */
  private static final int MOST_HIDDEN = 8;

  /** Frames for which a pattern has to have held before it may be taken anew. */
  private static final int OLD = 5;

  private static final int ROUNDS = 12;

  /** Correlation below which it is said where it is least. */
  private static final double DOUBTFUL = 0.9;

  /** Correlation with the mark's own pattern below which it is something else. */
  private static final double STILL_ALIKE = 0.6;

  private static final double STRAY_PX = 3;

  /** Within it, the ways from two marks are one; in pixels. */
  private static final double AGREE_PX = 1.5;

  /** Who marks by hand has seen that it is a feature. */
  private static final double ERROR_PX = 0.3;

  private final HandFeature feature;
  private final Progress progress;
  private final Follower follower;
  private final List<String> notes = new ArrayList<>();
  private final LevelsCache levels;
  private int done;
  private double least = 1; // correlation with the pattern, of all frames
  private int leastAt;

  private HandFollow(HandFeature feature, IntFunction<Optional<Luma>> plates, Progress progress) {
    this.feature = feature;
    this.progress = progress;
    follower =
        new Follower(
            new TraceOptions(1, feature.radius(), ERROR_PX),
            feature.searchPx().orElse(Double.POSITIVE_INFINITY));
    levels = new LevelsCache(plates);
  }

  /**
   * The path of a feature.
   *
   * @param feature in pixels of its plates, see {@link PlatePixels}
   * @param plates brightness by plate frame; empty where one is missing
   * @return in pixels of the plates from the top left corner; with notes, a sentence each
   * @throws InputError when it has no mark
   * @throws flarvo.work.Cancelled when the user asked to stop
   */
  public static Traced of(
      HandFeature feature, IntFunction<Optional<Luma>> plates, Progress progress) {
    if (feature.marks().isEmpty()) {
      throw InputError.words(feature.name() + " has no mark", "Mark it in a frame first");
    }
    return new HandFollow(feature, plates, progress).run();
  }

  private Traced run() {
    NavigableMap<Integer, HandFeature.Mark> marks = feature.marks();
    TreeMap<Integer, double[]> path = new TreeMap<>();
    path.putAll(walk(marks.firstKey(), feature.within().first() - 1, -1));
    Integer before = null;
    for (int now : marks.keySet()) {
      if (before != null) {
        join(path, before, now, walk(before, now, 1), walk(now, before, -1));
      }
      before = now;
    }
    path.putAll(walk(marks.lastKey(), feature.within().last() + 1, 1));
    marks.forEach((f, m) -> path.put(f, new double[] {m.x(), m.y()}));
    if (least < DOUBTFUL) {
      notes.add(
          String.format(
              Locale.ROOT,
              "it is least like its pattern on frame %d, correlation %.2f",
              leastAt,
              least));
    }
    Observations.Builder b = new Observations.Builder();
    path.forEach((f, p) -> b.add(feature.name(), f, p[0], p[1]));
    List<TraceNote> said =
        notes.stream()
            .map(n -> new TraceNote(TraceNote.Kind.BY_HAND, marks.firstKey(), n))
            .toList();
    return new Traced(b.build(), said);
  }

  /** Between two marks; where their ways part, each holds on its own half. */
  private void join(
      TreeMap<Integer, double[]> path,
      int from,
      int to,
      Map<Integer, double[]> on,
      Map<Integer, double[]> back) {
    double worst = 0;
    int at = from;
    for (int f = from + 1; f < to; f++) {
      double[] a = on.get(f);
      double[] b = back.get(f);
      if (a == null || b == null) {
        if (a != null || b != null) {
          path.put(f, a == null ? b : a);
        }
        continue;
      }
      double w = (double) (to - f) / (to - from);
      double apart = Math.hypot(a[0] - b[0], a[1] - b[1]);
      if (apart > worst) {
        worst = apart;
        at = f;
      }
      path.put(
          f,
          apart <= AGREE_PX
              ? new double[] {w * a[0] + (1 - w) * b[0], w * a[1] + (1 - w) * b[1]}
              : w >= 0.5 ? a : b);
    }
    if (worst > AGREE_PX) {
      notes.add(
          String.format(
              Locale.ROOT,
              "between its marks on %d and %d the two ways are up to %.1f px apart; mark it on"
                  + " frame %d too",
              from,
              to,
              worst,
              at));
    }
  }

  /** Places from a mark on, without the mark's own; ends where it is lost. */
  private Map<Integer, double[]> walk(int from, int end, int step) {
    Map<Integer, double[]> out = new TreeMap<>();
    HandFeature.Mark m = feature.marks().get(from);
    Optional<Levels> first = levels.at(from);
    if (first.isEmpty() || from + step == end) {
      return out;
    }
    // Centres of pixels are whole numbers in this package.
    Feature f = new Feature(new Pattern(feature.radius()), m.x() - 0.5, m.y() - 0.5);
    if (!f.known.take(first.get().whole(), f.x(), f.y())) {
      notes.add(
          "round its mark on frame " + from + " there is nothing to follow, or the picture ends");
      return out;
    }
    Pattern origin = new Pattern(feature.radius());
    origin.take(first.get().whole(), f.x(), f.y());
    Levels last = first.get();
    double px = f.x();
    double py = f.y();
    for (int frame = from + step; frame != end && !f.ended; frame += step) {
      progress.step(Math.min(done++, feature.within().count()), feature.within().count());
      px += f.vx;
      py += f.vy;
      Optional<Levels> next = levels.at(frame);
      boolean seen =
          next.isPresent()
              && (f.hidden == 0
                      && follower.follow(f, last, next.get(), px, py, true) == Follower.Step.SURE
                  || follower.findAgain(f, next.get(), px, py)
                  || f.hidden == 0 && f.age >= OLD && anew(f, last, next.get(), px, py));
      if (!seen) {
        if (++f.hidden > MOST_HIDDEN) {
          break;
        }
        continue;
      }
      if (f.age == 0 && !isStill(origin, next.get(), f)) {
        break; // the pattern was taken anew of something else
      }
      f.hidden = 0;
      px = f.x();
      py = f.y();
      last = next.get();
      out.put(frame, new double[] {px + 0.5, py + 0.5});
      if (f.score < least) {
        least = f.score;
        leastAt = frame;
      }
    }
    return out;
  }

  /** Looks other than it did: goes on by how it looks now, where the step there and back agrees. */
  private boolean anew(Feature f, Levels from, Levels to, double px, double py) {
    double[] was = f.warp.clone();
    if (follower.carry(f, from, to, px, py) && f.known.take(to.whole(), f.x(), f.y())) {
      f.takenAnew();
      f.score = 1;
      f.sure = true;
      f.unsure = 0;
      return true;
    }
    f.warp = was;
    return false;
  }

  /** Whether it is still somewhat like its mark, so that it is not what passes before it. */
  private static boolean isStill(Pattern origin, Levels to, Feature f) {
    double[] there = f.warp.clone();
    double score = origin.fit(to.whole(), there, ROUNDS);
    return score >= STILL_ALIKE && Math.hypot(there[0] - f.x(), there[1] - f.y()) <= STRAY_PX;
  }
}
