package flarvo.stage;

import flarvo.level.Neighbours;
import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * A second solve of a shot laid on the first by trackers that both have.
 *
 * @param onto from the second solve's space to the first's
 * @param pairs trackers of the first by those of the second
 * @param by how the pairs were found
 * @param residuals distance of each pair in the first's solve space, in the order of {@code pairs}
 * @param px what still differs in the picture: for each frame of both, RMS over places that the
 *     first knows; NaN where nothing is in view
 */
public record SolveOnSolve(
    Similarity onto,
    Map<String, String> pairs,
    By by,
    double[] residuals,
    FrameRange frames,
    double[] px) {

  /** How trackers of two solves are known to be the same. */
  public enum By {
    NAME("by name"),
    TRACKS("by their 2D tracks"),
    PLACE("by place");

    private final String word;

    By(String word) {
      this.word = word;
    }

    public String word() {
      return word;
    }
  }

  private static final int LEAST_PAIRS = 4;

  /** Tracks that stay this near to each other follow one thing. */
  private static final double SAME_PX = 1.5;

  private static final int LEAST_FRAMES = 5;

  /** Pairs further apart than so many times the median are not one thing. */
  private static final double FAR = 6;

  private static final int ROUNDS = 12;

  public SolveOnSolve {
    pairs = Map.copyOf(pairs);
  }

  /**
   * By name where names are shared, else by 2D tracks, else by place.
   *
   * @throws InputError where they share too little
   */
  public static SolveOnSolve of(Shot first, Shot second) {
    return of(first, second, Progress.NONE);
  }

  /** The same, for those who watch and may cancel. */
  public static SolveOnSolve of(Shot first, Shot second, Progress progress) {
    List<String> tried = new ArrayList<>();
    for (By by : By.values()) {
      Map<String, String> pairs =
          switch (by) {
            case NAME -> byName(first, second);
            case TRACKS -> byTracks(first, second, progress);
            case PLACE -> byPlace(first, second);
          };
      progress.step(tried.size() + 1, By.values().length + 1);
      tried.add(pairs.size() + " " + by.word());
      if (pairs.size() >= LEAST_PAIRS) {
        SolveOnSolve s = fit(first, second, pairs, by);
        // Names alone may mean other things in another solve; the picture tells.
        if (by == By.PLACE || isOneShot(s, first)) {
          return s;
        }
        tried.set(tried.size() - 1, tried.get(tried.size() - 1) + ", which do not agree");
      }
    }
    throw InputError.words(
        "the two solves share too few trackers (" + String.join("; ", tried) + ")",
        "Bring the 2D tracks of both, or state the level of the second by hand");
  }

  /**
   * Aligns one solve to another.
   *
   * @throws InputError when they have too little in common
   */
  public static SolveOnSolve of(Shot first, Shot second, By by) {
    Map<String, String> pairs =
        switch (by) {
          case NAME -> byName(first, second);
          case TRACKS -> byTracks(first, second, Progress.NONE);
          case PLACE -> byPlace(first, second);
        };
    if (pairs.size() < LEAST_PAIRS) {
      throw InputError.words(
          "the two solves share " + pairs.size() + " trackers " + by.word(), "Try another way");
    }
    return fit(first, second, pairs, by);
  }

  /** RMS difference at a frame in pixels. */
  public double rmsPx() {
    double[] v = Arrays.stream(px).filter(d -> !Double.isNaN(d)).toArray();
    return v.length == 0
        ? Double.NaN
        : Math.sqrt(Arrays.stream(v).map(d -> d * d).sum() / v.length);
  }

  /** Largest difference at a frame in pixels. */
  public double maxPx() {
    return Arrays.stream(px).filter(d -> !Double.isNaN(d)).max().orElse(Double.NaN);
  }

  /** Median distance of common trackers after alignment, in metres. */
  public double medianResidual() {
    return median(residuals);
  }

  /** What came of it, in metres of the first's level. */
  public String words(Similarity level) {
    return String.format(
        Locale.ROOT,
        "Laid on %s: %d shared trackers, median distance %.4f m; the picture differs by %.2f px"
            + " (RMS), %.2f px at the worst frame.",
        by.word(),
        pairs.size(),
        medianResidual() * level.scale(),
        rmsPx(),
        maxPx());
  }

  /** Whether most of what is shared agrees to a small part of the scene. */
  private static boolean isOneShot(SolveOnSolve s, Shot first) {
    double reach = 0;
    Map<String, Vec3> places = Staging.places(first);
    List<Vec3> at = s.pairs.values().stream().map(places::get).toList();
    Vec3 middle = Vec3.ZERO;
    for (Vec3 v : at) {
      middle = middle.plus(v.times(1.0 / at.size()));
    }
    for (Vec3 v : at) {
      reach += v.minus(middle).length() / at.size();
    }
    return s.medianResidual() < 0.1 * reach;
  }

  private static SolveOnSolve fit(Shot first, Shot second, Map<String, String> pairs, By by) {
    Map<String, Vec3> to = Staging.places(first);
    Map<String, Vec3> from = Staging.places(second);
    List<String> names = new ArrayList<>(new TreeMap<>(pairs).keySet());
    List<Vec3> a = names.stream().map(from::get).toList();
    List<Vec3> b = names.stream().map(n -> to.get(pairs.get(n))).toList();
    Similarity s = SimilarityFit.robust(a, b);
    // What lies far off after all is no pair; the rest decides once more.
    double[] d = distances(s, a, b);
    double limit = FAR * median(d);
    Map<String, String> kept = new HashMap<>();
    List<Vec3> fromKept = new ArrayList<>();
    List<Vec3> toKept = new ArrayList<>();
    for (int i = 0; i < d.length; i++) {
      if (d[i] <= limit) {
        kept.put(names.get(i), pairs.get(names.get(i)));
        fromKept.add(a.get(i));
        toKept.add(b.get(i));
      }
    }
    s = SimilarityFit.robust(fromKept, toKept);
    FrameRange frames = shared(first, second);
    return new SolveOnSolve(
        s, kept, by, distances(s, fromKept, toKept), frames, differs(first, second, s, frames));
  }

  private static double[] distances(Similarity s, List<Vec3> a, List<Vec3> b) {
    double[] d = new double[a.size()];
    for (int i = 0; i < d.length; i++) {
      d[i] = s.apply(a.get(i)).minus(b.get(i)).length();
    }
    return d;
  }

  private static double median(double[] v) {
    double[] sorted = v.clone();
    Arrays.sort(sorted);
    return sorted.length == 0 ? Double.NaN : sorted[sorted.length / 2];
  }

  private static FrameRange shared(Shot first, Shot second) {
    FrameRange a = camera(first).frames();
    FrameRange b = camera(second).frames();
    int lo = Math.max(a.first(), b.first());
    int hi = Math.min(a.last(), b.last());
    if (lo > hi) {
      throw InputError.words(
          "the first solve is of frames " + a + ", the second of " + b,
          "Rule on the first frame of the second");
    }
    return new FrameRange(lo, hi);
  }

  private static ShotCamera camera(Shot s) {
    return s.camera()
        .orElseThrow(() -> InputError.words("a solve has no camera", "Bring one with a camera"));
  }

  /** Places of the first through both cameras: what was set there moves by this in the picture. */
  private static double[] differs(Shot first, Shot second, Similarity s, FrameRange frames) {
    Similarity back = s.inverse();
    Pinhole p = new Pinhole(camera(first), first.picture());
    Pinhole q = new Pinhole(camera(second), second.picture());
    List<Vec3> places = new ArrayList<>(Staging.places(first).values());
    double kx = (double) first.picture().width() / second.picture().width();
    double ky = (double) first.picture().height() / second.picture().height();
    double[] a = new double[3];
    double[] b = new double[3];
    double[] out = new double[frames.count()];
    for (int f = frames.first(); f <= frames.last(); f++) {
      p.at(f);
      q.at(f);
      double sum = 0;
      int n = 0;
      for (Vec3 v : places) {
        Vec3 w = back.apply(v);
        p.project(v.x(), v.y(), v.z(), a);
        q.project(w.x(), w.y(), w.z(), b);
        boolean inside =
            a[2] > 0
                && b[2] > 0
                && a[0] >= 0
                && a[1] >= 0
                && a[0] <= first.picture().width()
                && a[1] <= first.picture().height();
        if (inside) {
          double dx = a[0] - kx * b[0];
          double dy = a[1] - ky * b[1];
          sum += dx * dx + dy * dy;
          n++;
        }
      }
      out[f - frames.first()] = n == 0 ? Double.NaN : Math.sqrt(sum / n);
    }
    return out;
  }

  private static Map<String, String> byName(Shot first, Shot second) {
    Set<String> there = Staging.places(first).keySet();
    Map<String, String> out = new HashMap<>();
    for (String n : Staging.places(second).keySet()) {
      if (there.contains(n)) {
        out.put(n, n);
      }
    }
    return out;
  }

  /** Tracks that go together over all frames that they share. */
  private static Map<String, String> byTracks(Shot first, Shot second, Progress progress) {
    Observations a = first.observations();
    Observations b = second.observations();
    Map<String, String> out = new HashMap<>();
    if (a.isEmpty() || b.isEmpty()) {
      return out;
    }
    // A grid over the picture at each frame finds who is near.
    Map<Long, List<Integer>> cells = new HashMap<>();
    List<String> names = a.names();
    Set<String> standing = Staging.places(first).keySet();
    for (int t = 0; t < names.size(); t++) {
      if (!standing.contains(names.get(t))) {
        continue;
      }
      for (int row = a.firstRow(names.get(t)); row < a.endRow(names.get(t)); row++) {
        cells
            .computeIfAbsent(cell(a.frame(row), a.x(row), a.y(row), 0, 0), k -> new ArrayList<>())
            .add(t);
      }
    }
    Set<String> taken = new HashSet<>();
    for (String n : new java.util.TreeSet<>(Staging.places(second).keySet())) {
      progress.step(0, 0);
      int first2 = b.firstRow(n);
      if (first2 < 0) {
        continue;
      }
      Map<Integer, Integer> near = new HashMap<>();
      for (int row = first2; row < b.endRow(n); row++) {
        for (int dx = -1; dx <= 1; dx++) {
          for (int dy = -1; dy <= 1; dy++) {
            for (int t :
                cells.getOrDefault(cell(b.frame(row), b.x(row), b.y(row), dx, dy), List.of())) {
              int there = a.row(names.get(t), b.frame(row));
              if (Math.hypot(a.x(there) - b.x(row), a.y(there) - b.y(row)) < SAME_PX) {
                near.merge(t, 1, Integer::sum);
              }
            }
          }
        }
      }
      int best = -1;
      int most = 0;
      for (Map.Entry<Integer, Integer> e : near.entrySet()) {
        if (e.getValue() > most) {
          most = e.getValue();
          best = e.getKey();
        }
      }
      if (best >= 0 && most >= LEAST_FRAMES && 2 * most > sharedFrames(a, names.get(best), b, n)) {
        if (taken.add(names.get(best))) {
          out.put(n, names.get(best));
        }
      }
    }
    return out;
  }

  private static int sharedFrames(Observations a, String x, Observations b, String y) {
    int n = 0;
    for (int row = b.firstRow(y); row < b.endRow(y); row++) {
      n += a.row(x, b.frame(row)) >= 0 ? 1 : 0;
    }
    return n;
  }

  private static long cell(int frame, double x, double y, int dx, int dy) {
    long cx = (long) Math.floor(x / SAME_PX) + dx;
    long cy = (long) Math.floor(y / SAME_PX) + dy;
    return ((long) frame << 42) ^ ((cx & 0x1FFFFF) << 21) ^ (cy & 0x1FFFFF);
  }

  /** From the way that both cameras took, then nearest to nearest, again and again. */
  private static Map<String, String> byPlace(Shot first, Shot second) {
    Similarity s = byPath(first, second);
    Map<String, Vec3> to = Staging.places(first);
    Map<String, Vec3> from = Staging.places(second);
    Map<String, String> pairs = new HashMap<>();
    for (int round = 0; round < ROUNDS; round++) {
      Map<String, String> next = mutual(from, to, s);
      if (next.size() < LEAST_PAIRS || next.equals(pairs)) {
        pairs = next;
        break;
      }
      pairs = next;
      List<String> names = new ArrayList<>(new TreeMap<>(pairs).keySet());
      Map<String, String> now = pairs;
      s =
          SimilarityFit.robust(
              names.stream().map(from::get).toList(),
              names.stream().map(n -> to.get(now.get(n))).toList());
    }
    return pairs;
  }

  /** Each is the other's nearest, and not far beside the rest. */
  private static Map<String, String> mutual(
      Map<String, Vec3> from, Map<String, Vec3> to, Similarity s) {
    List<String> a = new ArrayList<>(new TreeMap<>(from).keySet());
    List<String> b = new ArrayList<>(new TreeMap<>(to).keySet());
    Map<String, String> out = new HashMap<>();
    if (a.isEmpty() || b.isEmpty()) {
      return out;
    }
    List<Vec3> there = b.stream().map(to::get).toList();
    List<Vec3> here = a.stream().map(n -> s.apply(from.get(n))).toList();
    Neighbours ofB = new Neighbours(there);
    Neighbours ofA = new Neighbours(here);
    int[] nearestOfA = new int[a.size()];
    double[] bestOfA = new double[a.size()];
    for (int i = 0; i < nearestOfA.length; i++) {
      nearestOfA[i] = ofB.nearest(here.get(i), 1).get(0);
      bestOfA[i] = here.get(i).minus(there.get(nearestOfA[i])).length();
    }
    double limit = FAR * median(bestOfA);
    for (int i = 0; i < nearestOfA.length; i++) {
      boolean mutual = ofA.nearest(there.get(nearestOfA[i]), 1).get(0) == i;
      if (mutual && bestOfA[i] <= limit) {
        out.put(a.get(i), b.get(nearestOfA[i]));
      }
    }
    return out;
  }

  /** Both cameras filmed the same frames: their turns say how one lies to the other. */
  private static Similarity byPath(Shot first, Shot second) {
    FrameRange frames = shared(first, second);
    ShotCamera a = camera(first);
    ShotCamera b = camera(second);
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    List<Vec3> fromDirections = new ArrayList<>();
    List<Vec3> toDirections = new ArrayList<>();
    Vec3[] axes = {new Vec3(1, 0, 0), new Vec3(0, 1, 0), new Vec3(0, 0, 1)};
    for (int f = frames.first(); f <= frames.last(); f++) {
      from.add(b.poses().at(f).position());
      to.add(a.poses().at(f).position());
      for (Vec3 e : axes) {
        fromDirections.add(b.poses().at(f).rotation().apply(e));
        toDirections.add(a.poses().at(f).rotation().apply(e));
      }
    }
    Rotation turn = SimilarityFit.turnOf(fromDirections, toDirections);
    double moved = spread(to);
    double was = spread(from);
    double scale = moved > 0 && was > 0 ? moved / was : 1;
    Vec3 shift = middle(to).minus(turn.apply(middle(from)).times(scale));
    return new Similarity(scale, turn, shift);
  }

  private static Vec3 middle(List<Vec3> v) {
    Vec3 m = Vec3.ZERO;
    for (Vec3 p : v) {
      m = m.plus(p.times(1.0 / v.size()));
    }
    return m;
  }

  private static double spread(List<Vec3> v) {
    Vec3 m = middle(v);
    double sum = 0;
    for (Vec3 p : v) {
      sum += p.minus(m).dot(p.minus(m));
    }
    return Math.sqrt(sum / v.size());
  }
}
