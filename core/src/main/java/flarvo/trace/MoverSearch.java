package flarvo.trace;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.vet.adjust.Bundle;
import flarvo.vet.adjust.Tracks;
import flarvo.vet.resolve.SceneConsensus;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.IntStream;

/**
 * Finds what moves against the rest. In short stretches of the shot the camera is sought that
 * explains most of the picture ({@link SceneConsensus}); features that it does not explain and that
 * keep together in the picture are one thing that moves, and things that share features in
 * neighbouring stretches are the same.
 */
public final class MoverSearch {

  /** Frames of a stretch that are looked at. */
  private static final int KEYS = 6;

  private static final int FEWEST_KEYS = 3;
  private static final int SHORTEST = 8;
  private static final int LONGEST = 48;
  private static final int SAMPLES = 2000;
  private static final double AGREES_PX = 1;

  /** From here on a feature surely does not agree. */
  private static final double DISAGREES_PX = 2.5;

  /** Features that keep together: not farther than this share of the picture's width. */
  private static final double NEAR = 0.09;

  /** Nor does the distance between them change by more than this share of itself. */
  private static final double SHAPE = 0.35;

  private static final int FEWEST = 6;

  /** Things that share so many features are the same. */
  private static final int SHARED = 2;

  private static final int NEIGHBOURS = 3;
  private static final int ROUNDS = 3;

  /** What is told of a stretch counts when so much of the picture agrees in it. */
  private static final double TOLD = 0.6;

  /** Stretches that are asked for the focal length. */
  private static final int ASKED = 4;

  /** Focal lengths to try where none is known, in widths of the picture. */
  private static final double[] FOCALS = {0.6, 0.8, 1.05, 1.4, 1.9, 2.6, 3.6};

  private final Observations o;
  private final PictureSize picture;
  private final double ratio;

  /**
   * What was found.
   *
   * @param movers by name
   * @param coverage share of the picture that agrees with one camera, in the worst stretch
   */
  public record Found(List<Mover> movers, double coverage) {
    public Found {
      movers = List.copyOf(movers);
    }
  }

  /** A stretch of frames and the features seen in it. */
  private record Stretch(int[] keys, List<String> names, Tracks tracks) {}

  private MoverSearch(Observations o, PictureSize picture, double ratio) {
    this.o = o;
    this.picture = picture;
    this.ratio = ratio;
  }

  /**
   * @param o canonical pixels of plates that are straight, or nearly
   * @param focal horizontal, in widths of the film back; empty where it is not known
   */
  public static Found of(
      Observations o, PictureSize picture, OptionalDouble focal, Progress progress) {
    return new MoverSearch(o, picture, picture.pixelAspect()).search(focal, progress);
  }

  private Found search(OptionalDouble focal, Progress progress) {
    List<Stretch> stretches = stretches();
    if (stretches.isEmpty()) {
      return new Found(List.of(), 1);
    }
    double f = focal.isPresent() ? focal.getAsDouble() : likelyFocal(stretches, progress);
    // Where what moves fills a stretch, its neighbours tell what the scene is.
    List<Optional<SceneConsensus.Found>> scenes = scenes(stretches, f, Map.of(), progress);
    for (int round = 1; round < ROUNDS; round++) {
      progress.step(round, ROUNDS);
      scenes = scenes(stretches, f, votes(stretches, scenes), progress);
    }
    List<Set<String>> things = new ArrayList<>();
    Set<String> agree = new HashSet<>();
    double coverage = 1;
    for (int k = 0; k < stretches.size(); k++) {
      if (scenes.get(k).filter(s -> s.coverage() > TOLD).isPresent()) {
        SceneConsensus.Found s = scenes.get(k).get();
        things.addAll(together(stretches.get(k), s));
        for (int j = 0; j < s.errorPx().length; j++) {
          if (s.errorPx()[j] < AGREES_PX) {
            agree.add(stretches.get(k).names().get(j));
          }
        }
      }
      coverage = Math.min(coverage, scenes.get(k).map(SceneConsensus.Found::coverage).orElse(0.0));
    }
    return new Found(movers(withNeighbours(joined(things), agree)), coverage);
  }

