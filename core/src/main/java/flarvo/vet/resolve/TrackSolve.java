package flarvo.vet.resolve;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.Rate;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.vet.CullAndRefine;
import flarvo.vet.InterpolatedFrames;
import flarvo.vet.Refinement;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.SolveKind;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.work.Progress;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/** From 2D tracks to a solve that is fit to be looked at: solved, strays left out, refined. */
public final class TrackSolve {

  /** What wanders by less over a shot stands still. */
  private static final double STILL_PX = 1.5;

  private static final double STILL_SHARE = 0.9;

  private static final int USUAL_TERMS = 2;

  /**
   * Of the error without it. On plates that were rendered through no lens it stays over 0.999; on
   * those of a strong barrel, whose inverse two terms are not, it is 0.990 to 0.993.
   */
  private static final double THIRD_TERM_PAYS = 0.997;

  private TrackSolve() {}

  /**
   * @param shot camera and all trackers, refined; those of {@code cleaned.culled()} too
   * @param interpolated frames that see too few trackers that are kept
   */
  public record Outcome(
      Shot shot,
      SolveKind kind,
      CullAndRefine.Outcome cleaned,
      String how,
      List<FrameRange> interpolated) {
    public Outcome {
      interpolated = List.copyOf(interpolated);
    }

    /** The shot with the trackers that are kept. */
    public Shot kept() {
      return shot.withTrackers(
          shot.trackers().stream().map(t -> t.without(cleaned.culled())).toList());
    }

    /** The focal length, or from which to which, in millimetres, for eyes. */
    public String focalWords() {
      double[] mm = shot.cameras().get(0).optics().focalLengthRangeMm();
      return mm[1] - mm[0] < 0.0005
          ? String.format(Locale.ROOT, "%.3f mm", mm[0])
          : String.format(Locale.ROOT, "%.3f to %.3f mm", mm[0], mm[1]);
    }
  }

  /**
   * What is known of the camera, and what is wished for.
   *
   * @param focal what is known of the focal length
   * @param lensTerms radial terms that are found too, for plates that were not undistorted, 0 to 3;
   *     the third only where it pays
   * @param targetPx the error that is wished for
   * @param fewest live trackers that a frame should keep
   */
  public record Options(
      double filmWidthMm,
      double filmHeightMm,
      FocalLength focal,
      int lensTerms,
      double targetPx,
      int fewest) {

    /**
     * @throws IllegalArgumentException when lens terms are found beside a focal length a frame: a
     *     lens that zooms bends otherwise in each
     */
    public Options {
      if (focal.zooms() && lensTerms > 0) {
        throw new IllegalArgumentException("a zoom is solved on undistorted tracks");
      }
    }
  }

  /**
   * @param o canonical pixels; of the undistorted plate, unless lens terms are found
   * @throws flarvo.report.InputError when the tracks do not hold a camera, with the reason
   */
  public static Outcome of(
      String name,
      Observations o,
      PictureSize picture,
      Rate rate,
      Options options,
      Progress progress) {
    Resolve.Solved s =
        Resolve.of(
            o,
            picture,
            options.filmWidthMm(),
            options.filmHeightMm(),
            options.focal(),
            options.lensTerms(),
            progress);
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
    AdjustOptions adjust =
        AdjustOptions.USUAL
            .withTripod(s.kind().tripod())
            .withLensTerms(Math.min(USUAL_TERMS, options.lensTerms()))
            .withFocal(options.focal().free());
    CullAndRefine.Outcome cleaned =
        CullAndRefine.of(shot, Set.of(), options.targetPx(), options.fewest(), adjust, progress);
    if (options.lensTerms() > USUAL_TERMS) {
      cleaned = withThirdTerm(shot, cleaned, options, adjust, progress);
    }
    requireMotion(o, cleaned.culled());
    return new Outcome(
        cleaned.solve().applied(shot),
        s.kind(),
        cleaned,
        s.how(),
        InterpolatedFrames.of(o, cleaned.culled(), shot.frames(), s.kind().tripod()));
  }

  /**
   * Two terms bend nearly every lens, and a third trades with the focal length where nothing tells
   * them apart. It is kept where it takes so much off the error that two cannot be enough.
   */
  private static CullAndRefine.Outcome withThirdTerm(
      Shot shot,
      CullAndRefine.Outcome two,
      Options options,
      AdjustOptions adjust,
      Progress progress) {
    AdjustOptions three = adjust.withLensTerms(USUAL_TERMS + 1);
    ResidualDistortion lens = two.solve().rest();
    Shot near = two.solve().applied(shot);
    Shot kept =
        near.withTrackers(near.trackers().stream().map(t -> t.without(two.culled())).toList())
            .withObservations(shot.observations()); // as they came
    double px2 = Refinement.from(lens, kept, Set.of(), adjust, progress).afterPx();
    double px3 = Refinement.from(lens, kept, Set.of(), three, progress).afterPx();
    return px3 < THIRD_TERM_PAYS * px2
        ? CullAndRefine.of(shot, Set.of(), options.targetPx(), options.fewest(), three, progress)
        : two;
  }

  /** Strays alone may have moved, before a camera that stood still. */
  private static void requireMotion(Observations o, Set<String> culled) {
    int kept = 0;
    int still = 0;
    for (String n : o.names()) {
      int first = o.firstRow(n);
      if (culled.contains(n) || o.endRow(n) - first < 2) {
        continue;
      }
      double far = 0;
      for (int row = first; row < o.endRow(n); row++) {
        far = Math.max(far, Math.hypot(o.x(row) - o.x(first), o.y(row) - o.y(first)));
      }
      kept++;
      still += far < STILL_PX ? 1 : 0;
    }
    if (still > STILL_SHARE * kept) {
      throw InputError.words(
          "the camera stands still: of "
              + kept
              + " features that agree, "
              + still
              + " do not move in the picture",
          "There is nothing to solve; to solve what moves, mask everything else");
    }
  }
}
