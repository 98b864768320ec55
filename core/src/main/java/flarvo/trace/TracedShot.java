package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.lens.ThroughLens;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import flarvo.vet.RefinedSolve;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** A shot with what was made of its plates. */
public final class TracedShot {

  /** What the solved features are called. */
  public static final String TRACKERS = "features";

  private TracedShot() {}

  /**
   * The shot with the features among its 2D tracks, and with the solve in the place of camera and
   * trackers that came.
   *
   * @param lens of the original plates; without one they are taken for straight
   */
  public static Shot of(Shot came, TraceWork work, Optional<LensTrack> lens) {
    Observations seen = came.observations();
    for (HandFeature h : work.hand()) {
      seen = with(seen, straight(h.path(), h.plates(), lens, came));
    }
    for (PlaneFeature q : work.planes()) {
      seen = with(seen, straight(q.path(), q.plates(), lens, came));
    }
    if (work.features().isPresent()) {
      seen = with(seen, Mover.without(features(came, work, lens), work.movers()));
    }
    Shot s = work.hasTracks() ? came.withObservations(seen) : came;
    return work.solve().map(r -> solved(s, r)).orElse(s);
  }

  /** All features that were followed, those on what moves too; straight where the lens is known. */
  public static Observations features(Shot came, TraceWork work, Optional<LensTrack> lens) {
    return work.features()
        .map(f -> straight(f.observations(), f.plates(), lens, came))
        .orElse(Observations.NONE);
  }

  /**
   * A solve that was made on something that moves, as a shot of its own.
   *
   * @param tracks that it was made of
   */
  public static Shot object(Shot came, Observations tracks, RefinedSolve r) {
    return solved(came.withObservations(tracks), r);
  }

  private static Observations straight(
      Observations own, PlateRole plates, Optional<LensTrack> lens, Shot came) {
    return plates == PlateRole.ORIGINAL && lens.isPresent()
        ? ThroughLens.undistorted(own, lens.get(), came.picture())
        : own;
  }

  private static Observations with(Observations came, Observations own) {
    return came.isEmpty() ? own : came.toBuilder().add(renamed(own, came)).build();
  }

  /** A feature that is called like a tracker that came gets another name. */
  private static Observations.Builder renamed(Observations own, Observations came) {
    Observations.Builder b = new Observations.Builder();
    for (String n : own.names()) {
      String name = n;
      while (came.firstRow(name) >= 0) {
        name += "'";
      }
      for (int row = own.firstRow(n); row < own.endRow(n); row++) {
        b.add(name, own.frame(row), own.x(row), own.y(row));
      }
    }
    return b;
  }

  private static Shot solved(Shot s, RefinedSolve r) {
    Map<String, Vec3> points = new TreeMap<>(r.points());
    double[] xyz = new double[3 * points.size()];
    List<String> names = new ArrayList<>(points.keySet());
    for (int i = 0; i < names.size(); i++) {
      Vec3 p = points.get(names.get(i));
      xyz[3 * i] = p.x();
      xyz[3 * i + 1] = p.y();
      xyz[3 * i + 2] = p.z();
    }
    ShotCamera camera = r.camera();
    FrameRange frames = camera.frames();
    return new Shot(
        s.name(),
        s.picture(),
        s.rate(),
        frames,
        frames.first(),
        List.of(camera),
        List.of(TrackerSet.of(TRACKERS, names, xyz)),
        r.rest().straightened(s.observations(), camera, s.picture()),
        s.plates(),
        s.level());
  }
}
