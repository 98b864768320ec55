package flarvo.suspect;

import flarvo.scene.Group;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;

/**
 * What of a shot is measured against 2D tracks, and how: its first camera with the points that are
 * called like tracks, or alone, on points that are triangulated anew under every change.
 */
final class Subject {

  /** Tracks that a camera alone is measured on, in each frame. */
  static final int EACH = 40;

  final TriedScene base;
  final boolean cameraAlone;
  private final Observations tracks;
  private final PictureSize picture;
  private final int[] pointOf;

  private Subject(
      ShotCamera camera, List<TrackerSet> points, PictureSize picture, Observations tracks) {
    this.tracks = tracks;
    this.picture = picture;
    FiledScene file = FiledScene.of(camera, points, picture);
    Map<String, Integer> numbers = file.numbers();
    int[] called = tracks.names().stream().mapToInt(n -> numbers.getOrDefault(n, -1)).toArray();
    cameraAlone = Arrays.stream(called).noneMatch(p -> p >= 0);
    pointOf = cameraAlone ? longest(tracks) : called;
    base = TriedScene.of(cameraAlone ? file.withPoints(new double[3 * EACH], List.of()) : file);
  }

  /**
   * A shot with its points that stand still.
   *
   * @param shot with a camera
   */
  static Subject still(Shot shot, Observations tracks) {
    return new Subject(shot.camera().orElseThrow(), shot.trackers(), shot.picture(), tracks);
  }

  /**
   * The same; where tracks are called only like points of groups that move, the group that most of
   * them are of, with the camera as it moves against it.
   */
  static Subject any(Shot shot, Observations tracks) {
    Set<String> tracked = new HashSet<>(tracks.names());
    boolean still = shot.trackers().stream().anyMatch(t -> !t.moves() && count(t, tracked) > 0);
    Optional<TrackerSet> most =
        shot.trackers().stream()
            .filter(t -> t.moves() && count(t, tracked) > 0)
            .max(Comparator.comparingLong(t -> count(t, tracked)));
    return still || most.isEmpty()
        ? still(shot, tracks)
        : new Subject(
            against(
                shot.camera().orElseThrow(),
                most.get().group().flatMap(Group::motion).orElseThrow()),
            List.of(most.get().inGroup(Optional.empty())),
            shot.picture(),
            tracks);
  }

  private static long count(TrackerSet t, Set<String> names) {
    return t.names().stream().filter(names::contains).count();
  }

  private static ShotCamera against(ShotCamera camera, PoseTrack group) {
    return camera.withPoses(
        PoseTrack.of(
            camera.frames(),
            f -> {
              Pose g = group.at(group.frames().clamp(f));
              Pose c = camera.poses().at(f);
              return new Pose(g.toLocal(c.position()), g.rotation().inverse().after(c.rotation()));
            }));
  }

  /**
   * Observed pixels to measure on.
   *
   * @param frames most of them
   * @param each most in a frame
   */
  Evidence evidence(int frames, int each) {
    return Evidence.of(tracks, pointOf, picture, frames, each);
  }

  /** Of the scene with changes on it, see {@link TriedScene#error}. */
  double error(TriedScene s, Evidence e) {
    return error(s, e, Double.POSITIVE_INFINITY);
  }

  /** The same where it is no more than a limit; else anything over the limit. */
  double error(TriedScene s, Evidence e, double limit) {
    return placed(s, e).error(e, MixUps.BENCH.get(), limit);
  }

  /** With the points of a camera alone where it sees them. */
  TriedScene placed(TriedScene s, Evidence e) {
    return cameraAlone
        ? s.with(s.file.withPoints(PointsFromTracks.seen(s, e, MixUps.BENCH.get()), List.of()))
        : s;
  }

  /** The tracks that are observed most, numbered. */
  private static int[] longest(Observations tracks) {
    int[] pointOf = new int[tracks.names().size()];
    Arrays.fill(pointOf, -1);
    List<Integer> byLength =
        IntStream.range(0, pointOf.length)
            .boxed()
            .sorted(
                Comparator.comparingInt(
                    i -> {
                      String n = tracks.names().get(i);
                      return tracks.firstRow(n) - tracks.endRow(n);
                    }))
            .limit(EACH)
            .toList();
    for (int i = 0; i < byLength.size(); i++) {
      pointOf[byLength.get(i)] = i;
    }
    return pointOf;
  }
}
