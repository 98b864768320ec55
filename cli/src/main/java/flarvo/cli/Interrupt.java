package flarvo.cli;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Ctrl+C: work is asked to end, and has most of a second to take half written files away. The
 * program ends then, whether it did or not.
 */
final class Interrupt {

  private static final long PATIENCE_MS = 800;

  private static volatile boolean asked;

  private final CountDownLatch ended = new CountDownLatch(1);

  /** Listens from now on. */
  static Interrupt install() {
    Interrupt i = new Interrupt();
    Runtime.getRuntime().addShutdownHook(new Thread(i::shutdown, "interrupt"));
    return i;
  }

  static boolean isAsked() {
    return asked;
  }

  /** Nothing is left to wait for. */
  void ended() {
    ended.countDown();
  }

  private void shutdown() {
    asked = true;
    try {
      boolean inTime = ended.await(PATIENCE_MS, TimeUnit.MILLISECONDS);
      if (!inTime) {
        System.err.println("flarvo: interrupted");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
