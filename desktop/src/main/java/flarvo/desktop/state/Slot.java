package flarvo.desktop.state;

import flarvo.work.Progress;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Predicate;

/**
 * A value that is worked out from the open shot. Where its input is the same as before, the value
 * is carried over; else the old one stays, marked as old, until the new one is there.
 *
 * @param <K> everything that the value depends on, compared by {@code equals}
 * @param <T> the value
 */
public final class Slot<K, T> {

  private final String title;
  private final Function<Snapshot, Optional<K>> input;
  private final BiFunction<K, Progress, T> work;
  private final Predicate<K> quick;

  /**
   * @param title as the status line has it
   * @param input touches names and numbers only; empty where there is nothing to work out
   * @param work sees its input only; runs beside the window
   * @param quick whether the work takes less than a pulse, so that it is done at once
   */
  public Slot(
      String title,
      Function<Snapshot, Optional<K>> input,
      BiFunction<K, Progress, T> work,
      Predicate<K> quick) {
    this.title = title;
    this.input = input;
    this.work = work;
    this.quick = quick;
  }

  public String title() {
    return title;
  }

  Optional<K> input(Snapshot s) {
    return input.apply(s);
  }

  T work(K key, Progress p) {
    return work.apply(key, p);
  }

  boolean isQuick(K key) {
    return quick.test(key);
  }
}
