package flarvo.desktop.state;

/**
 * What a slot holds.
 *
 * @param value null while there is none
 * @param current whether it is of the snapshot's own revision; else it is of an earlier one
 * @param failure why the newest could not be worked out; empty otherwise
 */
public record Worked<T>(T value, boolean current, String failure) {

  /** Nothing to work out. */
  static <T> Worked<T> none() {
    return new Worked<>(null, true, "");
  }
}
