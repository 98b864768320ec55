package flarvo.decision;

import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Similarity;
import flarvo.stage.GivenDepth;
import flarvo.stage.StandIn;
import flarvo.vet.ExtraPoint;
import flarvo.vet.RefinedSolve;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/** What a decision worked out on one input. */
public sealed interface Outcome {

  /** The word for its kind in files. */
  default String code() {
    return getClass().getAnnotation(DecisionCode.class).value();
  }

  /** Trackers that a criterion chose. */
  @DecisionCode("trackers")
  record Trackers(Set<String> names) implements Outcome {
    public Trackers {
      names = Set.copyOf(names);
    }
  }

  /**
   * A solve in the place of the received one.
   *
   * @param culled trackers culled on the way
   * @param rmsPx error with it; empty where it was not measured
   * @param words what came of it, for the desk
   */
  @DecisionCode("solve")
  record Solve(Set<String> culled, RefinedSolve solve, OptionalDouble rmsPx, String words)
      implements Outcome {
    public Solve {
      culled = Set.copyOf(culled);
    }
  }

  /** A point that was tracked along the plate. */
  @DecisionCode("point")
  record Point(ExtraPoint point) implements Outcome {}

  /** Rulings that were proposed, and accepted. */
  @DecisionCode("rulings")
  record Ruled(Rulings rulings) implements Outcome {}

  /** A level that was found. */
  @DecisionCode("level")
  record Level(Similarity level) implements Outcome {}

  /** Geometry, in solve space. */
  @DecisionCode("geometry")
  record Geometry(StandIn standIn) implements Outcome {}

  /** Distances of nodal trackers, in solve space. */
  @DecisionCode("depths")
  record Depths(List<GivenDepth> depths) implements Outcome {
    public Depths {
      depths = List.copyOf(depths);
    }
  }

  /**
   * Another solve of the shot.
   *
   * @param onto from its space to that of the solve before it
   * @param words what still differs, for the desk
   * @param set what its files hold; empty until they are read
   */
  @DecisionCode("alignment")
  record Alignment(Similarity onto, String words, Optional<ReceivedSet> set) implements Outcome {}

  /**
   * A table as its mapping reads it.
   *
   * @param file empty until it is read
   */
  @DecisionCode("table")
  record Table(Optional<ReceivedFile> file) implements Outcome {}
}
