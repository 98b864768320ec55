package flarvo.vet;

import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * What leaving trackers out would do, before it is done; the solve itself stays as it is.
 *
 * @param going trackers that would go
 * @param rmsPx RMS of what stays; NaN where nothing stays
 * @param thinFrames frames that would have fewer live trackers than the limit, and have enough now
 */
public record CullPreview(Set<String> going, int staying, double rmsPx, List<Integer> thinFrames) {

  /**
   * @param weightless trackers that do not count anyway
   * @param fewest live trackers that a frame should have
   */
  public static CullPreview of(
      Shot shot, Reprojection errors, Set<String> going, Set<String> weightless, int fewest) {
    FrameRange frames = errors.frames();
    int[] lost = new int[frames.count()];
    double sum = 0;
    long n = 0;
    int staying = 0;
    Observations o = shot.observations();
    for (flarvo.scene.TrackerSet t : shot.trackers()) {
      for (String name : t.names()) {
        boolean goes = going.contains(name);
        staying += goes ? 0 : 1;
        if (weightless.contains(name)) {
          continue;
        }
        for (int row = o.firstRow(name); row >= 0 && row < o.endRow(name); row++) {
          double d = errors.rowPx(row);
          if (Double.isNaN(d)) {
            continue;
          }
          if (goes) {
            lost[o.frame(row) - frames.first()]++;
          } else {
            sum += d * d;
            n++;
          }
        }
      }
    }
    List<Integer> thin = new ArrayList<>();
    for (int f = frames.first(); f <= frames.last(); f++) {
      int live = errors.live(f);
      if (live >= fewest && live - lost[f - frames.first()] < fewest) {
        thin.add(f);
      }
    }
    return new CullPreview(going, staying, n == 0 ? Double.NaN : Math.sqrt(sum / n), thin);
  }
}
