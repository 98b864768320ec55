package flarvo.dispatch;

import flarvo.scene.ClipRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.List;

/** Clipping planes that fit the scene, for a camera that came without them. */
final class ClipFit {

  /** How much nearer and farther than any tracker the planes stand. */
  private static final double MARGIN = 10;

  /** Without trackers: from ten centimetres to ten kilometres. */
  private static final ClipRange WITHOUT_TRACKERS = new ClipRange(0.1, 10_000);

  private ClipFit() {}

  /** In metres, for a canonical camera and trackers. */
  static ClipRange around(ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    double near = Double.MAX_VALUE;
    double far = 0;
    double[] out = new double[3];
    Pinhole p = new Pinhole(camera, picture);
    for (int f = camera.frames().first(); f <= camera.frames().last(); f++) {
      p.at(f);
      for (TrackerSet t : trackers) {
        for (int i = 0; i < t.size(); i++) {
          p.project(t, i, out);
          if (out[2] > 1e-3) {
            near = Math.min(near, out[2]);
            far = Math.max(far, out[2]);
          }
        }
      }
    }
    return far > 0 ? new ClipRange(near / MARGIN, far * MARGIN) : WITHOUT_TRACKERS;
  }
}
