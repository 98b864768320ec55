package flarvo.desktop.work;

/** Where background work waits for its turn. Work in one lane never waits for another lane's. */
public enum Lane {
  /** Opening: another opening takes the place of one that runs. */
  LOAD(1),
  /** Applying decisions to a large shot, in their order. */
  APPLY(1),
  /** Decisions that work something out. */
  DECIDE(1),
  /** Values that views show: measures, errors, previews. */
  MEASURE(2),
  /** Deliveries on their way out, several at once. */
  SEND(2),
  /** Looking at disks that may not answer, for what nothing waits for. */
  LOOK(1),
  /** Looking again and again whether files changed, on disks that may not answer either. */
  WATCH(1),
  /** Writing projects, autosaves and settings, in their order; closing waits for it. */
  KEEP(1);

  private final int threads;

  Lane(int threads) {
    this.threads = threads;
  }

  int threads() {
    return threads;
  }
}
