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

  /** Called often and cheaply; {@code total} is 0 while it is not known. */
  void at(long done, long total);

  /** Whether the work should end; asked often. */
  boolean isCancelled();

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
