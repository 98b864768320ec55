package flarvo.proof;

import flarvo.motion.Framing;
import flarvo.motion.Recast;
import flarvo.scene.FrameRange;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Whether the picture stayed what it was when motion, film or time were recast: trackers of the
 * file on disk, through its camera, against the shot before anything was recast. It knows only
 * where a pixel and a frame of the old picture lie in the new one, nothing of how poses were
 * turned.
 */
final class PictureCheck {

  private static final int FRAMES = 64;

  private PictureCheck() {}

  /**
   * @param before the shot before
   * @param source the shot as it was sent
   * @param camera of the file, on the frames of what was sent
   * @param seen trackers of the file, on the frames of what was sent
   */
  static Check of(
      WorldShot before,
      Recast recast,
      WorldShot source,
      ShotCamera camera,
      List<TrackerSet> seen,
      double limitPx) {
    Pinhole here = new Pinhole(before.camera().orElseThrow(), before.picture());
    Pinhole there = new Pinhole(camera, source.picture());
    Map<String, Place> known = places(before.trackers());
    double worst = 0;
    int compared = 0;
    double[] p = new double[3];
    double[] q = new double[3];
    FrameRange frames = source.frames();
    int steps = Math.min(FRAMES, frames.count());
    for (int i = 0; i < steps; i++) {
      int frame =
          frames.first() + (steps == 1 ? 0 : (int) ((frames.count() - 1L) * i / (steps - 1)));
      Optional<Integer> old = whole(recast, frame);
      if (old.isEmpty() || !camera.frames().contains(frame)) {
        continue;
      }
      here.at(old.get());
      there.at(frame);
      for (TrackerSet t : seen) {
        for (int k = 0; k < t.size(); k++) {
          Place was = known.get(t.names().get(k));
          if (was == null) {
            continue;
          }
          here.project(was.set, was.index, p);
          there.project(t, k, q);
          if (p[2] > 0 && isInside(p, before)) {
            double u = recast.framing().map(f -> f.u(p[0])).orElse(p[0]);
            double v = recast.framing().map(f -> f.v(p[1])).orElse(p[1]);
            double off = q[2] > 0 ? Math.hypot(q[0] - u, q[1] - v) : Double.POSITIVE_INFINITY;
            worst = Math.max(worst, off);
            compared++;
          }
        }
      }
    }
    double limit = limitPx * recast.framing().map(PictureCheck::growth).orElse(1.0);
    return new Check(
        "samePicture",
        compared > 0 && worst <= limit,
        String.format(Locale.ROOT, "at most %.4f px from the shot as it was", limit),
        compared == 0
            ? "no tracker to compare"
            : String.format(Locale.ROOT, "%.6f px on %d places", worst, compared));
  }

  /** A picture that is enlarged enlarges its error. */
  private static double growth(Framing f) {
    return Math.max(1, Math.max(f.outWidth() / f.width(), f.outHeight() / f.height()));
  }

  private static boolean isInside(double[] p, WorldShot s) {
    return p[0] >= 0 && p[1] >= 0 && p[0] <= s.picture().width() && p[1] <= s.picture().height();
  }

  /** The frame of the shot that a new frame shows; empty in between. */
  private static Optional<Integer> whole(Recast r, int frame) {
    if (r.retime().isEmpty()) {
      return Optional.of(frame);
    }
    double at = r.retime().get().source(frame);
    return at == Math.rint(at) ? Optional.of((int) at) : Optional.empty();
  }

  private record Place(TrackerSet set, int index) {}

  private static Map<String, Place> places(List<TrackerSet> sets) {
    Map<String, Place> out = new HashMap<>();
    for (TrackerSet t : sets) {
      for (int i = 0; i < t.size(); i++) {
        out.put(t.names().get(i), new Place(t, i));
      }
    }
    return out;
  }
}
