package flarvo.work;

/**
 * Progress of work in parts that run at the same time, each about as long as the others. The whole
 * never goes back, though a part may begin again.
 */
public final class ParallelProgress {

  private final Progress whole;
  private final long[] done;
  private long sum;

  /**
   * @param whole what is told by several threads, one after the other, and asked by all
   */
  public ParallelProgress(Progress whole, int parts) {
    this.whole = whole;
    this.done = new long[parts];
  }

  /** Progress of one part, from 0. */
  public Progress part(int i) {
    return new Progress() {
      @Override
      public void at(long at, long total) {
        tell(i, total <= 0 ? 0 : Math.min(PART, PART * at / total));
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }

  private synchronized void tell(int part, long share) {
    if (share > done[part]) {
      sum += share - done[part];
      done[part] = share;
    }
    whole.at(sum, done.length * Progress.PART);
  }
}
