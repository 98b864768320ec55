package flarvo.trace;

import flarvo.lens.LensTrack;
import flarvo.scene.Luma;
import flarvo.scene.Shot;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.util.List;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What the plates tell of a camera on frames that are too blurred to follow anything in, as in a
 * whip pan: its rotation ({@link BlurredTurns}), and then its whole pose ({@link BlurredMoves}).
 *
 * @param shot with the trackers that are kept, and the camera as it was measured
 * @param sentence on what was measured; empty where nothing was
 */
public record BlurredFrames(Shot shot, String sentence) {

  /**
   * Measures the camera of a solve on the frames for which it is interpolated.
   *
   * @param focal what was known of the focal length
   * @param lens of original plates; empty where they are undistorted
   * @param plates brightness by plate frame; empty where one is missing
   */
  public static BlurredFrames of(
      TrackSolve.Outcome solved,
      FocalLength focal,
      Optional<LensTrack> lens,
      IntFunction<Optional<Luma>> plates,
      Progress progress) {
    Shot kept = solved.kept();
    BlurredTurns.Outcome turns =
        BlurredTurns.of(
            kept.cameras().get(0),
            solved.interpolated(),
            kept.picture().pixelAspect(),
            lens,
            plates,
            progress.part(0, 2));
    BlurredMoves.Outcome moves =
        BlurredMoves.of(
            kept.withCameras(List.of(turns.camera())),
            solved.kind().tripod(),
            turns.measured().keySet(),
            focal.free(),
            lens,
            plates,
            progress.part(1, 2));
    return new BlurredFrames(
        moves.shot(),
        Stream.of(turns.sentence(), moves.sentence())
            .filter(s -> !s.isEmpty())
            .collect(Collectors.joining(" ")));
  }
}
