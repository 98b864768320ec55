package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;

/**
 * Reprojection error: the distance in pixels between where a tracker was observed and where the
 * solve puts it. The level does not matter: it moves camera and points together.
 */
public final class Reprojection {

  private final FrameRange frames;
  private final double[] frameSum;
  private final int[] frameLive;
  private final Map<String, double[]> byTracker = new HashMap<>(); // sum of squares, count, max
  private double sum;
  private long count;
  private double[] all = new double[1024]; // distances, for the median

  private Reprojection(FrameRange frames) {
    this.frames = frames;
    this.frameSum = new double[frames.count()];
    this.frameLive = new int[frames.count()];
  }

  /** Empty when there is no camera or nothing was observed. */
  public static Optional<Reprojection> of(Shot shot) {
    Optional<ShotCamera> camera = shot.camera();
    if (camera.isEmpty() || shot.observations().isEmpty()) {
      return Optional.empty();
    }
    Reprojection r = new Reprojection(camera.get().frames());
    r.measure(shot, camera.get());
    return r.count == 0 ? Optional.empty() : Optional.of(r);
  }

  private void measure(Shot shot, ShotCamera camera) {
    Observations o = shot.observations();
    Map<String, double[]> points = new HashMap<>();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        points.put(t.names().get(i), new double[] {t.x(i), t.y(i), t.z(i)});
      }
    }
    Pinhole pinhole = new Pinhole(camera, shot.picture());
    double[] px = new double[3];
    for (String name : o.names()) {
      double[] p = points.get(name);
      if (p == null) {
        continue;
      }
      double[] own = byTracker.computeIfAbsent(name, k -> new double[3]);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        if (!frames.contains(o.frame(row))) {
          continue;
        }
        pinhole.at(o.frame(row)).project(p[0], p[1], p[2], px);
        double d = Math.hypot(px[0] - o.x(row), px[1] - o.y(row));
        if (!Double.isNaN(d)) {
          add(o.frame(row), d, own);
        }
      }
    }
  }

  private void add(int frame, double d, double[] tracker) {
    int k = frame - frames.first();
    frameSum[k] += d * d;
    frameLive[k]++;
    tracker[0] += d * d;
    tracker[1]++;
    tracker[2] = Math.max(tracker[2], d);
    sum += d * d;
    if (count == all.length) {
      all = Arrays.copyOf(all, 2 * all.length);
    }
    all[(int) count++] = d;
  }

  public double rmsPx() {
    return Math.sqrt(sum / count);
  }

  /** Half of the distances are below it; strays hardly move it. */
  public double medianPx() {
    double[] sorted = Arrays.copyOf(all, (int) count);
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  /** NaN where no tracker lives. */
  public double frameRmsPx(int frame) {
    int k = frame - frames.first();
    return frameLive[k] == 0 ? Double.NaN : Math.sqrt(frameSum[k] / frameLive[k]);
  }

  public int live(int frame) {
    return frames.contains(frame) ? frameLive[frame - frames.first()] : 0;
  }

  /** NaN for a tracker that was never observed. */
  public double trackerRmsPx(String name) {
    double[] t = byTracker.get(name);
    return t == null || t[1] == 0 ? Double.NaN : Math.sqrt(t[0] / t[1]);
  }

  public double trackerMaxPx(String name) {
    double[] t = byTracker.get(name);
    return t == null || t[1] == 0 ? Double.NaN : t[2];
  }

  public FrameRange frames() {
    return frames;
  }
}
