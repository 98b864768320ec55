package flarvo.work;

/** Told by long work as it goes; also where a wish to stop reaches it. */
public interface Progress {

  /** Nobody watches and nobody cancels. */
  Progress NONE =
      new Progress() {
        @Override
        public void at(long done, long total) {}

        @Override
        public boolean isCancelled() {
          return false;
        }
      };

  /** Steps that a part of the work is told in. */
  long PART = 1000;

  /** Called often and cheaply; {@code total} is 0 while it is not known. */
  void at(long done, long total);

  /** Whether the work should end; asked often. */
  boolean isCancelled();

  /**
   * Progress of one of several parts of the work, each about as long as the others.
   *
   * @param part from 0
   * @param parts how many there are
   */
  default Progress part(int part, int parts) {
    Progress whole = this;
    return new Progress() {
      @Override
      public void at(long done, long total) {
        long within = total <= 0 ? 0 : Math.min(PART, PART * done / total);
        whole.at(part * PART + within, parts * PART);
      }

      @Override
      public boolean isCancelled() {
        return whole.isCancelled();
      }
    };
  }

  /**
   * Tells and stops in one: the usual call inside a loop.
   *
   * @throws Cancelled when the user asked to stop
   */
  default void step(long done, long total) {
    if (isCancelled()) {
      throw new Cancelled();
    }
    at(done, total);
  }
}
