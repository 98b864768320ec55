package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.PointBlocks;
import flarvo.scene.ProjectedBlock;
import flarvo.scene.ShotCamera;
import flarvo.scene.Sight;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.IntStream;

/**
 * Measures drift: source and delivered camera and points, both canonical, projected onto the same
 * plate. A tracker is live at a frame where it was observed; without observations, where the source
 * camera sees it inside the picture.
 */
public final class DriftMeter {

  /** Fewer projections than this are not worth a second thread. */
  private static final long SMALL = 200_000;

  private static final int PARTS = 32;

  /** Frames that a thread looks at together. */
  private static final int TOGETHER = 8;

  private final WorldShot source;
  private final PictureSize picture;

  /**
   * @param source what is compared with; its observations say which trackers are live
   */
  public DriftMeter(WorldShot source) {
    this.source = source;
    this.picture = source.picture();
  }

  /**
   * Measures what the first camera sees.
   *
   * @param camera delivered camera under plate frames
   * @param trackers delivered trackers; matched by name
   */
  public DriftReport measure(ShotCamera camera, List<TrackerSet> trackers, Progress progress) {
    return measure(source.camera().orElseThrow(), camera, trackers, progress);
  }

  /**
   * The same through another of the source's cameras.
   *
   * @param original the source's camera
   */
  DriftReport measure(
      ShotCamera original, ShotCamera camera, List<TrackerSet> trackers, Progress progress) {
    List<Pairs> pairs = pairs(trackers);
    boolean anywhere = unobserved();
    List<String> names = source.trackers().stream().flatMap(t -> t.names().stream()).toList();
    FrameRange frames = source.frames();
    Frames of = new Frames(frames.count());
    int parts = (long) frames.count() * names.size() < SMALL ? 1 : Math.min(PARTS, frames.count());
    IntStream.range(0, parts)
        .parallel()
        .forEach(
            part -> {
              int first = frames.first() + (int) ((long) frames.count() * part / parts);
              int end = frames.first() + (int) ((long) frames.count() * (part + 1) / parts);
              Eyes eyes = new Eyes(original, camera, picture, anywhere ? 0 : names.size());
              for (int f = first; f < end; f += TOGETHER) {
                if (part == 0) {
                  progress.step(f - first, end - first);
                } else if (progress.isCancelled()) {
                  throw new Cancelled();
                }
                frames(f, Math.min(end, f + TOGETHER), eyes, pairs, names, of);
              }
            });
    return of.report(frames, names);
  }

  /** A few frames, block after block: a block's points are fetched once for all of them. */
  private void frames(
      int from, int end, Eyes eyes, List<Pairs> pairs, List<String> names, Frames of) {
    int n = 0;
    for (int f = from; f < end; f++) {
      int k = f - source.frames().first();
      of.max[k] = Double.NaN;
      of.rms[k] = Double.NaN;
      if (eyes.found.frames().contains(f) && eyes.sent.frames().contains(f)) {
        eyes.at[n] = k;
        eyes.a[n].at(f);
        eyes.b[n].at(f);
        observed(names, f, eyes.live[n]);
        of.clear(k);
        n++;
      }
    }
    for (Pairs p : pairs) {
      for (int block = 0; block < p.sentAt.count(); block++) {
        boolean loaded = false;
        for (int i = 0; i < n; i++) {
          Sight seen = unobserved() ? eyes.a[i].sight(p.sent, p.sentAt, block) : Sight.SOME;
          if (seen != Sight.NONE) {
            if (!loaded) {
              eyes.drift.load(p.sentAt, p.foundAt, block);
              loaded = true;
            }
            block(p, block, seen, eyes, i, of);
          }
        }
      }
    }
    for (int i = 0; i < n; i++) {
      of.finish(eyes.at[i]);
    }
  }

