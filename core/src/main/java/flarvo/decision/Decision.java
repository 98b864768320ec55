package flarvo.decision;

import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * What the user wants done to a shot; never what came of it. Every kind bears a {@link
 * DecisionCode}, and its components are its members in files.
 *
 * <p>{@link #work} does what touches points, frames, pixels or files, and may take long; {@link
 * #on} then changes names and numbers only.
 */
public sealed interface Decision
    permits AsItStood,
        BuildDecision,
        DispatchDecision,
        LevelDecision,
        MotionDecision,
        PlateDecision,
        PointDecision,
        ReceiveDecision,
        MoverDecision,
        ReturnDecision,
        TraceDecision,
        VetDecision {

  /** What undo and redo call it: an imperative in lower case. */
  String title();

  /** The same with the figures of what it came to. */
  default String title(Optional<Outcome> outcome) {
    return title();
  }

  /**
   * The state after it.
   *
   * @param outcome what {@link #work} came to on this state
   * @throws InputError when nothing of it can be applied to this state, with the reason
   */
  Applied on(ShotState s, Optional<Outcome> outcome);

  /** Whether it needs an outcome to be applied. */
  default boolean worksOut() {
    return false;
  }

  /**
   * Works out what {@link #on} needs; empty where nothing is worked out.
   *
   * @throws InputError when it cannot be done on this state, with the reason
   */
  default Optional<Outcome> work(ShotState s, Progress progress) {
    return Optional.empty();
  }

  /**
   * An outcome as it came from a project file, with the files that it rests on read again. Nothing
   * is computed.
   */
  default Outcome reread(Outcome stored, ShotState s, Progress progress) {
    return stored;
  }

  /** Files that it names beside those that came in. */
  default List<Path> files() {
    return List.of();
  }

  /** The same with its files elsewhere. */
  default Decision withPaths(UnaryOperator<Path> moved) {
    return this;
  }

  /** Whether what is worked out after it may depend on it. */
  default boolean changesTheShot() {
    return true;
  }

  /** The word for its kind in files. */
  default String code() {
    return getClass().getAnnotation(DecisionCode.class).value();
  }
}
