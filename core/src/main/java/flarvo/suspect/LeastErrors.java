package flarvo.suspect;

import java.util.Comparator;
import java.util.PriorityQueue;

/**
 * The least of the errors that were measured so far, by any thread: what is larger than all of them
 * will not be among the least in the end either, and need not be measured to the end.
 */
final class LeastErrors {

  private final int most;
  private final PriorityQueue<Double> worstFirst = new PriorityQueue<>(Comparator.reverseOrder());

  /**
   * @param most how many are kept; {@link Integer#MAX_VALUE} for no limit
   */
  LeastErrors(int most) {
    this.most = most;
  }

  /** The largest of them; infinite while there are fewer than are kept. */
  synchronized double limit() {
    return worstFirst.size() < most ? Double.POSITIVE_INFINITY : worstFirst.peek();
  }

  synchronized void add(double error) {
    if (most == Integer.MAX_VALUE) {
      return;
    }
    worstFirst.add(error);
    if (worstFirst.size() > most) {
      worstFirst.poll();
    }
  }
}