  private List<Optional<SceneConsensus.Found>> scenes(
      List<Stretch> stretches, double focal, Map<String, Double> votes, Progress progress) {
    return stretches.parallelStream()
        .map(
            s -> {
              requireGoing(progress);
              return consensus(s, focal, votes);
            })
        .toList();
  }

  /** For the scene over zero; a stretch counts by how much of the picture agrees in it. */
  private static Map<String, Double> votes(
      List<Stretch> stretches, List<Optional<SceneConsensus.Found>> scenes) {
    Map<String, Double> out = new HashMap<>();
    for (int k = 0; k < stretches.size(); k++) {
      if (scenes.get(k).isPresent()) {
        SceneConsensus.Found s = scenes.get(k).get();
        for (int j = 0; j < s.errorPx().length; j++) {
          double e = s.errorPx()[j];
          double vote = e < AGREES_PX ? 1 : e > DISAGREES_PX ? -1 : 0;
          out.merge(stretches.get(k).names().get(j), vote * Math.pow(s.coverage(), 2), Double::sum);
        }
      }
    }
    return out;
  }

  private static void requireGoing(Progress progress) {
    if (progress.isCancelled()) {
      throw new Cancelled();
    }
  }

  private List<Stretch> stretches() {
    if (o.isEmpty()) {
      return List.of();
    }
    int[] lives = o.names().stream().mapToInt(n -> o.endRow(n) - o.firstRow(n)).sorted().toArray();
    List<Stretch> out = new ArrayList<>();
    // Short ones have more features, long ones show more of the motion.
    addStretches(lives[lives.length / 2], out);
    addStretches(3 * lives[3 * lives.length / 4] / 2, out);
    return out;
  }

  private void addStretches(int life, List<Stretch> out) {
    FrameRange range = o.range().orElseThrow();
    int length = Math.min(range.count(), Math.max(SHORTEST, Math.min(LONGEST, life)));
    int n = (int) Math.round(2.0 * (range.count() - length) / length) + 1;
    for (int k = 0; k < n; k++) {
      int later = n == 1 ? 0 : (int) Math.round(k * (range.count() - length) / (n - 1.0));
      stretch(range.first() + later, length).ifPresent(out::add);
    }
  }

  private Optional<Stretch> stretch(int first, int length) {
    int[] keys =
        IntStream.range(0, KEYS)
            .map(k -> first + (int) Math.round(k * (length - 1.0) / (KEYS - 1)))
            .distinct()
            .toArray();
    if (keys.length < FEWEST_KEYS) {
      return Optional.empty();
    }
    Tracks.Builder b = new Tracks.Builder(keys.length);
    List<String> names = new ArrayList<>();
    int[] rows = new int[keys.length];
    for (String name : o.names()) {
      int from = o.firstRow(name);
      int end = o.endRow(name);
      if (o.frame(from) > keys[keys.length - FEWEST_KEYS]
          || o.frame(end - 1) < keys[FEWEST_KEYS - 1]) {
        continue;
      }
      int seen = 0;
      for (int k = 0; k < keys.length; k++) {
        rows[k] = o.row(name, keys[k]);
        seen += rows[k] >= 0 ? 1 : 0;
      }
      if (seen < FEWEST_KEYS) {
        continue;
      }
      for (int k = 0; k < keys.length; k++) {
        if (rows[k] >= 0) {
          b.see(k, o.x(rows[k]), o.y(rows[k]));
        }
      }
      b.endPoint();
      names.add(name);
    }
    return Optional.of(new Stretch(keys, names, b.build()));
  }

