package flarvo.work;

import flarvo.report.InputError;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.concurrent.Semaphore;

/**
 * Memory for tasks that run at once. Each says how much it takes at most and waits while others
 * have too much of it, so that the number of threads does not decide how much memory is needed.
 */
public final class MemoryShare {

  /** The rest is for everything else, and for what large arrays leave unused between them. */
  private static final double OF_HEAP = 0.6;

  private static final int SHIFT = 20;

  private final int whole; // MiB
  private final Semaphore left;

  /**
   * @param bytes what all tasks may take together
   */
  public MemoryShare(long bytes) {
    whole = (int) Math.min(Integer.MAX_VALUE, bytes >> SHIFT);
    left = new Semaphore(whole, true);
  }

  /** Of the memory that this process may have. */
  public static MemoryShare ofHeap() {
    return new MemoryShare((long) (OF_HEAP * Runtime.getRuntime().maxMemory()));
  }

  /**
   * Runs a task as soon as there is memory for it. A task that takes more while it is under way may
   * wait for ever.
   *
   * @param bytes what it takes at most
   * @param work the file or frame that it works on, for the error
   * @return what the task answered
   * @throws InputError when it takes more than all of the memory
   * @throws Cancelled when the thread was interrupted while it waited
   * @throws Exception that the task threw
   */
  public <T> T run(long bytes, String work, Callable<T> task) throws Exception {
    long mib = 1 + (bytes >> SHIFT);
    if (mib > whole) {
      throw new InputError(
          work,
          "",
          String.format(
              Locale.ROOT,
              "working on it takes %d MB of memory, and %d MB are for pictures",
              mib,
              whole),
          "Give it more: FLARVO_JAVA_OPTIONS=-Xmx" + (long) Math.ceil(mib / OF_HEAP) + "m");
    }
    try {
      left.acquire((int) mib);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled();
    }
    try {
      return task.call();
    } finally {
      left.release((int) mib);
    }
  }
}
