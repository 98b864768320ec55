package flarvo.project;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionLog;
import flarvo.decision.DispatchDecision;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.FirstBoard;
import flarvo.project.ShotArrivals.Arrival;
import flarvo.report.InputError;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * The deliveries that a new shot begins with.
 *
 * @param name of a saved board, {@link #USUAL}, or empty for none
 * @param saved the deliveries of a saved board
 */
public record StartBoard(String name, Optional<List<Delivery>> saved) {

  /** The recipients that most shots have, with what a shot has for them. */
  public static final String USUAL = "usual";

  /**
   * A board by its name.
   *
   * @param name {@link #USUAL}, that of a saved one, or empty for none
   * @throws InputError when there is no board of that name
   */
  public static StartBoard of(String name, BoardShelf shelf) {
    if (name.isEmpty() || name.equals(USUAL)) {
      return new StartBoard(name, Optional.empty());
    }
    List<BoardShelf.Board> all = shelf.list();
    return all.stream()
        .filter(b -> b.name().equals(name))
        .findFirst()
        .map(b -> new StartBoard(name, Optional.of(b.deliveries())))
        .orElseThrow(
            () ->
                InputError.words(
                    "there is no saved board '" + name + "'",
                    "There are: "
                        + USUAL
                        + all.stream().map(b -> ", " + b.name()).collect(Collectors.joining())));
  }

  /** A new shot's entry with the deliveries; without any where the shot cannot be opened yet. */
  ProjectShot on(ProjectShot entry, Arrival a, Dialects dialects) {
    List<Delivery> deliveries =
        name.isEmpty() ? List.of() : saved.orElseGet(() -> usual(a, dialects));
    return deliveries.isEmpty()
        ? entry
        : entry.withLog(
            DecisionLog.of(List.of(new DispatchDecision.AddBoard("board " + name, deliveries))));
  }

  private static List<Delivery> usual(Arrival a, Dialects dialects) {
    return a.received().orElseThrow().unmapped().isEmpty()
        ? FirstBoard.of(ShotState.of(a.name(), a.received().get()).shot(), dialects)
        : List.of();
  }
}
