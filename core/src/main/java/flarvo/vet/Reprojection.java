package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * Reprojection error: the distance in pixels between where a tracker was observed and where the
 * solve puts it. The level does not matter: it moves camera and points together.
 */
public final class Reprojection {

  private static final double DEVIATIONS = 5;

  private final FrameRange frames;
  private final double[] frameSum;
  private final double[] frameMax;
  private final int[] frameLive;
  private final Map<String, double[]> byTracker = new HashMap<>(); // sum of squares, count, max
  private final List<double[]> bySet = new ArrayList<>(); // RMS in pixels, in each set's order
  private final float[] dx; // by row of the observations; NaN where nothing can be said
  private final float[] dy;
  private double sum;
  private long count;
  private double max;
  private double median = Double.NaN;
  private List<Integer> outliers;

  private Reprojection(FrameRange frames, int rows) {
    this.frames = frames;
    this.frameSum = new double[frames.count()];
    this.frameMax = new double[frames.count()];
    this.frameLive = new int[frames.count()];
    this.dx = new float[rows];
    this.dy = new float[rows];
    Arrays.fill(dx, Float.NaN);
    Arrays.fill(dy, Float.NaN);
  }

  /** Empty when there is no camera or nothing was observed. */
  public static Optional<Reprojection> of(Shot shot) {
    return of(shot, Set.of());
  }

  /**
   * Empty when there is no camera or nothing was observed.
   *
   * @param weightless trackers that are measured, but count for no frame and not for the whole
   */
  public static Optional<Reprojection> of(Shot shot, Set<String> weightless) {
    Optional<ShotCamera> camera = shot.camera();
    if (camera.isEmpty() || shot.observations().isEmpty()) {
      return Optional.empty();
    }
    Reprojection r = new Reprojection(camera.get().frames(), shot.observations().size());
    r.measure(shot, camera.get(), weightless);
    r.gatherBySet(shot.trackers());
    return r.count == 0 ? Optional.empty() : Optional.of(r);
  }