  private void block(Pairs p, int block, Sight seen, Eyes eyes, int i, Frames of) {
    Pinhole a = eyes.a[i];
    Pinhole b = eyes.b[i];
    BlockDrift drift = eyes.drift;
    a.project(p.sent, drift.sent);
    b.project(p.found, drift.found);
    drift.measure();
    int k = eyes.at[i];
    boolean settled = false;
    if (p.sentAt.size(block) == PointBlocks.SIZE && b.faces(p.found, p.foundAt, block)) {
      if (seen == Sight.ALL) {
        settled = count(p, block, drift, PointBlocks.SIZE, of, k);
      } else if (unobserved() && a.faces(p.sent, p.sentAt, block)) {
        settled = count(p, block, drift, drift.leaveOutOutside(picture), of, k);
      }
    }
    if (!settled) {
      countEach(p, block, drift, eyes.live[i], of, k);
    }
  }

  /**
   * Adds what a block's points sum up to.
   *
   * @param n how many of them count; negative where that is not known
   * @return whether it could: not where a drift is no number or too large for one
   */
  private static boolean count(Pairs p, int block, BlockDrift drift, int n, Frames of, int k) {
    if (n <= 0) {
      return n == 0;
    }
    boolean whole = n == PointBlocks.SIZE;
    drift.sumUp();
    double most = drift.most();
    if (Double.isNaN(drift.sum()) || most > Double.MAX_VALUE) {
      return false;
    }
    of.sum[k] += drift.sum();
    of.compared[k] += n;
    if (most > of.max[k] || most == of.max[k] && p.firsts[block] < of.worst[k]) {
      for (int i = 0; i < PointBlocks.SIZE; i++) {
        if (drift.square[i] >= of.max[k] && (whole || drift.isInside(i))) {
          of.worst(k, drift.square[i], p.place(block, i));
        }
      }
    }
    return true;
  }

  /**
   * Asks each point whether it counts and whether both cameras have it in front of them.
   *
   * @param live which trackers were observed; empty where nobody observed any
   */
  private void countEach(Pairs p, int block, BlockDrift drift, boolean[] live, Frames of, int k) {
    ProjectedBlock a = drift.sent;
    boolean anywhere = unobserved();
    double width = picture.width();
    double height = picture.height();
    for (int i = 0; i < p.sentAt.size(block); i++) {
      boolean counts =
          a.depth[i] > 0
              && (anywhere
                  ? a.x[i] >= 0
                      && a.y[i] >= 0
                      && a.x[i] <= width * a.depth[i]
                      && a.y[i] <= height * a.depth[i]
                  : live[p.place(block, i)]);
      if (counts) {
        double d = drift.square[i];
        d = drift.found.depth[i] > 0 && d <= Double.MAX_VALUE ? d : Double.POSITIVE_INFINITY;
        of.sum[k] += d;
        of.compared[k]++;
        of.worst(k, d, p.place(block, i));
      }
    }
  }

  /** What one thread sees with. */
  private static final class Eyes {
    private final ShotCamera sent;
    private final ShotCamera found;
    private final Pinhole[] a = new Pinhole[TOGETHER];
    private final Pinhole[] b = new Pinhole[TOGETHER];
    private final int[] at = new int[TOGETHER]; // counted from the first
    private final BlockDrift drift = new BlockDrift();
    private final boolean[][] live;

    Eyes(ShotCamera sent, ShotCamera found, PictureSize picture, int observed) {
      this.sent = sent;
      this.found = found;
      live = new boolean[TOGETHER][observed];
      Arrays.setAll(a, i -> new Pinhole(sent, picture));
      Arrays.setAll(b, i -> new Pinhole(found, picture));
    }
  }

  /** Results a frame, each written by one thread. They are put together in the frames' order. */
  private static final class Frames {
    private final double[] max;
    private final double[] rms;
    private final double[] sum;
    private final int[] compared;
    private final int[] worst;

    /** Until a frame is finished, {@code max} holds the square of the largest. */
    void clear(int k) {
      max[k] = -1;
    }

    /** Of several that are equally bad the first is named, in whatever order they are met. */
    void worst(int k, double square, int place) {
      if (square > max[k] || square == max[k] && place < worst[k]) {
        max[k] = square;
        worst[k] = place;
      }
    }

    void finish(int k) {
      boolean some = compared[k] > 0;
      max[k] = some ? Math.sqrt(max[k]) : Double.NaN;
      rms[k] = some ? Math.sqrt(sum[k] / compared[k]) : Double.NaN;
    }

    Frames(int count) {
      max = new double[count];
      rms = new double[count];
      sum = new double[count];
      compared = new int[count];
      worst = new int[count];
    }

