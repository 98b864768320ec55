package flarvo.decision;

import flarvo.motion.ObjectScale;
import flarvo.report.InputError;
import flarvo.scene.Observations;
import flarvo.scene.Optics;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Vec3;
import flarvo.trace.Mover;
import flarvo.trace.MoverSearch;
import flarvo.trace.TracedShot;
import flarvo.vet.RefinedSolve;
import flarvo.vet.resolve.FocalLength;
import flarvo.vet.resolve.TrackSolve;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What moves against the rest of the picture, in a solve from the plates. */
public sealed interface MoverDecision extends Decision {

  /**
   * Finds what moves against the rest; the scene is solved without it.
   *
   * @param focal in widths of the film back; empty where it is not known
   */
  @DecisionCode("find-movers")
  record FindMovers(OptionalDouble focal) implements MoverDecision {

    /**
     * @throws IllegalArgumentException when the focal length is not over 0
     */
    public FindMovers {
      if (focal.isPresent() && !(focal.getAsDouble() > 0 && focal.getAsDouble() < 1e6)) {
        throw new IllegalArgumentException("the focal length is over 0");
      }
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      Observations o = s.features();
      if (o.isEmpty()) {
        throw InputError.words("no features were followed", "Follow them first");
      }
      return Optional.of(
          new Outcome.Movers(MoverSearch.of(o, s.whole().picture(), focal, progress).movers()));
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      return Applied.whole(
          s.withTrace(s.trace().withMovers(((Outcome.Movers) outcome.orElseThrow()).movers())));
    }

    @Override
    public String title() {
      return "find what moves";
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome
          .map(o -> "find what moves: " + ((Outcome.Movers) o).movers().size())
          .orElse(title());
    }
  }

  /** Counts the features of what was said to move as the scene's again. */
  @DecisionCode("return-mover")
  record ReturnMover(String name) implements MoverDecision {
    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      requireMover(s, name);
      return Applied.whole(
          s.withTrace(
              s.trace()
                  .withMovers(
                      s.trace().movers().stream().filter(m -> !m.name().equals(name)).toList())));
    }

    @Override
    public String title() {
      return "count " + name + " as scene";
    }
  }

  private static Mover requireMover(ShotState s, String name) {
    return s.trace()
        .mover(name)
        .orElseThrow(
            () ->
                InputError.words("nothing that moves is called " + name, "Find what moves first"));
  }

  /**
   * Solves what moves as a second object of the shot, with the scene's lens. How large and how far
   * it is stays open.
   *
   * @param name of the mover
   */
  @DecisionCode("solve-mover")
  record SolveMover(String name, double targetPx) implements MoverDecision {

    private static final int FEWEST = 8;

    /**
     * @throws IllegalArgumentException when the target is not over 0
     */
    public SolveMover {
      if (!(targetPx > 0)) {
        throw new IllegalArgumentException("the target is over 0");
      }
    }

    @Override
    public boolean worksOut() {
      return true;
    }

    @Override
    public Optional<Outcome> work(ShotState s, Progress progress) {
      Mover m = requireMover(s, name);
      ShotCamera scene =
          s.shot()
              .camera()
              .orElseThrow(() -> InputError.words("the scene is not solved", "Solve it first"));
      Optics optics = scene.optics().at(scene.frames().first());
      for (int f = scene.frames().first(); f <= scene.frames().last(); f++) {
        if (scene.optics().at(f).focalLengthMm() != optics.focalLengthMm()) {
          throw InputError.words(
              "the scene's focal length changes, which is not solved for an object yet",
              "Solve the object elsewhere, and add it on Level");
        }
      }
      TrackSolve.Outcome o =
          TrackSolve.of(
              name,
              m.of(s.features()),
              s.whole().picture(),
              s.whole().rate(),
              new TrackSolve.Options(
                  optics.filmWidthMm(),
                  optics.filmHeightMm(),
                  FocalLength.given(optics.focalLengthMm()),
                  0,
                  targetPx,
                  FEWEST),
              progress);
      Outcome.Solve solve =
          new Outcome.Solve(
              o.cleaned().culled(),
              o.cleaned().solve(),
              OptionalDouble.of(o.cleaned().afterPx()),
              "Solved "
                  + name
                  + ". "
                  + o.cleaned().sentence()
                  + ". Its size and distance are not known: state them on Level.");
      on(s, Optional.of(solve)).state().shot(); // what cannot be is said before it is decided
      return Optional.of(solve);
    }

    @Override
    public Applied on(ShotState s, Optional<Outcome> outcome) {
      Mover m = requireMover(s, name);
      if (s.objects().stream().anyMatch(o -> o.name().equals(name))) {
        throw InputError.words("there is an object " + name + " already", "Remove it first");
      }
      Outcome.Solve o = (Outcome.Solve) outcome.orElseThrow();
      Set<String> kept = new TreeSet<>(o.solve().points().keySet());
      kept.removeAll(o.culled());
      Map<String, Vec3> points = new TreeMap<>(o.solve().points());
      points.keySet().retainAll(kept);
      RefinedSolve r =
          new RefinedSolve(
              o.solve().camera(), points, o.solve().rest(), o.solve().tripod(), o.solve().how());
      Shot object = TracedShot.object(s.whole(), m.of(s.features()), r);
      List<MovingObject> all = new ArrayList<>(s.objects());
      all.add(new MovingObject(name, object, new ObjectScale.Factor(1)));
      return Applied.whole(s.withObjects(all));
    }

    @Override
    public String title() {
      return "solve " + name;
    }

    @Override
    public String title(Optional<Outcome> outcome) {
      return outcome
          .map(
              o ->
                  String.format(
                      Locale.ROOT,
                      "solve %s: %.3f px",
                      name,
                      ((Outcome.Solve) o).rmsPx().orElse(Double.NaN)))
          .orElse(title());
    }
  }
}
