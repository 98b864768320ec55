package flarvo.plate.match;

import flarvo.lens.LensMapper;
import flarvo.lens.LensTrack;
import flarvo.plate.PlateLuma;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/**
 * How well a solve's trackers fit plates, measured in the plates' pixels: what is round a tracker
 * in one frame is looked for in another, and its distance from where the solve puts it there is the
 * error. Plates that are bent where the solve thinks them straight show it, because the error
 * differs from place to place of the picture; an error that is the same everywhere does not show.
 *
 * @param px half of the errors are below it; NaN where nothing was found
 * @param found how many patterns were found again
 * @param sought how many were looked for
 * @param movedPx how far, by the solve, half of them moved across the picture between the frames
 */
public record PlateFit(double px, int found, int sought, double movedPx) {

  /** Nothing can be said. */
  public static final PlateFit NONE = new PlateFit(Double.NaN, 0, 0, Double.NaN);

  /** Fewer than these say nothing. */
  private static final int FEWEST = 12;

  private static final int STARTS = 6;
  private static final int[] APART = {3, 8, 20};
  private static final int MOST_TRACKERS = 80;

  /** Patterns that moved less than this share of the width could not show a bent plate. */
  private static final double MOVED = 0.04;

  /** How far a pattern is looked for, as a share of the width. */
  private static final double REACH = 0.02;

  /**
   * Measures plates, taken for straight and for bent by a lens; the pictures are read once.
   *
   * @param shot in any space; its picture is the plates' without their overscan
   * @param lenses to take the plates for bent by; an empty one is straight
   * @return one fit for each of them
   */
  public static List<PlateFit> of(
      Shot shot, PlateSequence plates, List<Optional<LensTrack>> lenses, Progress progress) {
    if (shot.camera().isEmpty() || shot.trackerCount() == 0) {
      return lenses.stream().map(l -> NONE).toList();
    }
    return new Measurement(shot, plates, lenses).run(progress);
  }

  /** Whether enough was found to say anything. */
  public boolean isKnown() {
    return found >= FEWEST && !Double.isNaN(px);
  }

  /** Such as {@code 0.31 px}, for people. */
  public String words() {
    return isKnown() ? String.format(Locale.ROOT, "%.2f px", px) : "not measured";
  }

  private static final class Measurement {
    private final Shot shot;
    private final ShotCamera camera;
    private final PlateSequence plates;
    private final List<Reading> readings;
    private final Pinhole pinhole;
    private final PatchMatch match;

    Measurement(Shot shot, PlateSequence plates, List<Optional<LensTrack>> lenses) {
      this.shot = shot;
      this.camera = shot.camera().orElseThrow();
      this.plates = plates;
      readings = lenses.stream().map(Reading::new).toList();
      pinhole = new Pinhole(camera, shot.picture());
      match = new PatchMatch(REACH * shot.picture().width());
    }

    List<PlateFit> run(Progress progress) {
      FrameRange range = common();
      int done = 0;
      for (int i = 0; i < STARTS && range.count() > 1; i++) {
        int a = range.first() + Math.toIntExact(i * (range.count() - 1L) / STARTS);
        Optional<Pyramid> from = luma(a);
        for (int apart : APART) {
          progress.step(done++, (long) STARTS * APART.length);
          int b = Math.min(a + apart, range.last());
          Optional<Pyramid> to = a == b || from.isEmpty() ? Optional.empty() : luma(b);
          if (to.isPresent()) {
            for (Reading reading : readings) {
              pair(reading, a, from.get(), b, to.get());
            }
          }
        }
      }
      double least = MOVED * shot.picture().width();
      return readings.stream().map(r -> r.result(least)).toList();
    }

    private FrameRange common() {
      int first = Math.max(camera.frames().first(), plates.frames().first());
      int last = Math.min(camera.frames().last(), plates.frames().last());
      return new FrameRange(first, Math.max(first, last));
    }

    /** A plate that was resized, or of another size than its first, measures nothing. */
    private Optional<Pyramid> luma(int frame) {
      return PlateLuma.of(plates, frame)
          .filter(l -> l.width() == shot.picture().width() && l.height() == shot.picture().height())
          .map(match::of);
    }

    private void pair(Reading as, int a, Pyramid from, int b, Pyramid to) {
      Optional<LensMapper> la = as.lens.map(l -> l.at(a).on(shot.picture()));
      Optional<LensMapper> lb = as.lens.map(l -> l.at(b).on(shot.picture()));
      int all = shot.trackerCount();
      int every = Math.max(1, all / MOST_TRACKERS);
      double[] p = new double[3];
      double[] q = new double[3];
      int n = 0;
      for (TrackerSet t : shot.trackers()) {
        for (int i = 0; i < t.size(); i++) {
          if (n++ % every != 0
              || !seen(t.names().get(i), a, b)
              || !place(t, i, a, la, p)
              || !place(t, i, b, lb, q)) {
            continue;
          }
          double moved = Math.hypot(q[0] - p[0], q[1] - p[1]);
          as.sought++;
          double off = match.error(from, p[0], p[1], to, q[0], q[1]);
          if (!Double.isNaN(off)) {
            as.errors.add(new double[] {off, moved});
          }
        }
      }
    }

    /** Tracked on both frames; where nothing was tracked, every tracker in view is taken. */
    private boolean seen(String name, int a, int b) {
      Observations o = shot.observations();
      return o.isEmpty() || o.row(name, a) >= 0 && o.row(name, b) >= 0;
    }

    private boolean place(TrackerSet t, int i, int frame, Optional<LensMapper> bent, double[] px) {
      pinhole.at(frame).project(t, i, px);
      return px[2] > 0 && (bent.isEmpty() || bent.get().toOriginal(px[0], px[1], px));
    }
  }

  /** What was found under one assumption. */
  private static final class Reading {
    private final Optional<LensTrack> lens;
    private final List<double[]> errors = new ArrayList<>(); // error, and way moved
    private int sought;

    Reading(Optional<LensTrack> lens) {
      this.lens = lens;
    }

    /** Of those that moved far, where there are enough of them. */
    PlateFit result(double leastMove) {
      List<double[]> far = errors.stream().filter(e -> e[1] >= leastMove).toList();
      List<double[]> used = far.size() >= FEWEST ? far : errors;
      return used.isEmpty()
          ? new PlateFit(Double.NaN, 0, sought, Double.NaN)
          : new PlateFit(median(used, 0), used.size(), sought, median(used, 1));
    }

    private static double median(List<double[]> all, int part) {
      double[] v = all.stream().mapToDouble(e -> e[part]).toArray();
      Arrays.sort(v);
      return v[v.length / 2];
    }
  }
}
