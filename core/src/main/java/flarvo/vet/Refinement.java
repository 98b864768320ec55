package flarvo.vet;

import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.adjust.Adjustment;
import flarvo.vet.adjust.BundleAdjuster;
import flarvo.vet.adjust.TrackerWeights;
import flarvo.vet.adjust.Tracks;
import flarvo.work.Progress;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/** Makes a solve fit its 2D tracks better, by bundle adjustment. */
public final class Refinement {

  /** Fewer trackers than this in two frames or more cannot hold a camera. */
  static final int FEWEST_TRACKERS = 6;

  /** Fits with weights; after these the weights hardly change. */
  private static final int REWEIGHTED = 2;

  private Refinement() {}

  /**
   * What a refinement came to.
   *
   * @param beforePx RMS of the distances, as it was
   * @param afterPx the same with the refined solve
   * @param settled false where rounds ran out before the error stood still
   */
  public record Outcome(
      RefinedSolve solve, double beforePx, double afterPx, int rounds, boolean settled) {}

  /**
   * @param shot as it stands; culled trackers are not in it any more
   * @param weightless trackers that must not pull at the camera
   * @throws InputError when the tracks cannot hold a camera, with the reason
   */
  public static Outcome of(
      Shot shot, Set<String> weightless, AdjustOptions options, Progress progress) {
    return of(shot, weightless, Map.of(), options, Optional.empty(), 0, progress);
  }

  /**
   * The same of a shot that was refined before, if with a few more trackers or another loss.
   *
   * @param lens terms that were found then; {@link ResidualDistortion#NONE} where none are found
   * @param shot with the tracks as they came, before that lens straightened them
   * @throws InputError as the other
   */
  public static Outcome from(
      ResidualDistortion lens,
      Shot shot,
      Set<String> weightless,
      AdjustOptions options,
      Progress progress) {
    return of(shot, weightless, Map.of(), options, Optional.of(lens), 0, progress);
  }

  /**
   * The same, where some trackers count for less than others.
   *
   * @param weights by name, above 0: what squared errors are multiplied by; 1 for those not named
   * @throws InputError as the other
   */
  public static Outcome of(
      Shot shot, Map<String, Double> weights, AdjustOptions options, Progress progress) {
    return of(shot, Set.of(), weights, options, Optional.empty(), 0, progress);
  }

  /**
   * The same, then twice more with each tracker weighted by its own error: the RMS grows a little,
   * and the solve is nearer to the truth.
   *
   * @throws InputError as the other
   */
  static Outcome weighted(
      ResidualDistortion lens,
      Shot shot,
      Set<String> weightless,
      AdjustOptions options,
      Progress progress) {
    return of(shot, weightless, Map.of(), options, Optional.of(lens), REWEIGHTED, progress);
  }

  private static Outcome of(
      Shot shot,
      Set<String> weightless,
      Map<String, Double> weighted,
      AdjustOptions options,
      Optional<ResidualDistortion> refined,
      int reweighted,
      Progress progress) {
    Reprojection before =
        Reprojection.of(shot, weightless)
            .orElseThrow(
                () ->
                    InputError.words(
                        "there is nothing to refine with",
                        "A camera, points and 2D tracks of the same names are needed"));
    ShotBundle b = ShotBundle.of(shot, weightless, options.tripod());
    refined.ifPresent(lens -> b.bundle.setLens(lens.k1(), lens.k2(), lens.k3()));
    if (b.names.size() < FEWEST_TRACKERS) {
      throw InputError.words(
          "only "
              + b.names.size()
              + " trackers are seen in two frames or more; a camera needs "
              + FEWEST_TRACKERS,
          "Restore culled trackers, or add 2D tracks");
    }
    Tracks tracks =
        weighted.isEmpty()
            ? b.tracks
            : b.tracks.weighted(
                b.names.stream().mapToDouble(n -> weighted.getOrDefault(n, 1.0)).toArray());
    Adjustment a =
        refined.isPresent()
            ? BundleAdjuster.adjustNear(b.bundle, tracks, options, progress)
            : BundleAdjuster.adjust(b.bundle, tracks, options, progress);
    int rounds = a.rounds();
    for (int i = 0; i < reweighted; i++) {
      double[] weights = TrackerWeights.of(a.bundle(), b.tracks, options);
      a = BundleAdjuster.adjustNear(a.bundle(), b.tracks.weighted(weights), options, progress);
      rounds += a.rounds();
    }
    RefinedSolve solve = b.solved(a.bundle(), how(options, b, reweighted > 0));
    double after = rms(solve.applied(shot), weightless).orElse(Double.NaN);
    return new Outcome(
        new RefinedSolve(
            solve.camera(),
            solve.points(),
            solve.rest(),
            solve.tripod(),
            solve.how() + String.format(Locale.ROOT, ": %.3f → %.3f px", before.rmsPx(), after)),
        before.rmsPx(),
        after,
        rounds,
        a.settled());
  }

  private static Optional<Double> rms(Shot shot, Set<String> weightless) {
    return Reprojection.of(shot, weightless).map(Reprojection::rmsPx);
  }

  private static String how(AdjustOptions o, ShotBundle b, boolean weighted) {
    StringBuilder s = new StringBuilder(o.tripod() ? "refined as nodal" : "refined");
    s.append(" with ").append(b.names.size()).append(" trackers");
    if (o.focal() != AdjustOptions.Focal.FIXED) {
      s.append(", focal length ").append(o.focal().word());
    }
    if (o.principalPoint()) {
      s.append(", principal point");
    }
    if (o.lensTerms() > 0) {
      s.append(", ").append(o.lensTerms()).append(" lens terms");
    }
    if (weighted) {
      s.append(", each weighted by its error");
    }
    return s.toString();
  }
}
