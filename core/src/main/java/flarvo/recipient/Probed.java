package flarvo.recipient;

import flarvo.proof.Probes;
import flarvo.scene.Observations;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** A shot with few enough points to be measured many times. */
final class Probed {

  /** Settings move all points alike; some hundred say as much as all. */
  private static final int MOST = 300;

  private Probed() {}

  /** Some of the trackers, spread over all; without any, points placed in the camera's view. */
  static WorldShot of(WorldShot shot) {
    if (shot.trackerCount() == 0) {
      return shot.cameras().isEmpty() ? shot : Probes.in(shot);
    }
    return new WorldShot(
        shot.contents().withTrackers(thin(shot.trackers())).withObservations(Observations.NONE));
  }

  /** At most some hundred trackers, evenly taken. */
  static List<TrackerSet> thin(List<TrackerSet> all) {
    int count = all.stream().mapToInt(TrackerSet::size).sum();
    if (count <= MOST) {
      return all;
    }
    int step = (count + MOST - 1) / MOST;
    List<TrackerSet> out = new ArrayList<>();
    for (TrackerSet t : all) {
      Set<String> gone =
          IntStream.range(0, t.size())
              .filter(i -> i % step != 0)
              .mapToObj(i -> t.names().get(i))
              .collect(Collectors.toSet());
      out.add(t.without(gone));
    }
    return out;
  }
}
