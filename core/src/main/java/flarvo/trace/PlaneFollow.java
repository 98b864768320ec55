package flarvo.trace;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Luma;
import flarvo.scene.Observations;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.IntFunction;

/**
 * Follows something flat by its four corners, as a whole: also where a part of it is hidden, and a
 * corner with it. From its first key back, from its last on, and between two keys from both.
 */
public final class PlaneFollow {

  /** Frames that it may be hidden. */
  private static final int MOST_HIDDEN = 12;

  /** Share of it that has to be seen. */
  private static final double LEAST_SEEN = 0.25;

  private static final double LEAST_SCORE = 0.6;

  /** What is seen by less than this is said. */
  private static final double WELL = 0.9;

  /** Seen so well, it may be taken anew where it has become larger or smaller by this. */
  private static final double WHOLLY_SEEN = 0.95;

  /** Seen so well, it is not looked for elsewhere. */
  private static final double WELL_SEEN = 0.5;

  /** Levels to begin with, one after the other. */
  private static final int[] TOPS = {1, 3};

  private static final double OTHER_SIZE = 1.7;

  /** From frame to frame it does not grow by more. */
  private static final double GROWS = 1.6;

  /** Within it, the ways from two keys are one; in pixels. */
  private static final double AGREE_PX = 1.5;

  /** Frames beside a key whose mean is the pattern. */
  private static final int AVERAGED = 12;

  private static final String[] CORNERS = {"_a", "_b", "_c", "_d"};
  private static final String CENTRE = "_centre";

  private final MaskShape plane;
  private final FrameRange frames;
  private final LevelsCache levels;
  private final Progress progress;
  private final List<String> notes = new ArrayList<>();
  private int done;
  private double least = 1; // share that was seen
  private int leastAt;
  private int width;
  private int height;

  private PlaneFollow(
      MaskShape plane, FrameRange frames, IntFunction<Optional<Luma>> plates, Progress progress) {
    this.plane = plane;
    this.frames = frames;
    this.progress = progress;
    levels = new LevelsCache(plates);
  }

  /** What the five tracks of a plane are called: its corners in order, and its centre. */
  public static List<String> tracks(String plane) {
    List<String> out = new ArrayList<>();
    for (String c : CORNERS) {
      out.add(plane + c);
    }
    out.add(plane + CENTRE);
    return out;
  }

  /**
   * The paths of a plane's corners and centre.
   *
   * @param plane its four corners on one frame or several, in pixels from the top left corner
   * @param frames of the plates
   * @param plates brightness by plate frame; empty where one is missing
   * @return in pixels from the top left corner, where they are in the picture; with notes
   * @throws InputError when it has not four corners, or cannot be followed from any key
   * @throws flarvo.work.Cancelled when the user asked to stop
   */
  public static Traced of(
      MaskShape plane, FrameRange frames, IntFunction<Optional<Luma>> plates, Progress progress) {
    for (Map.Entry<Integer, double[]> k : plane.keys().entrySet()) {
      if (k.getValue().length != 2 * Quad.CORNERS) {
        throw InputError.words(
            plane.name() + " has " + k.getValue().length / 2 + " corners",
            "A plane is drawn with four");
      }
      if (!new Quad(k.getValue()).isConvex()) {
        throw InputError.words(
            plane.name() + " is folded or has no size on frame " + k.getKey(),
            "Draw its corners one after the other, round it");
      }
      if (!frames.contains(k.getKey())) {
        throw InputError.words(
            plane.name() + " is drawn on frame " + k.getKey() + ", the plates have " + frames,
            "Draw it on one of them");
      }
    }
    return new PlaneFollow(plane, frames, plates, progress).run();
  }

  private Traced run() {
    TreeMap<Integer, Quad> path = new TreeMap<>();
    int first = plane.keys().firstKey();
    int last = plane.keys().lastKey();
    path.putAll(walk(first, frames.first() - 1, -1));
    Integer before = null;
    for (int now : plane.keys().keySet()) {
      if (before != null) {
        join(path, before, now, walk(before, now, 1), walk(now, before, -1));
      }
      before = now;
    }
    path.putAll(walk(last, frames.last() + 1, 1));
    plane.keys().forEach((f, c) -> path.put(f, centred(c)));
    if (least < WELL) {
      notes.add(
          String.format(
              Locale.ROOT,
              "%s is least visible on frame %d: %.0f %%",
              plane.name(),
              leastAt,
              100 * least));
    }
    return new Traced(
        observations(path),
        notes.stream().map(n -> new TraceNote(TraceNote.Kind.BY_HAND, first, n)).toList());
  }

  /** Centres of pixels are whole numbers in this package. */
  private static Quad centred(double[] corners) {
    double[] c = corners.clone();
    for (int i = 0; i < c.length; i++) {
      c[i] -= 0.5;
    }
    return new Quad(c);
  }

  private Observations observations(Map<Integer, Quad> path) {
    Observations.Builder b = new Observations.Builder();
    List<String> names = tracks(plane.name());
    path.forEach(
        (f, q) -> {
          for (int i = 0; i < Quad.CORNERS; i++) {
            see(b, names.get(i), f, q.x(i) + 0.5, q.y(i) + 0.5);
          }
          double[] c = q.centre();
          see(b, names.get(Quad.CORNERS), f, c[0] + 0.5, c[1] + 0.5);
        });
    return b.build();
  }

