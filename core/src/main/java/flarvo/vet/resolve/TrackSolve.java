package flarvo.vet.resolve;

import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.vet.CullAndRefine;
import flarvo.vet.SolveKind;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.List;
import java.util.OptionalDouble;
import java.util.Set;

/** From 2D tracks to a solve that is fit to be looked at: solved, strays left out, refined. */
public final class TrackSolve {

  private TrackSolve() {}

  /**
   * @param shot camera and all trackers, refined; those of {@code cleaned.culled()} too
   */
  public record Outcome(Shot shot, SolveKind kind, CullAndRefine.Outcome cleaned, String how) {}

  /**
   * @param targetPx the error that is wished for
   * @param fewest live trackers that a frame should keep
   */
  public static Outcome of(
      String name,
      Observations o,
      PictureSize picture,
      Rate rate,
      double filmWidthMm,
      double filmHeightMm,
      OptionalDouble focalMm,
      double targetPx,
      int fewest,
      Progress progress) {
    Resolve.Solved s = Resolve.of(o, picture, filmWidthMm, filmHeightMm, focalMm, progress);
    Shot shot =
        new Shot(
            name,
            picture,
            rate,
            s.camera().frames(),
            s.camera().frames().first(),
            List.of(s.camera()),
            List.of(s.trackers()),
            o,
            List.of(),
            Similarity.IDENTITY);
    AdjustOptions options =
        AdjustOptions.USUAL
            .withTripod(s.kind().tripod())
            .withFocal(
                focalMm.isPresent() ? AdjustOptions.Focal.FIXED : AdjustOptions.Focal.CONSTANT);
    CullAndRefine.Outcome cleaned =
        CullAndRefine.of(shot, Set.of(), targetPx, fewest, options, progress);
    return new Outcome(cleaned.solve().applied(shot), s.kind(), cleaned, s.how());
  }
}
