package flarvo.work;

import java.util.concurrent.atomic.AtomicLongArray;

/**
 * Progress of work in parts that run at the same time, each about as long as the others. The whole
 * never goes back, though a part may begin again.
 */
public final class ParallelProgress {

  private final Progress whole;
  private final AtomicLongArray done;

  /**
   * @param whole what is told and asked; from several threads
   */
  public ParallelProgress(Progress whole, int parts) {
    this.whole = whole;
    this.done = new AtomicLongArray(parts);
  }

  /** Progress of one part, from 0. */
  public Progress part(int i) {
    return new Progress() {
      @Override
      public void at(long at, long total) {
        long share = total <= 0 ? 0 : Math.min(PART, PART * at / total);
        done.accumulateAndGet(i, share, Math::max);
        tell();
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }

  private void tell() {
    long sum = 0;
    for (int i = 0; i < done.length(); i++) {
      sum += done.get(i);
    }
    whole.at(sum, done.length() * Progress.PART);
  }
}
