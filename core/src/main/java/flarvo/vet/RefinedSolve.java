package flarvo.vet;

import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/**
 * Camera and points that stand in the place of those that came, in the same solve space.
 *
 * @param points by tracker; one that is not named keeps its place
 * @param rest straightens the 2D tracks where lens terms were refined
 * @param tripod directions alone are known; the distances of the points are not
 * @param how one line for diary and desk
 */
public record RefinedSolve(
    ShotCamera camera,
    Map<String, Vec3> points,
    ResidualDistortion rest,
    boolean tripod,
    String how) {

  public RefinedSolve {
    points = Map.copyOf(points);
    // Clip planes stay those of the received camera.
    camera =
        camera.clip().isPresent()
            ? new ShotCamera(camera.name(), camera.poses(), camera.optics(), Optional.empty())
            : camera;
  }

  /** The shot with this solve; its name, plates and level stay. */
  public Shot applied(Shot shot) {
    List<ShotCamera> cameras = new ArrayList<>(shot.cameras());
    ShotCamera came = cameras.get(0);
    cameras.set(0, new ShotCamera(came.name(), camera.poses(), camera.optics(), came.clip()));
    return shot.withCameras(cameras)
        .withTrackers(shot.trackers().stream().map(this::moved).toList())
        .withObservations(rest.straightened(shot.observations(), camera, shot.picture()));
  }

  /** The same on other frame numbers. */
  public RefinedSolve shifted(int by) {
    return by == 0 ? this : new RefinedSolve(camera.shifted(by), points, rest, tripod, how);
  }

  /**
   * The same for a shot that was made anew; empty where the solve that this one refines is another.
   *
   * @param was the shot that it refines
   * @param made the same camera, points and picture, perhaps on other frames
   */
  public Optional<RefinedSolve> carried(Shot was, Shot made) {
    int by = made.frames().first() - was.frames().first();
    boolean same =
        made.picture().equals(was.picture())
            && made.trackers().equals(was.trackers())
            && made.camera().equals(was.camera().map(c -> c.shifted(by)));
    return same ? Optional.of(shifted(by)) : Optional.empty();
  }

  /** The same points under a mended path. */
  public RefinedSolve withCamera(ShotCamera c, String what) {
    return new RefinedSolve(c, points, rest, tripod, what);
  }

  private TrackerSet moved(TrackerSet t) {
    if (t.moves()) {
      return t; // its places are its group's
    }
    double[] xyz = new double[3 * t.size()];
    for (int i = 0; i < t.size(); i++) {
      Vec3 p = points.getOrDefault(t.names().get(i), t.position(i));
      xyz[3 * i] = p.x();
      xyz[3 * i + 1] = p.y();
      xyz[3 * i + 2] = p.z();
    }
    return TrackerSet.of(t.name(), t.names(), xyz).inGroup(t.group());
  }
}
