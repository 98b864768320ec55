package flarvo.decision;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Optics;
import flarvo.scene.ShotCamera;
import flarvo.vet.CullAndRefine;
import flarvo.vet.Culling;
import flarvo.vet.Measures;
import flarvo.vet.PathRepair;
import flarvo.vet.RefinedSolve;
import flarvo.vet.Refinement;
import flarvo.vet.ResidualDistortion;
import flarvo.vet.SolveInPlace;
import flarvo.vet.TrackerGroup;
import flarvo.vet.Vetting;
import flarvo.vet.adjust.AdjustOptions;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.Resolve;
import flarvo.work.Progress;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;

/** Whether the solve is good enough, and what is done about it. */
public sealed interface VetDecision extends Decision {

  private static String trackers(Set<String> names) {
    return names.size() == 1 ? names.iterator().next() : names.size() + " trackers";
  }

  private static List<String> sorted(Set<String> names) {
    return List.copyOf(new TreeSet<>(names));
  }

  /** Those of some trackers that the shot has, culled or not. */
  private static Set<String> found(ShotState s, Set<String> names) {
    Set<String> out = new HashSet<>(names);
    s.missing(names).forEach(out::remove);
    return out;
  }

  /** Culls the trackers that a criterion chooses. */
  @DecisionCode("cull")
  record Cull(Culling criterion) implements VetDecision {
    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      if (criterion instanceof Culling.ByHand h) {
        return Optional.of(new Outcome.Trackers(found(s, h.names())));
      }
      Measures m =
          Measures.of(s.shot(), s.vetting().uncounted(), progress)
              .orElseThrow(
                  () ->
                      InputError.words(
                          "no 2D tracks to measure the solve against", "Add the 2D tracks"));
      return Optional.of(new Outcome.Trackers(criterion.chosen(s.shot(), m)));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Set<String> names = ((Outcome.Trackers) outcome.orElseThrow()).names();
      List<String> gone =
          criterion instanceof Culling.ByHand h ? s.missing(sorted(h.names())) : List.of();
      return Applied.without(s.withVetting(s.vetting().culling(names)), gone);
    }

