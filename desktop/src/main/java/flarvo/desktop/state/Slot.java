package flarvo.desktop.state;

import flarvo.work.Progress;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Function;

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
  private final Work<K, T> work;

  /** Works a value out where most of the last one may still hold. */
  public interface Work<K, T> {
    /**
     * @param before of whatever input it was; null where there was none. The answer is the same
     *     without it, and takes longer
     */
    T of(K key, T before, Progress progress);
  }

  /**
   * @param title as the status line has it
   * @param input touches names and numbers only; empty where there is nothing to work out
   * @param work sees its input only; runs beside the window
   */
  public Slot(
      String title, Function<Snapshot, Optional<K>> input, BiFunction<K, Progress, T> work) {
    this(title, input, (key, before, progress) -> work.apply(key, progress));
  }

  /** The same where the work may take something over from the value before. */
  public Slot(String title, Function<Snapshot, Optional<K>> input, Work<K, T> work) {
    this.title = title;
    this.input = input;
    this.work = work;
  }

  public String title() {
    return title;
  }

  Optional<K> input(Snapshot s) {
    return input.apply(s);
  }

  T work(K key, T before, Progress p) {
    return work.of(key, before, p);
  }
}
