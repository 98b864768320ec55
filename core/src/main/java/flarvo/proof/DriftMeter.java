package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Progress;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Measures drift: source and delivered camera and points, both canonical, projected onto the same
 * plate. A tracker is live at a frame where it was observed; without observations, where the source
 * camera sees it inside the picture.
 */
public final class DriftMeter {

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
    Pair[] pairs = pairs(trackers);
    List<String> names = source.trackers().stream().flatMap(t -> t.names().stream()).toList();
    FrameRange frames = source.frames();
    double[] max = new double[frames.count()];
    double[] rms = new double[frames.count()];
    Pinhole a = new Pinhole(original, picture);
    Pinhole b = new Pinhole(camera, picture);
    double[] pa = new double[3];
    double[] pb = new double[3];
    double total = 0;
    long compared = 0;
    double worst = -1;
    int worstFrame = frames.first();
    int worstTracker = -1;
    boolean[] live = new boolean[names.size()];
    for (int f = frames.first(); f <= frames.last(); f++) {
      progress.step(f - frames.first(), frames.count());
      int k = f - frames.first();
      max[k] = Double.NaN;
      rms[k] = Double.NaN;
      if (!camera.frames().contains(f) || !original.frames().contains(f)) {
        continue;
      }
      a.at(f);
      b.at(f);
      observed(names, f, live);
      double sum = 0;
      int n = 0;
      double frameMax = 0;
      for (int i = 0; i < pairs.length; i++) {
        Pair p = pairs[i];
        if (p == null) {
          continue;
        }
        a.project(p.sent, p.sentAt, pa);
        if (!(pa[2] > 0) || !(live[i] || unobserved() && inside(pa))) {
          continue;
        }
        b.project(p.found, p.foundAt, pb);
        double d = Math.hypot(pa[0] - pb[0], pa[1] - pb[1]);
        if (Double.isNaN(d)) {
          d = Double.POSITIVE_INFINITY; // behind the delivered camera
        }
        sum += d * d;
        n++;
        frameMax = Math.max(frameMax, d);
        if (d > worst) {
          worst = d;
          worstFrame = f;
          worstTracker = i;
        }
      }
      if (n > 0) {
        max[k] = frameMax;
        rms[k] = Math.sqrt(sum / n);
        total += sum;
        compared += n;
      }
    }
    return new DriftReport(
        frames,
        max,
        rms,
        compared == 0 ? Double.NaN : Math.sqrt(total / compared),
        worstFrame,
        worstTracker < 0 ? "" : names.get(worstTracker),
        compared);
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

  private boolean inside(double[] p) {
    return p[0] >= 0 && p[1] >= 0 && p[0] <= picture.width() && p[1] <= picture.height();
  }

  /** One tracker in the source and in what was delivered. */
  private record Pair(TrackerSet sent, int sentAt, TrackerSet found, int foundAt) {}

  /** For each source tracker; null where none was delivered. */
  private Pair[] pairs(List<TrackerSet> delivered) {
    Map<String, TrackerSet> setOf = new HashMap<>();
    Map<String, Integer> indexOf = new HashMap<>();
    for (TrackerSet t : delivered) {
      for (int i = 0; i < t.size(); i++) {
        setOf.put(t.names().get(i), t);
        indexOf.put(t.names().get(i), i);
      }
    }
    Pair[] out = new Pair[source.trackerCount()];
    int k = 0;
    for (TrackerSet t : source.trackers()) {
      for (int i = 0; i < t.size(); i++, k++) {
        String name = t.names().get(i);
        if (setOf.containsKey(name)) {
          out[k] = new Pair(t, i, setOf.get(name), indexOf.get(name));
        }
      }
    }
    return out;
  }
}
