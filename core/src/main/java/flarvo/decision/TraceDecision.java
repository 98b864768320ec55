package flarvo.decision;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.PlateRole;
import flarvo.scene.PlateSequence;
import flarvo.trace.DrawnMask;
import flarvo.trace.HandFeature;
import flarvo.trace.KeyedMatte;
import flarvo.trace.MaskShape;
import flarvo.trace.PlaneFeature;
import flarvo.trace.TraceOptions;
import flarvo.trace.TraceWork;
import flarvo.vet.resolve.FocalLength;
import flarvo.work.Progress;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.OptionalInt;

/** A solve from nothing but the plates. */
public sealed interface TraceDecision extends Decision {

  /**
   * Draws a mask, or draws it anew.
   *
   * @param plates over which it is drawn
   * @param mask in pixels of the shot's picture, as these plates show it
   */
  @DecisionCode("mask-plates")
  record DrawMask(PlateRole plates, MaskShape mask) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withTrace(s.trace().with(new DrawnMask(Optional.of(plates), mask))));
    }

    @Override
    public String title() {
      return "draw " + mask.name();
    }
  }

  /** Draws a mask as older projects have it: over whatever plates are followed. */
  @DecisionCode("draw-mask")
  record DrawMaskOverAny(MaskShape mask) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withTrace(s.trace().with(new DrawnMask(Optional.empty(), mask))));
    }

    @Override
    public String title() {
      return "draw " + mask.name();
    }
  }

  /** Removes a mask. */
  @DecisionCode("remove-mask")
  record RemoveMask(String name) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      if (s.trace().mask(name).isEmpty()) {
        throw InputError.words("there is no mask " + name, "");
      }
      return Applied.whole(s.withTrace(s.trace().without(name)));
    }

    @Override
    public String title() {
      return "remove " + name;
    }
  }

  /** Chooses on which side of the masks features are followed. */
  @DecisionCode("mask-side")
  record MaskSide(boolean inside) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withTrace(s.trace().withInside(inside)));
    }

    @Override
    public String title() {
      return inside ? "follow inside the masks" : "follow outside the masks";
    }
  }

  /** Chooses what of the keyed plates is masked. */
  @DecisionCode("use-matte")
  record UseMatte(KeyedMatte matte) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      boolean keyed = s.shot().plates().stream().anyMatch(p -> p.role() == PlateRole.KEYED);
      if (matte.isUsed() && !keyed) {
        throw InputError.words("the shot has no keyed plates", "Add some first");
      }
      return Applied.whole(s.withTrace(s.trace().withMatte(matte)));
    }

    @Override
    public String title() {
      return switch (matte) {
        case NONE -> "use no keyed plates as a mask";
        case ALPHA -> "mask what the keyed plates cover";
        case WHITE -> "mask where the keyed plates are white";
      };
    }
  }

  /**
   * Finds features in the plates and follows them.
   *
   * @param errorPx as {@link TraceOptions} has it, as the others
   */
  @DecisionCode("follow-features")
  record Follow(PlateRole plates, int features, int radius, double errorPx)
      implements TraceDecision {

    /**
     * @throws IllegalArgumentException when a number is out of range
     */
    public Follow {
      new TraceOptions(features, radius, errorPx);
    }

    /** The same as settings. */
    TraceOptions options() {
      return new TraceOptions(features, radius, errorPx);
    }

    /**
     * The frame with which it goes on where it was cancelled before in this process; empty where it
     * begins.
     */
    public OptionalInt stoppedAt(ShotState s) {
      return PlateFollow.stoppedAt(this, s);
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return PlateFollow.features(this, s, progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Features f = (Outcome.Features) outcome.orElseThrow();
      return Applied.whole(
          s.withTrace(
              s.trace()
                  .withFeatures(
                      Optional.of(new TraceWork.Features(f.observations(), plates, f.notes())))));
    }

    @Override
    public String title() {
      return "follow features";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome
          .map(o -> "follow " + ((Outcome.Features) o).observations().names().size() + " features")
          .orElse(title());
    }
  }

  /**
   * Marks a feature by hand, or corrects it: it is followed both ways from its marks.
   *
   * @param plates in which it is marked
   * @param radius of its pattern, for a feature that is new, in pixels of the plates
   * @param x pixels of the shot's picture from its left edge
   */
  @DecisionCode("mark-feature")
  record MarkFeature(String feature, PlateRole plates, int radius, int frame, double x, double y)
      implements TraceDecision {

    /**
     * @throws IllegalArgumentException when a number is out of range
     */
    public MarkFeature {
      new TraceOptions(1, radius, TraceOptions.LARGEST_ERROR_PX);
      new HandFeature.Mark(x, y);
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    private HandFeature marked(ShotState s) {
      PlateSequence p = PlateFollow.sequence(s, plates);
      HandFeature h =
          s.trace()
              .hand(feature)
              .orElseGet(() -> HandFeature.of(feature, plates, radius, p.frames()));
      if (h.plates() != plates) {
        throw InputError.words(
            feature + " is marked in the " + h.plates().word() + " plates",
            "Choose them, or mark another feature");
      }
      if (!p.frames().contains(frame)) {
        throw InputError.words(
            "frame " + frame + " is not among the plates' " + p.frames(), "Go to one of them");
      }
      return h.with(frame, new HandFeature.Mark(x, y));
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return PlateFollow.hand(marked(s), s, progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Features f = (Outcome.Features) outcome.orElseThrow();
      return Applied.whole(s.withTrace(s.trace().with(marked(s).along(f.observations()))));
    }

    @Override
    public String title() {
      return "mark " + feature + " at frame " + frame;
    }
  }

  /**
   * Keeps a feature that was marked by hand on some frames only: before and after them it is not to
   * be seen.
   */
  @DecisionCode("limit-feature")
  record LimitFeature(String feature, int first, int last) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      HandFeature h = PlateFollow.feature(s, feature);
      try {
        return Applied.whole(s.withTrace(s.trace().with(h.only(new FrameRange(first, last)))));
      } catch (IllegalArgumentException e) {
        throw new InputError("", "", e.getMessage(), "Mark it there first", e);
      }
    }

    @Override
    public String title() {
      return "keep " + feature + " on frames " + first + "–" + last;
    }
  }

  /**
   * Looks for a feature that was marked by hand only near where its last step leads, and follows it
   * anew.
   *
   * @param px as {@link HandFeature#searchPx} has it
   */
  @DecisionCode("search-area")
  record SearchArea(String feature, OptionalDouble px) implements TraceDecision {
    private HandFeature searched(ShotState s) {
      try {
        return PlateFollow.feature(s, feature).searchedWithin(px);
      } catch (IllegalArgumentException e) {
        throw new InputError("", "", e.getMessage(), "", e);
      }
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return PlateFollow.hand(searched(s), s, progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Features f = (Outcome.Features) outcome.orElseThrow();
      return Applied.whole(s.withTrace(s.trace().with(searched(s).along(f.observations()))));
    }

    @Override
    public String title() {
      return px.isEmpty()
          ? "search for " + feature + " everywhere"
          : String.format(Locale.ROOT, "search for %s within %.0f px", feature, px.getAsDouble());
    }
  }

  /** Removes a feature that was marked by hand. */
  @DecisionCode("remove-feature")
  record RemoveFeature(String feature) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      if (s.trace().hand(feature).isEmpty()) {
        throw InputError.words("there is no feature " + feature, "");
      }
      return Applied.whole(s.withTrace(s.trace().withoutHand(feature)));
    }

    @Override
    public String title() {
      return "remove " + feature;
    }
  }

  /**
   * Follows something flat by its four corners, or follows it anew.
   *
   * @param plates over which it is drawn
   * @param plane in pixels of the shot's picture, its corners on the frames on which they were
   *     drawn
   */
  @DecisionCode("follow-plane")
  record FollowPlane(PlateRole plates, MaskShape plane) implements TraceDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      return PlateFollow.plane(plates, plane, s, progress);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Features f = (Outcome.Features) outcome.orElseThrow();
      return Applied.whole(
          s.withTrace(s.trace().with(new PlaneFeature(plates, plane, f.observations()))));
    }

    @Override
    public String title() {
      return "follow " + plane.name();
    }
  }

  /** Removes something flat that was followed. */
  @DecisionCode("remove-plane")
  record RemovePlane(String name) implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      if (s.trace().plane(name).isEmpty()) {
        throw InputError.words("there is no plane " + name, "");
      }
      return Applied.whole(s.withTrace(s.trace().withoutPlane(name)));
    }

    @Override
    public String title() {
      return "remove " + name;
    }
  }

  /** Forgets what was followed, and the solve made of it. */
  @DecisionCode("forget-features")
  record Forget() implements TraceDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(
          s.withTrace(s.trace().withFeatures(Optional.empty()).withSolve(Optional.empty())));
    }

    @Override
    public String title() {
      return "forget features";
    }
  }

  /** Solves camera and points from the shot's 2D tracks, in the place of those that came. */
  sealed interface SolvingPlates extends TraceDecision permits SolvePlates, SolveZoom {

    /** Width of the film back. */
    double filmWidthMm();

    /** Height of the film back. */
    double filmHeightMm();

    /** What is known of the focal length. */
    FocalLength focal();

    /** Radial terms that are found too. */
    int lensTerms();

    /** The RMS error that is wished for. */
    double targetPx();

    @Override
    default boolean worksOut() {
      return true;
    }

    @Override
    default Optional<Outcome> work(ShotState s, Progress progress) {
      return Optional.of(PlateSolve.of(this, s, progress));
    }

    @Override
    default Applied on(ShotState s, Optional<Outcome> outcome) {
      return PlateSolve.applied(s, (Outcome.Solve) outcome.orElseThrow());
    }

    @Override
    default String title(Optional<Outcome> outcome) {
      return outcome
          .map(
              o ->
                  String.format(
                      Locale.ROOT,
                      "%s: %.3f px",
                      title(),
                      ((Outcome.Solve) o).rmsPx().orElse(Double.NaN)))
          .orElse(title());
    }
  }

  /**
   * Solves with one focal length for all frames.
   *
   * @param focalMm empty where it is to be found
   * @param lensTerms radial terms that are found too, 0 to 3; the third only where it pays
   */
  @DecisionCode("solve-plates")
  record SolvePlates(
      double filmWidthMm,
      double filmHeightMm,
      OptionalDouble focalMm,
      int lensTerms,
      double targetPx)
      implements SolvingPlates {

    /**
     * @throws IllegalArgumentException when a number is out of range
     */
    public SolvePlates {
      PlateSolve.require(filmWidthMm, filmHeightMm, targetPx);
      if (focalMm.isPresent() && !(focalMm.getAsDouble() > 0)) {
        throw new IllegalArgumentException("the focal length is over 0");
      }
      if (lensTerms < 0 || lensTerms > 3) {
        throw new IllegalArgumentException("lens terms are 0 to 3");
      }
    }

    @Override
    public FocalLength focal() {
      return FocalLength.of(focalMm);
    }

    @Override
    public String title() {
      return "solve from the plates";
    }
  }

  /** Solves with a focal length for each frame. The plates, or their tracks, are undistorted. */
  @DecisionCode("solve-zoom")
  record SolveZoom(double filmWidthMm, double filmHeightMm, double targetPx)
      implements SolvingPlates {

    /**
     * @throws IllegalArgumentException when a number is out of range
     */
    public SolveZoom {
      PlateSolve.require(filmWidthMm, filmHeightMm, targetPx);
    }

    @Override
    public FocalLength focal() {
      return FocalLength.ZOOM;
    }

    @Override
    public int lensTerms() {
      return 0;
    }

    @Override
    public String title() {
      return "solve a zoom from the plates";
    }
  }
}
