package flarvo.proof;

import flarvo.scene.FrameRange;
import flarvo.scene.Pinhole;
import flarvo.scene.PlateSequence;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.Locale;

/**
 * Whether a delivered camera puts trackers on the same features over plates with overscan as the
 * shot's camera does over the picture without: each must lie where it lay, moved by the overscan.
 * It knows nothing of how the film back was changed.
 */
final class OverscanCheck {

  private static final int FRAMES = 5;

  private OverscanCheck() {}

  /**
   * @param shot as it was before the overscan
   * @param plates with overscan
   * @param delivered camera on plate frames
   */
  static Check of(WorldShot shot, PlateSequence plates, ShotCamera delivered, double limitPx) {
    ShotCamera own = shot.camera().orElseThrow();
    Pinhole here = new Pinhole(own, shot.picture());
    Pinhole there = new Pinhole(delivered, plates.size());
    double worst = 0;
    int compared = 0;
    double[] p = new double[3];
    double[] q = new double[3];
    FrameRange r = own.frames();
    for (int i = 0; i < FRAMES; i++) {
      int frame = r.first() + Math.toIntExact((r.count() - 1L) * i / (FRAMES - 1));
      if (!delivered.frames().contains(frame)) {
        continue;
      }
      here.at(frame);
      there.at(frame);
      for (TrackerSet t : shot.trackers()) {
        for (int k = 0; k < t.size(); k++) {
          here.project(t, k, p);
          there.project(t, k, q);
          if (p[2] > 0 && q[2] > 0) {
            double dx = q[0] - p[0] - plates.overscanX();
            double dy = q[1] - p[1] - plates.overscanY();
            worst = Math.max(worst, Math.hypot(dx, dy));
            compared++;
          }
        }
      }
    }
    return new Check(
        "overscan",
        compared > 0 && worst <= limitPx,
        String.format(Locale.ROOT, "at most %.4f px", limitPx),
        compared == 0 ? "no tracker to compare" : String.format(Locale.ROOT, "%.6f px", worst));
  }
}
