package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.work.Progress;
import java.util.List;
import java.util.Map;

/**
 * Measures drift: source and delivered camera and points, both canonical, projected onto the same
 * plate. A tracker is live at a frame where it was observed; without observations, where the source
 * camera sees it inside the picture.
 */
final class DriftMeter {

  private final Shot source;
  private final PictureSize picture;

  DriftMeter(Shot source) {
    this.source = source;
    this.picture = source.picture();
  }

  /**
   * @param camera delivered camera under plate frames
   * @param trackers delivered trackers; matched by name
   */
  DriftReport measure(ShotCamera camera, List<TrackerSet> trackers, Progress progress) {
    double[][] pairs = pairs(trackers);
    List<String> names = source.trackers().stream().flatMap(t -> t.names().stream()).toList();
    FrameRange frames = source.frames();
    double[] max = new double[frames.count()];
    double[] rms = new double[frames.count()];
    ShotCamera original = source.camera().orElseThrow();
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
        double[] p = pairs[i];
        if (p == null) {
          continue;
        }
        a.project(p[0], p[1], p[2], pa);
        if (!(pa[2] > 0) || !(live[i] || unobserved() && inside(pa))) {
          continue;
        }
        b.project(p[3], p[4], p[5], pb);
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

  /** Source and delivered position of each source tracker; null where none was delivered. */
  private double[][] pairs(List<TrackerSet> delivered) {
    Map<String, Vec3> byName = TrackerSet.positions(delivered);
    double[][] out = new double[source.trackerCount()][];
    int k = 0;
    for (TrackerSet t : source.trackers()) {
      for (int i = 0; i < t.size(); i++, k++) {
        Vec3 d = byName.get(t.names().get(i));
        if (d != null) {
          out[k] = new double[] {t.x(i), t.y(i), t.z(i), d.x(), d.y(), d.z()};
        }
      }
    }
    return out;
  }
}