  private Optional<SceneConsensus.Found> consensus(
      Stretch s, double focal, Map<String, Double> votes) {
    Bundle b = new Bundle(s.keys().length, s.names().size());
    for (int i = 0; i < b.cameras(); i++) {
      b.setPose(i, Pose.IDENTITY);
      b.setOptics(i, focal * picture.width(), ratio, picture.width() / 2.0, picture.height() / 2.0);
    }
    boolean[] voters = new boolean[s.names().size()];
    for (int j = 0; j < voters.length; j++) {
      voters[j] = votes.getOrDefault(s.names().get(j), 0.0) >= 0;
    }
    return Optional.ofNullable(
        SceneConsensus.of(b, s.tracks(), picture, voters, AGREES_PX, SAMPLES, s.keys()[0]));
  }

  /** The focal length with which the most of the picture agrees, asked where most moves. */
  private double likelyFocal(List<Stretch> stretches, Progress progress) {
    List<Stretch> asked =
        stretches.stream()
            .sorted(Comparator.comparingDouble(MoverSearch::motion).reversed())
            .limit(ASKED)
            .toList();
    double[] covered =
        Arrays.stream(FOCALS)
            .parallel()
            .map(
                f -> {
                  requireGoing(progress);
                  return asked.stream()
                      .mapToDouble(
                          s ->
                              consensus(s, f, Map.of())
                                  .map(SceneConsensus.Found::coverage)
                                  .orElse(0.0))
                      .sum();
                })
            .toArray();
    int best = 0;
    for (int k = 1; k < covered.length; k++) {
      best = covered[k] > covered[best] ? k : best;
    }
    return FOCALS[best];
  }

  private static double motion(Stretch s) {
    Tracks t = s.tracks();
    double[] d = new double[t.points()];
    for (int j = 0; j < d.length; j++) {
      int a = t.firstRow(j);
      int b = a + t.seen(j) - 1;
      d[j] = Math.hypot(t.x(b) - t.x(a), t.y(b) - t.y(a));
    }
    Arrays.sort(d);
    return d.length == 0 ? 0 : d[d.length / 2] * Math.sqrt(d.length);
  }

  /** Features that do not agree with the scene, by what they keep together with. */
  private List<Set<String>> together(Stretch s, SceneConsensus.Found scene) {
    double off = offPx(scene);
    int[] astray =
        IntStream.range(0, s.names().size()).filter(j -> scene.errorPx()[j] > off).toArray();
    int[] root = new int[astray.length];
    Arrays.setAll(root, i -> i);
    for (int a = 0; a < astray.length; a++) {
      for (int b = a + 1; b < astray.length; b++) {
        if (keepTogether(s.tracks(), astray[a], astray[b])) {
          root[top(root, b)] = top(root, a);
        }
      }
    }
    Map<Integer, Set<String>> parts = new TreeMap<>();
    for (int a = 0; a < astray.length; a++) {
      parts.computeIfAbsent(top(root, a), k -> new TreeSet<>()).add(s.names().get(astray[a]));
    }
    return parts.values().stream().filter(p -> p.size() >= FEWEST).toList();
  }

  /** From here on a feature surely does not agree, by how well those do that agree. */
  private static double offPx(SceneConsensus.Found scene) {
    double[] e = Arrays.stream(scene.errorPx()).filter(x -> x < AGREES_PX).sorted().toArray();
    double most = e.length == 0 ? AGREES_PX : e[(int) (0.9 * e.length)];
    return Math.min(DISAGREES_PX, Math.max(AGREES_PX, 2 * most));
  }

  private static int top(int[] root, int i) {
    int at = i;
    while (root[at] != at) {
      root[at] = root[root[at]];
      at = root[at];
    }
    return at;
  }

