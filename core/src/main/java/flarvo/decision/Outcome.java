package flarvo.decision;

import flarvo.lens.LensTrack;
import flarvo.lens.fit.StraightLine;
import flarvo.receive.ReceivedFile;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.scene.Observations;
import flarvo.scene.PictureSize;
import flarvo.scene.PlateSequence;
import flarvo.scene.Similarity;
import flarvo.stage.GivenDepth;
import flarvo.stage.StandIn;
import flarvo.trace.Mover;
import flarvo.vet.ExtraPoint;
import flarvo.vet.RefinedSolve;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;

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

  /**
   * Features that were followed.
   *
   * @param observations in pixels of the plates that they were followed in
   * @param notes on the plates, a sentence each
   */
  @DecisionCode("features")
  record Features(Observations observations, List<String> notes) implements Outcome {
    public Features {
      notes = List.copyOf(notes);
    }
  }

  /** What moves against the rest. */
  @DecisionCode("movers")
  record Movers(List<Mover> movers) implements Outcome {
    public Movers {
      movers = List.copyOf(movers);
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

  /** An edge that was traced, in pixels of the original plate. */
  @DecisionCode("line")
  record Line(StraightLine line) implements Outcome {}

  /** Lines that were found, in pixels of the original plate. */
  @DecisionCode("lines")
  record Lines(List<StraightLine> lines) implements Outcome {
    public Lines {
      lines = List.copyOf(lines);
    }
  }

  /**
   * A lens that fits traced lines.
   *
   * @param residualPx RMS of the points' distances across their lines, in original pixels
   * @param lines how many there were
   */
  @DecisionCode("lens")
  record FittedLens(LensTrack lens, double residualPx, int lines) implements Outcome {}

  /**
   * A lens that fits a received distortion map.
   *
   * @param maxPx largest distance between the two over the whole map, original pixels
   * @param rmsPx the same, root mean square
   * @param cover share of the map's pixels that say anything
   */
  @DecisionCode("map-lens")
  record MapLens(LensTrack lens, double maxPx, double rmsPx, double cover) implements Outcome {}

  /**
   * Undistorted plates on disk.
   *
   * @param made frames that were written
   * @param fresh frames that were there already, made in the same way
   * @param failed why a frame could not be made, by frame
   * @param plates empty until they are looked up
   */
  @DecisionCode("undistorted")
  record Undistorted(
      PictureSize size,
      int made,
      int fresh,
      SortedMap<Integer, String> failed,
      Optional<PlateSequence> plates)
      implements Outcome {
    public Undistorted {
      failed = Collections.unmodifiableSortedMap(new TreeMap<>(failed));
    }

    Undistorted with(PlateSequence p) {
      return new Undistorted(size, made, fresh, failed, Optional.of(p));
    }
  }

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

  /**
   * Files as a decision reads them: the shot's in a sender's dialect, or those of an object's
   * solve.
   *
   * @param set empty until they are read
   */
  @DecisionCode("reread")
  record Reread(Optional<ReceivedSet> set) implements Outcome {}
}
