package flarvo.dispatch;

import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.List;
import java.util.stream.IntStream;

/** Clipping planes that fit the scene, for a camera that came without them. */
public final class ClipFit {

  /** How much nearer and farther than any tracker the planes stand. */
  private static final double MARGIN = 10;

  /** Without trackers: from ten centimetres to ten kilometres. */
  private static final ClipRange WITHOUT_TRACKERS = new ClipRange(0.1, 10_000);

  private static final int PARTS = 32;

  private ClipFit() {}

  /** In metres, for a canonical camera and trackers. */
  static ClipRange around(ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    double[] reach = reachOf(camera, trackers, picture);
    return reach[1] > 0 ? new ClipRange(reach[0] / MARGIN, reach[1] * MARGIN) : WITHOUT_TRACKERS;
  }

  /**
   * The depths that planes have to leave in: of the nearest and the farthest tracker in front of a
   * canonical camera, over the whole shot and inside the picture or not, in metres. Where there is
   * none, a metre.
   */
  public static ClipRange reach(ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    double[] reach = reachOf(camera, trackers, picture);
    return reach[1] > reach[0]
        ? new ClipRange(reach[0], reach[1])
        : reach[1] > 0
            ? new ClipRange(reach[1] * (1 - 1e-9), reach[1])
            : new ClipRange(1 - 1e-9, 1);
  }

  private static double[] reachOf(
      ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    FrameRange frames = camera.frames();
    int parts = Math.min(PARTS, frames.count());
    return IntStream.range(0, parts)
        .parallel()
        .mapToObj(part -> reach(camera, trackers, picture, part, parts))
        .reduce(
            new double[] {Double.MAX_VALUE, 0},
            (a, b) -> new double[] {Math.min(a[0], b[0]), Math.max(a[1], b[1])});
  }

  /** The least and the largest depth of a tracker in front of the camera, over some frames. */
  private static double[] reach(
      ShotCamera camera, List<TrackerSet> trackers, PictureSize picture, int part, int parts) {
    FrameRange frames = camera.frames();
    int first = frames.first() + (int) ((long) frames.count() * part / parts);
    int end = frames.first() + (int) ((long) frames.count() * (part + 1) / parts);
    double near = Double.MAX_VALUE;
    double far = 0;
    Pinhole p = new Pinhole(camera, picture);
    for (int f = first; f < end; f++) {
      p.at(f);
      for (TrackerSet t : trackers) {
        for (int i = 0; i < t.size(); i++) {
          double depth = p.depth(t, i);
          if (depth > 1e-3) {
            near = Math.min(near, depth);
            far = Math.max(far, depth);
          }
        }
      }
    }
    return new double[] {near, far};
  }
}