    @Override
    public String title() {
      return "cull " + criterion.title();
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome.isEmpty()
          ? title()
          : "cull "
              + trackers(((Outcome.Trackers) outcome.get()).names())
              + ", "
              + (criterion instanceof Culling.ByHand ? "by hand" : criterion.title());
    }
  }

  /** Restores culled trackers. */
  @DecisionCode("restore")
  record Restore(Set<String> trackers) implements VetDecision {
    public Restore {
      trackers = Set.copyOf(trackers);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.without(
          s.withVetting(s.vetting().restoring(trackers)), s.missing(sorted(trackers)));
    }

    @Override
    public String title() {
      return "restore " + VetDecision.trackers(trackers);
    }
  }

  /**
   * Gives trackers a weight in refinements, or none.
   *
   * @param counts false for a tracker that stays but that the camera is not fitted to
   */
  @DecisionCode("weigh")
  record Weigh(Set<String> trackers, boolean counts) implements VetDecision {
    public Weigh {
      trackers = Set.copyOf(trackers);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.without(
          s.withVetting(s.vetting().weighing(found(s, trackers), counts)),
          s.missing(sorted(trackers)));
    }

    @Override
    public String title() {
      return (counts ? "restore weight of " : "ignore weight of ") + VetDecision.trackers(trackers);
    }
  }

  /** Puts trackers in a group of their own look; they leave the groups they were in. */
  @DecisionCode("put-in-group")
  record PutInGroup(String group, TrackerGroup.Dot dot, int tint, Set<String> trackers)
      implements VetDecision {
    public PutInGroup {
      trackers = Set.copyOf(trackers);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Set<String> all = new HashSet<>(found(s, trackers));
      s.vetting().group(group).ifPresent(g -> all.addAll(g.members()));
      return Applied.without(
          s.withVetting(s.vetting().withGroup(new TrackerGroup(group, dot, tint, all))),
          s.missing(sorted(trackers)));
    }

    @Override
    public String title() {
      return "put " + VetDecision.trackers(trackers) + " in " + group;
    }
  }

  /** How the trackers of a group are drawn. */
  @DecisionCode("style-group")
  record StyleGroup(String group, TrackerGroup.Dot dot, int tint) implements VetDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Set<String> members = s.vetting().group(group).map(TrackerGroup::members).orElse(Set.of());
      return Applied.whole(
          s.withVetting(s.vetting().withGroup(new TrackerGroup(group, dot, tint, members))));
    }

    @Override
    public String title() {
      return "change dots of " + group;
    }
  }

  /** Its members go back to the sets they came in. */
  @DecisionCode("dissolve-group")
  record DissolveGroup(String group) implements VetDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      if (s.vetting().group(group).isEmpty()) {
        throw InputError.words("group " + group + " not found", "Choose another group");
      }
      return Applied.whole(s.withVetting(s.vetting().withoutGroup(group)));
    }

    @Override
    public String title() {
      return "dissolve " + group;
    }
  }

  /** Decisions that put a solve in the place of the one that stands. */
  sealed interface Resolving extends VetDecision {
    @Override
    default boolean worksOut() {
      return true;
    }

    @Override
    default Applied on(ShotState s, Optional<Outcome> outcome) {
      Outcome.Solve o = (Outcome.Solve) outcome.orElseThrow();
      return Applied.whole(s.withVetting(s.vetting().culling(o.culled()).withSolve(o.solve())));
    }

    @Override
    default String title(Optional<Outcome> outcome) {
      OptionalDouble px =
          outcome.map(o -> ((Outcome.Solve) o).rmsPx()).orElse(OptionalDouble.empty());
      return px.isEmpty()
          ? title()
          : title() + String.format(Locale.ROOT, " to %.3f px", px.getAsDouble());
    }
  }

  /** Positions of trackers that were culled before stay known, and lens terms add up. */
  private static RefinedSolve joined(Vetting before, RefinedSolve now) {
    if (before.solve().isEmpty()) {
      return now;
    }
    RefinedSolve old = before.solve().get();
    Map<String, flarvo.scene.Vec3> points = new java.util.HashMap<>(old.points());
    points.putAll(now.points());
    ResidualDistortion rest = old.rest().plus(now.rest());
    return new RefinedSolve(now.camera(), points, rest, now.tripod(), now.how());
  }

  private static ShotCamera camera(ShotState s) {
    return s.shot()
        .camera()
        .orElseThrow(() -> InputError.words("the shot has no camera", "Add the camera's file"));
  }

  /** Adjusts camera and points to the 2D tracks. */
  @DecisionCode("refine")
  record Refine(AdjustOptions options) implements Resolving {
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      camera(s);
      Refinement.Outcome o = Refinement.of(s.shot(), s.vetting().uncounted(), options, progress);
      return Optional.of(
          new Outcome.Solve(
              Set.of(),
              joined(s.vetting(), o.solve()),
              OptionalDouble.of(o.afterPx()),
              o.solve().how() + (o.settled() ? "" : "; did not converge")));
    }

    @Override
    public String title() {
      return "refine";
    }
  }

  /**
   * Culls outliers and refines in turn.
   *
   * @param targetPx RMS that is good enough
   * @param minLive live trackers that each frame keeps
   */
  @DecisionCode("cull-and-refine")
  record CullAndRefineTo(double targetPx, int minLive, AdjustOptions options) implements Resolving {
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      camera(s);
      CullAndRefine.Outcome o =
          CullAndRefine.of(s.shot(), s.vetting().uncounted(), targetPx, minLive, options, progress);
      return Optional.of(
          new Outcome.Solve(
              o.culled(),
              joined(s.vetting(), o.solve()),
              OptionalDouble.of(o.afterPx()),
              o.rounds().stream().map(Object::toString).collect(Collectors.joining("\n"))
                  + "\n"
                  + o.sentence()));
    }

    @Override
    public String title() {
      return "cull and refine";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome.isEmpty()
          ? title()
          : String.format(
              Locale.ROOT,
              "cull %d and refine to %.3f px",
              ((Outcome.Solve) outcome.get()).culled().size(),
              ((Outcome.Solve) outcome.get()).rmsPx().orElse(Double.NaN));
    }
  }

  /** Back to the received solve, without refinement and repair. */
  @DecisionCode("revert-solve")
  record RevertSolve() implements VetDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(s.withVetting(s.vetting().withSolve(null)));
    }

    @Override
    public String title() {
      return "revert to received solve";
    }
  }

  /**
   * Solves camera and points from the 2D tracks alone.
   *
   * @param focalKnown whether the received focal length is kept
   */
  @DecisionCode("solve-from-tracks")
  record SolveFromTracks(boolean focalKnown) implements Resolving {
    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      camera(s);
      Optics optics = s.whole().camera().orElseThrow().optics().at(s.whole().frames().first());
      Resolve.Solved r =
          Resolve.of(
              s.whole().observations(),
              s.whole().picture(),
              optics.filmWidthMm(),
              optics.filmHeightMm(),
              focalKnown ? FocalLength.given(optics.focalLengthMm()) : FocalLength.UNKNOWN,
              0,
              progress);
      RefinedSolve solve = SolveInPlace.of(s.whole(), r.camera(), r.trackers(), r.kind(), r.how());
      return Optional.of(new Outcome.Solve(Set.of(), solve, OptionalDouble.empty(), solve.how()));
    }

    @Override
    public String title() {
      return "re-solve from 2D tracks";
    }
  }

  /** Decisions that repair the camera's path and leave the points alone. */
  sealed interface RepairingPath extends Resolving {

    /** The repair on this shot. */
    PathRepair.Repair repair(ShotState s, Progress progress);

    @Override
    default Optional<Outcome> work(ShotState s, Progress progress) {
      camera(s);
      return Optional.of(outcome(s, repair(s, progress)));
    }

    /** What a repair comes to, kept. */
    static Outcome.Solve outcome(ShotState s, PathRepair.Repair r) {
      RefinedSolve old =
          s.vetting()
              .solve()
              .orElse(
                  new RefinedSolve(r.camera(), Map.of(), ResidualDistortion.NONE, false, r.how()));
      return new Outcome.Solve(
          Set.of(),
          old.withCamera(r.camera(), r.how()),
          OptionalDouble.empty(),
          String.format(
              Locale.ROOT,
              "%s: %d frames touched; largest shift in the picture %.2f px; error there %.3f →"
                  + " %.3f px",
              r.how(),
              r.touched().size(),
              r.movedMaxPx(),
              r.beforePx(),
              r.afterPx()));
    }
  }

  /**
   * Smooths the path over a range of plate frames.
   *
   * @param strength times that neighbours are averaged
   * @param maxShiftPx how far the picture may move
   */
  @DecisionCode("smooth-path")
  record SmoothPath(FrameRange frames, int strength, double maxShiftPx) implements RepairingPath {
    @Override
    public PathRepair.Repair repair(ShotState s, Progress progress) {
      return PathRepair.smooth(s.shot(), frames, strength, maxShiftPx, progress);
    }

    @Override
    public String title() {
      return String.format(
          Locale.ROOT, "smooth path over %s, max. shift %.2f px", frames, maxShiftPx);
    }
  }

  /** Replaces poses by a bridge from the frames that stay. */
  @DecisionCode("bridge-path")
  record BridgePath(Set<Integer> frames) implements RepairingPath {
    public BridgePath {
      frames = Set.copyOf(frames);
    }

    @Override
    public PathRepair.Repair repair(ShotState s, Progress progress) {
      return PathRepair.bridge(s.shot(), frames, progress);
    }

    @Override
    public String title() {
      return "bridge " + frames.size() + (frames.size() == 1 ? " frame" : " frames");
    }
  }
}
