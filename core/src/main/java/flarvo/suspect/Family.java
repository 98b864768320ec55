package flarvo.suspect;

import java.util.List;

/** A kind of mix-up: the changes that would undo it. */
interface Family {

  /**
   * Changes that are worth a try.
   *
   * @param s what they are tried on: the file as it is, or already changed
   * @param e to fit values to
   */
  List<Change> on(TriedScene s, Evidence e, TriedScene.Bench b);

  /** Whether its changes are the same whatever else is wrong, with no value that must be fitted. */
  default boolean isFixed() {
    return true;
  }
}
