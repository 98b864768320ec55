package flarvo.dispatch;

import flarvo.scene.ClipRange;
import flarvo.scene.FrameRange;
import flarvo.scene.PictureSize;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.IntStream;

/** Clipping planes that fit the scene, for a camera that came without them. */
public final class ClipFit {

  /** How much nearer and farther than any tracker the planes stand. */
  private static final double MARGIN = 10;

  /** How far behind a picture card the far plane stands. */
  static final double BEHIND_CARD = 1.1;

  /** Without trackers: from ten centimetres to ten kilometres. */
  private static final ClipRange WITHOUT_TRACKERS = new ClipRange(0.1, 10_000);

  private static final int PARTS = 32;

  /** Metres; what is nearer is at the eye itself. */
  private static final double NEAREST = 1e-3;

  private ClipFit() {}

  /** In metres, for a canonical camera and trackers. */
  static ClipRange around(ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    double[] reach = reachOf(camera, trackers, picture, false);
    return reach[1] > 0 ? new ClipRange(reach[0] / MARGIN, reach[1] * MARGIN) : WITHOUT_TRACKERS;
  }

  /**
   * The depths that planes have to leave in, in metres: from the nearest to the farthest tracker
   * that a canonical camera has in its picture, over the whole shot. Empty where it has none.
   */
  public static Optional<ClipRange> inPicture(
      ShotCamera camera, List<TrackerSet> trackers, PictureSize picture) {
    double[] reach = reachOf(camera, trackers, picture, true);
    if (reach[1] == 0) {
      return Optional.empty();
    }
    double near = Math.min(reach[0], reach[1] * (1 - 1e-9)); // one depth alone is no range
    return Optional.of(new ClipRange(near, reach[1]));
  }

  private static double[] reachOf(
      ShotCamera camera, List<TrackerSet> trackers, PictureSize picture, boolean inside) {
    FrameRange frames = camera.frames();
    int parts = Math.min(PARTS, frames.count());
    // A few frames from all over the shot tell most of it: the rest then has little to widen.
    double[] most = {Double.MAX_VALUE, 0};
    int apart = Math.max(1, frames.count() / parts);
    widen(camera, trackers, picture, inside, frames.first(), frames.last() + 1, apart, most);
    return IntStream.range(0, parts)
        .parallel()
        .mapToObj(
            part -> {
              int first = frames.first() + (int) ((long) frames.count() * part / parts);
              int end = frames.first() + (int) ((long) frames.count() * (part + 1) / parts);
              double[] range = most.clone();
              widen(camera, trackers, picture, inside, first, end, 1, range);
              return range;
            })
        .reduce(most, (a, b) -> new double[] {Math.min(a[0], b[0]), Math.max(a[1], b[1])});
  }

  /**
   * Widens a range by the depths of trackers in front of the camera, over some frames.
   *
   * @param inside only by those in the picture
   */
  private static void widen(
      ShotCamera camera,
      List<TrackerSet> trackers,
      PictureSize picture,
      boolean inside,
      int first,
      int end,
      int apart,
      double[] range) {
    Pinhole p = new Pinhole(camera, picture);
    for (int f = first; f < end; f += apart) {
      p.at(f);
      for (TrackerSet t : trackers) {
        p.widen(t, NEAREST, inside, range);
      }
    }
  }
}
