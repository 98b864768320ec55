package flarvo.vet;

import flarvo.scene.Observations;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * How good a solve is, in everything that can be counted: errors, lives, angles, uncertainty, cover
 * of the picture, smoothness of the path.
 */
public final class Measures {

  private static final int PROGRESS_STEP = 256;

  private final Reprojection errors;
  private final List<TrackerMeasure> trackers;
  private final Map<String, TrackerMeasure> byName = new HashMap<>();
  private final Coverage cover;
  private final PathJumps jumps;
  private final double[] sorted; // the trackers' errors

  private Measures(
      Reprojection errors, List<TrackerMeasure> trackers, Coverage cover, PathJumps jumps) {
    this.errors = errors;
    this.trackers = List.copyOf(trackers);
    this.cover = cover;
    this.jumps = jumps;
    trackers.forEach(t -> byName.put(t.name(), t));
    sorted =
        trackers.stream()
            .mapToDouble(TrackerMeasure::rmsPx)
            .filter(px -> !Double.isNaN(px))
            .sorted()
            .toArray();
  }

  /** Empty when there is no camera or nothing was observed. */
  public static Optional<Measures> of(Shot shot, Set<String> weightless, Progress progress) {
    return Reprojection.of(shot, weightless).map(e -> of(shot, e, progress));
  }

  /**
   * The same where the errors are known.
   *
   * @param errors of the same trackers through the same camera; at whatever level
   */
  public static Measures of(Shot shot, Reprojection errors, Progress progress) {
    Observations o = shot.observations();
    Triangulation place = new Triangulation(shot.camera().orElseThrow(), shot.picture(), o);
    List<TrackerMeasure> list = new ArrayList<>();
    int done = 0;
    for (TrackerSet t : shot.trackers()) {
      for (int i = 0; i < t.size(); i++) {
        if (done++ % PROGRESS_STEP == 0) {
          progress.step(done, shot.trackerCount());
        }
        list.add(
            TrackerMeasure.of(
                t.names().get(i),
                t.name(),
                o,
                errors,
                t.moves()
                    ? Optional.empty() // depth and angle are those of a still point
                    : place.measured(t.names().get(i), t.position(i))));
      }
    }
    return new Measures(errors, list, Coverage.of(shot), PathJumps.of(shot));
  }

  public Reprojection errors() {
    return errors;
  }

  /** In the order of the shot's groups. */
  public List<TrackerMeasure> trackers() {
    return trackers;
  }

  /** How many trackers have an error over a limit in pixels; found by halving, for sliders. */
  public int over(double limitPx) {
    int low = 0;
    int high = sorted.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (sorted[middle] > limitPx) {
        high = middle;
      } else {
        low = middle + 1;
      }
    }
    return sorted.length - low;
  }

  /** What is measured of a tracker; empty where it was not observed or has no point. */
  public Optional<TrackerMeasure> tracker(String name) {
    return Optional.ofNullable(byName.get(name));
  }

  public Coverage cover() {
    return cover;
  }

  public PathJumps jumps() {
    return jumps;
  }
}
