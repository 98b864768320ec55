package flarvo.stage;

import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Distances for trackers of a camera that only turns; the picture does not change by them. */
public final class TripodDepth {

  private final Map<String, Vec3> places;
  private final Vec3 eye;

  /**
   * @throws InputError where the camera moves
   */
  public TripodDepth(Shot shot) {
    ShotCamera c =
        shot.camera()
            .orElseThrow(() -> InputError.words("the shot has no camera", "Add one first"));
    places = Staging.places(shot);
    eye = c.poses().at(c.frames().first()).position();
    if (!isTripod(shot)) {
      throw InputError.words(
          "the camera moves, so its trackers have depths of their own",
          "Only trackers of a nodal camera take distances; refine as nodal in Vet");
    }
  }

  /** Whether the camera stands still and turns: then a tracker is a direction and no place. */
  public static boolean isTripod(Shot shot) {
    if (shot.camera().isEmpty() || shot.frames().count() < 2) {
      return false;
    }
    boolean places = shot.trackers().stream().anyMatch(t -> t.size() > 0 && !t.moves());
    return places && shot.camera().get().isNodal(shot.trackers());
  }

  /**
   * @param metres from the camera
   */
  public List<GivenDepth> typed(Collection<String> trackers, double metres, Similarity level) {
    if (!(metres > 0) || !Double.isFinite(metres)) {
      throw InputError.words("a distance of " + metres + " m is none", "Type one over zero");
    }
    return trackers.stream()
        .filter(places::containsKey)
        .map(t -> new GivenDepth(t, metres / level.scale(), "typed"))
        .toList();
  }

  /** Where their rays meet a level plane; those that never do are left out. */
  public List<GivenDepth> onGround(Collection<String> trackers, double height, Similarity level) {
    Vec3 from = level.apply(eye);
    List<GivenDepth> out = new ArrayList<>();
    for (String t : trackers) {
      if (places.containsKey(t)) {
        Vec3 ray = level.apply(places.get(t)).minus(from).normalized();
        double d = (height - from.y()) / ray.y();
        if (d > 0 && Double.isFinite(d)) {
          out.add(new GivenDepth(t, d / level.scale(), "on the ground"));
        }
      }
    }
    return out;
  }

  /** Where their rays meet a stand-in; those that pass it are left out. */
  public List<GivenDepth> on(Collection<String> trackers, StandIn s) {
    List<GivenDepth> out = new ArrayList<>();
    for (String t : trackers) {
      if (places.containsKey(t)) {
        Optional<Vec3> hit = s.meet(eye, places.get(t).minus(eye).normalized());
        hit.ifPresent(h -> out.add(new GivenDepth(t, h.minus(eye).length(), "on " + s.name())));
      }
    }
    return out;
  }
}