    DriftReport report(FrameRange frames, List<String> names) {
      double total = 0;
      long all = 0;
      int at = -1;
      for (int k = 0; k < max.length; k++) {
        total += sum[k];
        all += compared[k];
        if (compared[k] > 0 && (at < 0 || max[k] > max[at])) {
          at = k;
        }
      }
      return new DriftReport(
          frames,
          max,
          rms,
          all == 0 ? Double.NaN : Math.sqrt(total / all),
          frames.first() + Math.max(0, at),
          at < 0 ? "" : names.get(worst[at]),
          k -> names.get(worst[k]),
          all);
    }
  }

  private boolean unobserved() {
    return source.observations().isEmpty();
  }

  private void observed(List<String> names, int frame, boolean[] live) {
    Observations o = source.observations();
    if (o.isEmpty()) {
      return;
    }
    for (int i = 0; i < live.length; i++) {
      live[i] = o.row(names.get(i), frame) >= 0;
    }
  }

  /**
   * Trackers of one set in the source and of one in what was delivered, block by block.
   *
   * @param first place of the set's first among all of the source's trackers
   * @param which of the set's they are
   * @param firsts the least place of each block's points
   */
  @SuppressWarnings("ArrayRecordComponent") // read in inner loops, and by nobody else
  private record Pairs(
      TrackerSet sent,
      TrackerSet found,
      int first,
      int[] which,
      PointBlocks sentAt,
      PointBlocks foundAt,
      int[] firsts) {

    int place(int block, int point) {
      return first + which[sentAt.original(block, point)];
    }

    static Pairs of(
        TrackerSet sent,
        TrackerSet found,
        int firstPlace,
        List<Integer> which,
        Map<String, Integer> at) {
      int n = which.size();
      double[] foundAt = new double[3 * n];
      for (int j = 0; j < n; j++) {
        put(found, at.get(sent.names().get(which.get(j))), foundAt, 3 * j);
      }
      PointBlocks blocks = n == sent.size() ? sent.blocks() : some(sent, which);
      int[] places = which.stream().mapToInt(Integer::intValue).toArray();
      int[] firsts = new int[blocks.count()];
      for (int b = 0; b < firsts.length; b++) {
        int least = Integer.MAX_VALUE;
        for (int i = 0; i < blocks.size(b); i++) {
          least = Math.min(least, firstPlace + places[blocks.original(b, i)]);
        }
        firsts[b] = least;
      }
      return new Pairs(sent, found, firstPlace, places, blocks, blocks.like(foundAt), firsts);
    }

    private static PointBlocks some(TrackerSet sent, List<Integer> which) {
      double[] sentAt = new double[3 * which.size()];
      for (int j = 0; j < which.size(); j++) {
        put(sent, which.get(j), sentAt, 3 * j);
      }
      return PointBlocks.of(sentAt);
    }

    private static void put(TrackerSet t, int i, double[] to, int at) {
      to[at] = t.x(i);
      to[at + 1] = t.y(i);
      to[at + 2] = t.z(i);
    }
  }

  /** The source's trackers that were delivered, set by set. */
  private List<Pairs> pairs(List<TrackerSet> delivered) {
    Map<String, Integer> setOf = new HashMap<>();
    Map<String, Integer> indexOf = new HashMap<>();
    for (int k = 0; k < delivered.size(); k++) {
      List<String> names = delivered.get(k).names();
      for (int i = 0; i < names.size(); i++) {
        setOf.put(names.get(i), k);
        indexOf.put(names.get(i), i);
      }
    }
    List<Pairs> out = new ArrayList<>();
    int first = 0;
    for (TrackerSet t : source.trackers()) {
      Map<Integer, List<Integer>> bySet = new TreeMap<>();
      for (int i = 0; i < t.size(); i++) {
        Integer in = setOf.get(t.names().get(i));
        if (in != null) {
          bySet.computeIfAbsent(in, x -> new ArrayList<>()).add(i);
        }
      }
      int before = first;
      bySet.forEach((k, which) -> out.add(Pairs.of(t, delivered.get(k), before, which, indexOf)));
      first += t.size();
    }
    return out;
  }
}
