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
    // From the whole less what goes: what goes is little, what stays may be millions of rows.
    double sum = errors.rmsPx() * errors.rmsPx() * errors.count();
    long n = errors.count();
    int gone = 0;
    Observations o = shot.observations();
    for (String name : going) {
      if (o.firstRow(name) < 0 || Double.isNaN(errors.trackerRmsPx(name))) {
        continue;
      }
      gone++;
      if (weightless.contains(name)) {
        continue;
      }
      sum -= errors.trackerRmsPx(name) * errors.trackerRmsPx(name) * errors.trackerCount(name);
      n -= errors.trackerCount(name);
      for (int row = o.firstRow(name); row < o.endRow(name); row++) {
        if (!Double.isNaN(errors.rowPx(row))) {
          lost[o.frame(row) - frames.first()]++;
        }
      }
    }
    int staying = shot.trackerCount() - gone;
    List<Integer> thin = new ArrayList<>();
    for (int f = frames.first(); f <= frames.last(); f++) {
      int live = errors.live(f);
      if (live >= fewest && live - lost[f - frames.first()] < fewest) {
        thin.add(f);
      }
    }
    return new CullPreview(
        going, staying, n == 0 ? Double.NaN : Math.sqrt(Math.max(0, sum) / n), thin);
  }
}