  private void measure(Shot shot, ShotCamera camera, Set<String> weightless) {
    Observations o = shot.observations();
    Pinhole[] eyes = new Pinhole[frames.count()]; // of each frame, for all trackers
    double[] px = new double[3];
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        String name = t.names().get(i);
        int first = o.firstRow(name);
        if (first < 0) {
          continue;
        }
        double[] own = byTracker.computeIfAbsent(name, k -> new double[3]);
        boolean counts = !weightless.contains(name);
        for (int row = first; row < o.endRow(name); row++) {
          if (!frames.contains(o.frame(row))) {
            continue;
          }
          int k = o.frame(row) - frames.first();
          if (eyes[k] == null) {
            eyes[k] = new Pinhole(camera, shot.picture()).at(o.frame(row));
          }
          eyes[k].project(t, i, px);
          double x = px[0] - o.x(row);
          double y = px[1] - o.y(row);
          dx[row] = (float) x;
          dy[row] = (float) y;
          double d = Math.sqrt(x * x + y * y);
          if (!Double.isNaN(d)) {
            add(o.frame(row), d, own, counts);
          }
        }
      }
    }
  }

  private void gatherBySet(List<TrackerSet> sets) {
    for (TrackerSet t : sets) {
      bySet.add(t.names().stream().mapToDouble(this::trackerRmsPx).toArray());
    }
  }

  private void add(int frame, double d, double[] tracker, boolean counts) {
    tracker[0] += d * d;
    tracker[1]++;
    tracker[2] = Math.max(tracker[2], d);
    if (counts) {
      int k = frame - frames.first();
      frameSum[k] += d * d;
      frameMax[k] = Math.max(frameMax[k], d);
      frameLive[k]++;
      sum += d * d;
      max = Math.max(max, d);
      count++;
    }
  }

  /** Of all observations that count, in pixels; NaN without one. */
  public double rmsPx() {
    return Math.sqrt(sum / count);
  }

  /** Observations that count. */
  public long count() {
    return count;
  }

  public double maxPx() {
    return max;
  }

  /**
   * Half of the distances are below it; strays hardly move it. It is worked out when first asked.
   */
  public double medianPx() {
    if (Double.isNaN(median)) {
      median = middle();
    }
    return median;
  }

  /** Counted by the upper bits first, so that only those near the middle are sorted. */
  private double middle() {
    int[] bins = new int[1 << 16];
    int n = 0;
    for (int row = 0; row < dx.length; row++) {
      if (!Float.isNaN(dx[row])) {
        bins[bin(square(row))]++;
        n++;
      }
    }
    int bin = 0;
    int before = 0;
    while (before + bins[bin] <= n / 2) {
      before += bins[bin++];
    }
    double[] near = new double[bins[bin]];
    for (int row = 0, k = 0; row < dx.length; row++) {
      if (!Float.isNaN(dx[row]) && bin(square(row)) == bin) {
        near[k++] = square(row);
      }
    }
    Arrays.sort(near);
    return Math.sqrt(near[n / 2 - before]);
  }

  /** Numbers that are not negative are in the order of their bits. */
  private static int bin(double square) {
    return Float.floatToIntBits((float) square) >>> 15;
  }

  private double square(int row) {
    return (double) dx[row] * dx[row] + (double) dy[row] * dy[row];
  }

  /** NaN where no tracker lives. */
  public double frameRmsPx(int frame) {
    int k = frame - frames.first();
    return frameLive[k] == 0 ? Double.NaN : Math.sqrt(frameSum[k] / frameLive[k]);
  }

  /** NaN where no tracker lives. */
  public double frameMaxPx(int frame) {
    int k = frame - frames.first();
    return frameLive[k] == 0 ? Double.NaN : frameMax[k];
  }

  /** Trackers observed at a frame that count. */
  public int live(int frame) {
    return frames.contains(frame) ? frameLive[frame - frames.first()] : 0;
  }

  /**
   * Frames whose RMS stands out: five deviations (1.4826 times the median absolute one) over the
   * median of all frames, and half as much again.
   */
  public List<Integer> outliers() {
    if (outliers == null) {
      double[] rms =
          IntStream.range(0, frameLive.length)
              .filter(k -> frameLive[k] > 0)
              .mapToDouble(k -> Math.sqrt(frameSum[k] / frameLive[k]))
              .sorted()
              .toArray();
      double median = rms[rms.length / 2];
      double[] off = Arrays.stream(rms).map(v -> Math.abs(v - median)).sorted().toArray();
      double limit = Math.max(1.5 * median, median + DEVIATIONS * 1.4826 * off[off.length / 2]);
      outliers =
          IntStream.rangeClosed(frames.first(), frames.last())
              .filter(f -> frameRmsPx(f) > limit)
              .boxed()
              .toList();
    }
    return outliers;
  }

  /** NaN for a tracker that was never observed. */
  public double trackerRmsPx(String name) {
    double[] t = byTracker.get(name);
    return t == null || t[1] == 0 ? Double.NaN : Math.sqrt(t[0] / t[1]);
  }

  /**
   * The errors of one of the shot's sets, for those who show all of them.
   *
   * @param set its number among the shot's sets
   * @return RMS in pixels in the set's order, NaN for a tracker that was never observed; not to be
   *     changed
   */
  public double[] setRmsPx(int set) {
    return bySet.get(set);
  }

  /** Largest error of a tracker in pixels; NaN where it is not measured. */
  public double trackerMaxPx(String name) {
    double[] t = byTracker.get(name);
    return t == null || t[1] == 0 ? Double.NaN : t[2];
  }

  /** Observations of a tracker that could be measured. */
  public int trackerCount(String name) {
    double[] t = byTracker.get(name);
    return t == null ? 0 : (int) t[1];
  }

  /** Projected less observed, in pixels, for a row of the shot's observations; may be NaN. */
  public double dx(int row) {
    return dx[row];
  }

  /** Projection minus observation at a row, in pixels downwards. */
  public double dy(int row) {
    return dy[row];
  }

  /** Length of the error of a row; may be NaN. */
  public double rowPx(int row) {
    return Math.hypot(dx[row], dy[row]);
  }

  public FrameRange frames() {
    return frames;
  }
}