  private boolean keepTogether(Tracks t, int a, int b) {
    int ra = t.firstRow(a);
    int rb = t.firstRow(b);
    int ea = ra + t.seen(a);
    int eb = rb + t.seen(b);
    double x0 = Double.NaN;
    double y0 = Double.NaN;
    int shared = 0;
    while (ra < ea && rb < eb) {
      if (t.camera(ra) == t.camera(rb)) {
        double dx = t.x(rb) - t.x(ra);
        double dy = t.y(rb) - t.y(ra);
        if (shared == 0) {
          x0 = dx;
          y0 = dy;
          if (Math.hypot(dx, dy) > NEAR * picture.width()) {
            return false;
          }
        } else if (Math.hypot(dx - x0, dy - y0) > SHAPE * Math.hypot(x0, y0) + DISAGREES_PX) {
          return false;
        }
        shared++;
        ra++;
        rb++;
      } else if (t.camera(ra) < t.camera(rb)) {
        ra++;
      } else {
        rb++;
      }
    }
    return shared >= 2;
  }

  /** Things of all stretches; those that share features are the same. */
  private static List<Set<String>> joined(List<Set<String>> things) {
    List<Set<String>> out = new ArrayList<>();
    for (Set<String> t : things) {
      Set<String> whole = new TreeSet<>(t);
      out.removeIf(
          other -> {
            boolean same = other.stream().filter(t::contains).limit(SHARED).count() == SHARED;
            if (same) {
              whole.addAll(other);
            }
            return same;
          });
      out.add(whole);
    }
    return out;
  }

  /** With the features that nothing was told of, where all that is near them moves with them. */
  private List<Set<String>> withNeighbours(List<Set<String>> things, Set<String> agree) {
    Map<String, Integer> of = new HashMap<>();
    agree.forEach(n -> of.put(n, -1));
    for (int k = 0; k < things.size(); k++) {
      for (String n : things.get(k)) {
        of.put(n, k);
      }
    }
    if (things.isEmpty()) {
      return things;
    }
    Map<Integer, List<String>> seen = new HashMap<>();
    for (String n : of.keySet()) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        seen.computeIfAbsent(o.frame(row), f -> new ArrayList<>()).add(n);
      }
    }
    for (String n : o.names()) {
      if (!of.containsKey(n)) {
        int row = (o.firstRow(n) + o.endRow(n)) / 2;
        int thing = nearest(n, row, seen.getOrDefault(o.frame(row), List.of()), of);
        if (thing >= 0) {
          things.get(thing).add(n);
        }
      }
    }
    return things;
  }

  /** The thing that the nearest features are on, where they all move as this one; else −1. */
  private int nearest(String name, int row, List<String> others, Map<String, Integer> of) {
    record Near(String name, double px) {}

    int frame = o.frame(row);
    List<String> near =
        others.stream()
            .map(
                n -> {
                  int r = o.row(n, frame);
                  return new Near(n, Math.hypot(o.x(r) - o.x(row), o.y(r) - o.y(row)));
                })
            .sorted(Comparator.comparingDouble(Near::px).thenComparing(Near::name))
            .limit(NEIGHBOURS)
            .map(Near::name)
            .toList();
    if (near.size() < NEIGHBOURS) {
      return -1;
    }
    int thing = of.get(near.get(0));
    if (thing < 0) {
      return -1;
    }
    for (String n : near) {
      if (of.get(n) != thing || !keepTogether(name, n)) {
        return -1;
      }
    }
    return thing;
  }

  private boolean keepTogether(String a, String b) {
    FrameRange range = o.range().orElseThrow();
    Tracks.Builder t = new Tracks.Builder(range.count());
    for (String n : List.of(a, b)) {
      for (int row = o.firstRow(n); row < o.endRow(n); row++) {
        t.see(o.frame(row) - range.first(), o.x(row), o.y(row));
      }
      t.endPoint();
    }
    return keepTogether(t.build(), 0, 1);
  }

  /** The largest first. */
  private static List<Mover> movers(List<Set<String>> things) {
    things.sort(Comparator.comparingInt((Set<String> t) -> -t.size()));
    List<Mover> out = new ArrayList<>();
    for (Set<String> t : things) {
      out.add(new Mover("mover " + (out.size() + 1), List.copyOf(t)));
    }
    return out;
  }
}
