package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
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
    Frames of = new Frames(frames.count());
    int parts = (long) frames.count() * pairs.length < SMALL ? 1 : Math.min(PARTS, frames.count());
    IntStream.range(0, parts)
        .parallel()
        .forEach(
            part -> {
              int first = frames.first() + (int) ((long) frames.count() * part / parts);
              int end = frames.first() + (int) ((long) frames.count() * (part + 1) / parts);
              Eyes eyes = new Eyes(original, camera, picture, new boolean[names.size()]);
              for (int f = first; f < end; f++) {
                if (part == 0) {
                  progress.step(f - first, end - first);
                } else if (progress.isCancelled()) {
                  throw new Cancelled();
                }
                frame(f, eyes, pairs, names, of);
              }
            });
    return of.report(frames, names);
  }

  private void frame(int f, Eyes eyes, Pair[] pairs, List<String> names, Frames of) {
    int k = f - source.frames().first();
    of.max[k] = Double.NaN;
    of.rms[k] = Double.NaN;
    if (!eyes.found.frames().contains(f) || !eyes.sent.frames().contains(f)) {
      return;
    }
    Pinhole a = eyes.a.at(f);
    Pinhole b = eyes.b.at(f);
    double[] pa = eyes.pa;
    double[] pb = eyes.pb;
    observed(names, f, eyes.live);
    double sum = 0;
    int n = 0;
    double worst = -1;
    for (int i = 0; i < pairs.length; i++) {
      Pair p = pairs[i];
      if (p == null) {
        continue;
      }
      a.project(p.sent, p.sentAt, pa);
      if (!(pa[2] > 0) || !(eyes.live[i] || unobserved() && inside(pa))) {
        continue;
      }
      b.project(p.found, p.foundAt, pb);
      double dx = pa[0] - pb[0];
      double dy = pa[1] - pb[1];
      double d = dx * dx + dy * dy;
      if (Double.isNaN(d)) {
        d = Double.POSITIVE_INFINITY; // behind the delivered camera
      }
      sum += d;
      n++;
      if (d > worst) {
        worst = d;
        of.worst[k] = i;
      }
    }
    if (n > 0) {
      of.max[k] = Math.sqrt(worst);
      of.rms[k] = Math.sqrt(sum / n);
      of.sum[k] = sum;
      of.compared[k] = n;
    }
  }

  /** What one thread sees with. */
  private static final class Eyes {
    private final ShotCamera sent;
    private final ShotCamera found;
    private final Pinhole a;
    private final Pinhole b;
    private final double[] pa = new double[3];
    private final double[] pb = new double[3];
    private final boolean[] live;

    Eyes(ShotCamera sent, ShotCamera found, PictureSize picture, boolean[] live) {
      this.sent = sent;
      this.found = found;
      this.live = live;
      a = new Pinhole(sent, picture);
      b = new Pinhole(found, picture);
    }
  }

  /** Results a frame, each written by one thread. They are put together in the frames' order. */
  private static final class Frames {
    private final double[] max;
    private final double[] rms;
    private final double[] sum;
    private final int[] compared;
    private final int[] worst;

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
