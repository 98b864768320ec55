package flarvo.vet;

import flarvo.scene.OpticsTrack;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.SimilarityFit;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** Lays a solve that was made anew, in a space of its own, on the one that a shot came with. */
public final class SolveInPlace {

  private SolveInPlace() {}

  /**
   * By trackers of the same name, robustly; where those agree on nothing, by the camera's first
   * pose alone.
   */
  public static RefinedSolve of(
      Shot shot, ShotCamera made, TrackerSet points, SolveKind kind, String how) {
    Map<String, Vec3> places = TrackerSet.stillPositions(List.of(points));
    List<Vec3> from = new ArrayList<>();
    List<Vec3> to = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size() && !t.moves(); i++) {
        Vec3 p = places.get(t.names().get(i));
        if (p != null) {
          from.add(p);
          to.add(t.position(i));
        }
      }
    }
    ShotCamera old = shot.camera().orElseThrow();
    Similarity lay = fitted(from, to).orElseGet(() -> byFirstPose(made, old));
    PoseTrack poses =
        PoseTrack.of(old.frames(), f -> lay.apply(made.poses().at(made.frames().clamp(f))));
    ShotCamera camera =
        old.withPoses(poses)
            .withOptics(
                OpticsTrack.of(old.frames(), f -> made.optics().at(made.frames().clamp(f))));
    Map<String, Vec3> out = new HashMap<>();
    places.forEach((n, p) -> out.put(n, lay.apply(p)));
    return new RefinedSolve(camera, out, ResidualDistortion.NONE, kind.tripod(), how);
  }

  private static java.util.Optional<Similarity> fitted(List<Vec3> from, List<Vec3> to) {
    if (from.size() < 3) {
      return java.util.Optional.empty();
    }
    try {
      return java.util.Optional.of(SimilarityFit.robust(from, to));
    } catch (IllegalArgumentException e) {
      return java.util.Optional.empty(); // all in one place
    }
  }

  private static Similarity byFirstPose(ShotCamera made, ShotCamera old) {
    int f = made.frames().clamp(old.frames().first());
    Pose a = made.poses().at(f);
    Pose b = old.poses().at(old.frames().first());
    var turn = b.rotation().after(a.rotation().inverse());
    return new Similarity(1, turn, b.position().minus(turn.apply(a.position())));
  }
}