  private void see(Observations.Builder b, String name, int frame, double x, double y) {
    if (x >= 0 && y >= 0 && x <= width && y <= height) {
      b.add(name, frame, x, y);
    }
  }

  /** Between two keys; where their ways part, each holds on its own half. */
  private void join(
      TreeMap<Integer, Quad> path,
      int from,
      int to,
      Map<Integer, Quad> on,
      Map<Integer, Quad> back) {
    double worst = 0;
    int at = from;
    for (int f = from + 1; f < to; f++) {
      Quad a = on.get(f);
      Quad b = back.get(f);
      if (a == null || b == null) {
        if (a != null || b != null) {
          path.put(f, a == null ? b : a);
        }
        continue;
      }
      double t = (double) (f - from) / (to - from);
      double apart = a.distance(b);
      if (apart > worst) {
        worst = apart;
        at = f;
      }
      path.put(f, apart <= AGREE_PX ? a.towards(b, t) : t <= 0.5 ? a : b);
    }
    if (worst > AGREE_PX) {
      notes.add(
          String.format(
              Locale.ROOT,
              "between its keys on %d and %d the two ways are up to %.1f px apart; draw it on frame"
                  + " %d too",
              from,
              to,
              worst,
              at));
    }
  }

  /** Where it is from a key on, without the key's own; ends where it is lost. */
  private Map<Integer, Quad> walk(int from, int end, int step) {
    Optional<Levels> first = levels.at(from);
    if (first.isEmpty() || from + step == end) {
      return Map.of();
    }
    width = first.get().whole().width;
    height = first.get().whole().height;
    PlanePattern pattern = PlanePattern.of(first.get(), centred(plane.keys().get(from)));
    if (pattern == null) {
      throw InputError.words(
          plane.name() + " shows nothing to follow on frame " + from,
          "Draw it where it has detail, or on another frame");
    }
    Map<Levels, PlanePattern.Fit> fits = new LinkedHashMap<>();
    int near = step > 0 ? Math.min(end, from + AVERAGED + 1) : Math.max(end, from - AVERAGED - 1);
    walk(pattern, from, near, step, fits, new TreeMap<>());
    Map<Integer, Quad> out = new TreeMap<>();
    walk(pattern.averaged(first.get(), fits), from, end, step, new LinkedHashMap<>(), out);
    return out;
  }

  /**
   * @param fits the frames on which the pattern itself was found
   * @param out where it is
   */
  private void walk(
      PlanePattern first,
      int from,
      int end,
      int step,
      Map<Levels, PlanePattern.Fit> fits,
      Map<Integer, Quad> out) {
    PlanePattern pattern = first;
    Quad now = first.quad();
    Quad before = now;
    int hidden = 0;
    List<PlaneShapes.Seen> seen = new ArrayList<>();
    seen.add(new PlaneShapes.Seen(from, now, null));
    BitSet poorly = new BitSet();
    for (int frame = from + step; frame != end && hidden <= MOST_HIDDEN; frame += step) {
      progress.step(Math.min(done++, frames.count()), frames.count());
      Optional<Levels> next = levels.at(frame);
      PlanePattern.Fit fit =
          next.isEmpty() ? null : found(pattern, next.get(), now, now.towards(before, -1));
      if (fit == null) {
        hidden++;
        before = now;
        continue;
      }
      hidden = 0;
      before = now;
      now = fit.map().of(pattern.quad());
      out.put(frame, now);
      poorly.set(seen.size(), fit.seen() < WELL);
      seen.add(new PlaneShapes.Seen(frame, now, fit.covariance()));
      if (pattern == first && fits.size() < AVERAGED) {
        fits.put(next.get(), fit);
      }
      if (fit.seen() < least) {
        least = fit.seen();
        leastAt = frame;
      }
      double grown = now.area() / pattern.quad().area();
      if (fit.seen() > WHOLLY_SEEN && (grown > OTHER_SIZE || grown < 1 / OTHER_SIZE)) {
        PlanePattern anew = PlanePattern.of(next.get(), now);
        if (anew != null) {
          PlaneShapes.correct(seen, poorly, out);
          seen.clear();
          seen.add(new PlaneShapes.Seen(frame, now, null));
          poorly.clear();
          pattern = anew;
        }
      }
    }
    PlaneShapes.correct(seen, poorly, out);
  }

  /** From where it should be by its motion, or from where it was; null where it is not found. */
  private static PlanePattern.Fit found(
      PlanePattern pattern, Levels frame, Quad was, Quad expected) {
    PlanePattern.Fit best = null;
    for (int top : TOPS) {
      for (Quad q : expected.isConvex() ? List.of(expected, was) : List.of(was)) {
        Homography guess = Homography.between(pattern.quad(), q);
        PlanePattern.Fit f = guess == null ? null : pattern.find(frame, guess, top);
        if (f != null && holds(f, pattern, was) && (best == null || f.seen() > best.seen())) {
          best = f;
        }
        if (best != null && best.seen() > WELL_SEEN) {
          return best;
        }
      }
      if (best != null) {
        return best;
      }
    }
    return null;
  }

  private static boolean holds(PlanePattern.Fit f, PlanePattern pattern, Quad was) {
    Quad q = f.map().of(pattern.quad());
    double grown = q.area() / was.area();
    return f.seen() > LEAST_SEEN
        && f.score() > LEAST_SCORE
        && q.isConvex()
        && grown < GROWS
        && grown > 1 / GROWS;
  }
}
