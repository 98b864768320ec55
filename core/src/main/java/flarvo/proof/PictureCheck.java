package flarvo.proof;

import flarvo.motion.Framing;
import flarvo.motion.Recast;
import flarvo.scene.FrameRange;
import flarvo.scene.Mesh;
import flarvo.scene.Pinhole;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.scene.WorldShot;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * Whether the picture stayed what it was when motion, film or time were recast: trackers and meshes
 * of the file on disk, through its camera, against the shot before anything was recast. It knows
 * only where a pixel and a frame of the old picture lie in the new one, nothing of how poses were
 * turned.
 */
final class PictureCheck {

  private static final int FRAMES = 64;

  /** So many corners of a mesh are looked at. */
  private static final int CORNERS = 64;

  private final WorldShot before;
  private final Recast recast;
  private final Pinhole here;
  private final Pinhole there;
  private final double[] p = new double[3];
  private final double[] q = new double[3];
  private double worst;
  private int compared;

  private PictureCheck(WorldShot before, Recast recast, WorldShot source, ShotCamera camera) {
    this.before = before;
    this.recast = recast;
    here = new Pinhole(before.camera().orElseThrow(), before.picture());
    there = new Pinhole(camera, source.picture());
  }

  /**
   * @param before the shot before, without the frames that were added
   * @param source the shot as it was sent
   * @param camera of the file, on the frames of what was sent
   * @param seen trackers of the file, on the frames of what was sent
   * @param solids meshes of the file, on the frames of what was sent
   */
  static Check of(
      WorldShot before,
      Recast recast,
      WorldShot source,
      ShotCamera camera,
      List<TrackerSet> seen,
      List<Mesh> solids,
      double limitPx) {
    PictureCheck check = new PictureCheck(before, recast, source, camera);
    Map<String, Place> known = places(before.trackers());
    List<Corners> corners = corners(before.meshes(), solids);
    FrameRange frames = source.frames();
    int steps = Math.min(FRAMES, frames.count());
    for (int i = 0; i < steps; i++) {
      int frame =
          frames.first() + (steps == 1 ? 0 : (int) ((frames.count() - 1L) * i / (steps - 1)));
      Optional<Integer> old = whole(recast, frame);
      if (old.isEmpty() || !camera.frames().contains(frame)) {
        continue;
      }
      int was = before.frames().clamp(old.get()); // on frames that were added it is held
      check.here.at(was);
      check.there.at(frame);
      for (TrackerSet t : seen) {
        for (int k = 0; k < t.size(); k++) {
          Place there = known.get(t.names().get(k));
          if (there != null) {
            check.here.project(there.set, there.index, check.p);
            check.there.project(t, k, check.q);
            check.compare();
          }
        }
      }
      corners.forEach(c -> check.mesh(c, was, frame));
    }
    double limit = limitPx * recast.framing().map(PictureCheck::growth).orElse(1.0);
    return new Check(
        "samePicture",
        check.compared > 0 && check.worst <= limit,
        String.format(Locale.ROOT, "at most %.4f px from the shot as it was", limit),
        check.compared == 0
            ? "nothing to compare"
            : String.format(Locale.ROOT, "%.6f px on %d places", check.worst, check.compared));
  }

  private void mesh(Corners c, int old, int frame) {
    for (int i = 0; i < c.own.length; i++) {
      Vec3 a = c.before.position(c.own[i], old);
      Vec3 b = c.found.position(c.other[i], frame);
      here.project(a.x(), a.y(), a.z(), p);
      there.project(b.x(), b.y(), b.z(), q);
      compare();
    }
  }

  /** What is at p in the old picture and at q in the new one. */
  private void compare() {
    if (p[2] > 0 && isInside(p, before)) {
      double u = recast.framing().map(f -> f.u(p[0])).orElse(p[0]);
      double v = recast.framing().map(f -> f.v(p[1])).orElse(p[1]);
      double off = q[2] > 0 ? Math.hypot(q[0] - u, q[1] - v) : Double.POSITIVE_INFINITY;
      worst = Math.max(worst, off);
      compared++;
    }
  }

  /** Points of a mesh and of the one that was read back, in pairs. */
  private record Corners(Mesh before, Mesh found, int[] own, int[] other) {}

  /** By name and corner; what has other corners is a fault that the geometry's own check tells. */
  private static List<Corners> corners(List<Mesh> before, List<Mesh> found) {
    Map<String, Mesh> byName = new HashMap<>();
    found.forEach(m -> byName.putIfAbsent(m.name(), m));
    List<Corners> out = new ArrayList<>();
    for (Mesh a : before) {
      Mesh b = byName.get(a.name());
      if (b == null || a.faces() == 0) {
        continue;
      }
      int[] ours = a.triangles();
      int[] theirs = b.triangles();
      if (ours.length != theirs.length) {
        continue;
      }
      int n = Math.min(CORNERS, ours.length);
      int[] own = new int[n];
      int[] other = new int[n];
      int[] ownIndices = a.faceIndices();
      int[] otherIndices = b.faceIndices();
      for (int i = 0; i < n; i++) {
        int k = (int) ((long) i * ours.length / n);
        own[i] = ownIndices[ours[k]];
        other[i] = otherIndices[theirs[k]];
      }
      out.add(new Corners(a, b, own, other));
    }
    return out;
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
