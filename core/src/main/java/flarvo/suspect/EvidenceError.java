package flarvo.suspect;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Shot;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/** The error of a shot against 2D tracks, as the search measures it, with nothing tried on it. */
public final class EvidenceError {

  private static final int FRAMES = 32;
  private static final int EACH = 30;

  private EvidenceError() {}

  /**
   * Mean over the frames of the median distance in pixels between where points are seen and where
   * they were observed; of a sample, which is as good for a median. Where no point is called like a
   * track, the camera alone is measured, on points triangulated from the tracks.
   *
   * @param shot its first camera, and points that stand still
   * @param tracks in the frames and pixels of the plates
   * @return NaN where there is no camera or nothing to measure on
   */
  public static double of(Shot shot, Observations tracks) {
    return of(shot, tracks, false);
  }

  /** The same with the focal length, the film back or the lens shift that fits best. */
  public static double withAnyFilm(Shot shot, Observations tracks) {
    return of(shot, tracks, true);
  }

  private static double of(Shot shot, Observations tracks, boolean anyFilm) {
    if (shot.camera().isEmpty()) {
      return Double.NaN;
    }
    PictureSize picture = shot.picture();
    FiledScene file = FiledScene.of(shot.camera().get(), shot.trackers(), picture);
    Map<String, Integer> numbers = file.numbers();
    int[] pointOf = tracks.names().stream().mapToInt(n -> numbers.getOrDefault(n, -1)).toArray();
    TriedScene.Bench bench = MixUps.BENCH.get();
    boolean cameraAlone = Arrays.stream(pointOf).noneMatch(p -> p >= 0);
    if (cameraAlone) {
      pointOf = SuspectSearch.longest(tracks);
      file = file.withPoints(new double[3 * SuspectSearch.EACH], List.of());
    }
    Evidence e = Evidence.of(tracks, pointOf, picture, FRAMES, EACH);
    if (e.size() == 0) {
      return Double.NaN;
    }
    TriedScene s = TriedScene.of(file);
    if (cameraAlone) {
      s = s.with(file.withPoints(PointsFromTracks.of(s, e, bench), List.of()));
    }
    double error = s.error(e, bench);
    if (anyFilm) {
      List<Change> all = new ArrayList<>(new LensFamilies.Focal().on(s, e, bench));
      all.addAll(new LensFamilies.Back().on(s, e, bench));
      all.addAll(new LensFamilies.Offset().on(s, e, bench));
      for (Change c : all) {
        error = Math.min(error, c.scene().error(e, bench));
      }
    }
    return error;
  }
}
