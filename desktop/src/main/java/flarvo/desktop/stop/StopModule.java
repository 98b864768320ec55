package flarvo.desktop.stop;

import flarvo.desktop.action.Action;
import flarvo.desktop.state.Slot;
import java.util.List;
import javafx.beans.Observable;

/**
 * A place of work on the line. A module is made with the window and has no nodes: its fact, its
 * actions and its keys work before it was ever shown. Stops do not know each other.
 */
public interface StopModule {

  /** A stable word, unique among the stops. */
  String id();

  String title();

  /** What stands under its name on the line now. */
  Fact fact();

  /** Everything that the fact depends on. */
  List<Observable> factDependsOn();

  /**
   * What can be done here. Keys with Ctrl count everywhere, others while the stop is shown; names
   * are found everywhere.
   */
  List<Action> actions();

  /** Things of the open shot that can be gone to by name. */
  default List<Action> objects() {
    return List.of();
  }

  /** For the key card. */
  default List<Gesture> gestures() {
    return List.of();
  }

  /** Values that are worked out while the stop is shown, each after those that it rests on. */
  default List<Slot<?, ?>> slots() {
    return List.of();
  }

  /** Leaves what is armed or half done; false where there is nothing of the kind. */
  default boolean escape() {
    return false;
  }

  /** Built when the stop is first shown, and kept. */
  StopView view();
}
