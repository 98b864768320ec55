package flarvo.desktop.work;

import static org.assertj.core.api.Assertions.assertThat;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Lanes with real threads; the window's thread is a queue that the test empties. */
class JobsTest {

  private static final int LIMIT_SECONDS = 60;

  private final ConcurrentLinkedQueue<Runnable> window = new ConcurrentLinkedQueue<>();
  private final Jobs jobs = new Jobs(window::add, lane -> Executors.newSingleThreadExecutor());
  private final List<String> heard = new ArrayList<>();

  @AfterEach
  void close() {
    jobs.close();
  }

  /** Runs what came back until nothing is left to come. */
  private void settle() throws InterruptedException {
    long end = System.nanoTime() + LIMIT_SECONDS * 1_000_000_000L;
    while (!jobs.running().isEmpty() && System.nanoTime() < end) {
      Runnable r = window.poll();
      if (r == null) {
        Thread.sleep(1);
      } else {
        r.run();
      }
    }
    assertThat(jobs.running()).isEmpty();
  }

  @Test
  void whatNobodyForesawIsSaid() throws InterruptedException {
    Thread.UncaughtExceptionHandler before = Thread.getDefaultUncaughtExceptionHandler();
    CompletableFuture<String> said = new CompletableFuture<>();
    Jobs jobs = new Jobs(Runnable::run, lane -> Executors.newSingleThreadExecutor());
    try {
      jobs.hearUncaught(said::complete);
      Thread t =
          new Thread(
              () -> {
                throw new IllegalStateException("planted");
              });
      t.start();
      t.join();
      assertThat(said.getNow("")).startsWith("Internal error (IllegalStateException)");
    } finally {
      Thread.setDefaultUncaughtExceptionHandler(before);
      jobs.close();
    }
  }

  /** It is in no list, in its order, and a failure ends nothing but itself. */
  @Test
  void quietWorkIsNotShownAndGoesOnAfterAFailure() throws InterruptedException {
    jobs.quietly(
        Lane.WATCH,
        () -> {
          throw new IllegalStateException("planted");
        },
        x -> heard.add("never"));
    jobs.quietly(Lane.WATCH, () -> "second", heard::add);
    jobs.quietly(Lane.WATCH, () -> "third", heard::add);
    assertThat(jobs.running()).isEmpty();
    long end = System.nanoTime() + LIMIT_SECONDS * 1_000_000_000L;
    while (heard.size() < 2 && System.nanoTime() < end) {
      Runnable r = window.poll();
      if (r == null) {
        Thread.sleep(1);
      } else {
        r.run();
      }
    }
    assertThat(heard).containsExactly("second", "third");
    jobs.close();
    jobs.quietly(Lane.WATCH, () -> "too late", heard::add);
    assertThat(window).isEmpty();
  }

  @Test
  void runningOutOfMemoryEndsTheJobWithOneSentence() throws InterruptedException {
    jobs.run(
        Lane.LOAD,
        "Opening",
        p -> {
          throw new OutOfMemoryError("Java heap space");
        },
        x -> heard.add("never"),
        heard::add);
    jobs.run(
        Lane.SEND,
        "Sending",
        p -> {
          throw new StackOverflowError();
        },
        x -> heard.add("never"),
        heard::add);
    jobs.run(Lane.SEND, "after", p -> "the lane goes on", heard::add, heard::add);
    settle();
    assertThat(heard)
        .containsExactlyInAnyOrder(
            "Opening failed: it needs more memory than there is",
            "Sending failed: it is nested too deeply",
            "the lane goes on");
  }

  @Test
  void resultsAndErrorsComeBackInTheOrderOfTheLane() throws InterruptedException {
    jobs.run(Lane.SEND, "one", p -> "1", heard::add, heard::add);
    jobs.run(
        Lane.SEND,
        "two",
        p -> {
          throw new InputError("f.usd", "line 2", "broken", "");
        },
        x -> heard.add("never"),
        heard::add);
    jobs.run(
        Lane.SEND,
        "three",
        p -> {
          throw new IllegalStateException("oops");
        },
        x -> heard.add("never"),
        heard::add);
    jobs.run(
        Lane.SEND,
        "four",
        p -> {
          throw new Cancelled();
        },
        x -> heard.add("never"),
        heard::add);
    settle();
    assertThat(heard).hasSize(4);
    assertThat(heard.get(0)).isEqualTo("1");
    assertThat(heard.get(1)).contains("f.usd", "line 2", "broken");
    assertThat(heard.get(2)).contains("three failed").contains("oops");
    assertThat(heard.get(3)).isEqualTo("four was cancelled");
  }

  @Test
  void workInOneLaneDoesNotWaitForAnother() throws InterruptedException {
    CountDownLatch release = new CountDownLatch(1);
    jobs.run(Lane.DECIDE, "long", p -> await(release), heard::add, heard::add);
    CountDownLatch kept = new CountDownLatch(1);
    jobs.run(
        Lane.KEEP,
        "keep",
        p -> {
          kept.countDown();
          return "kept";
        },
        heard::add,
        heard::add);
    assertThat(kept.await(LIMIT_SECONDS, TimeUnit.SECONDS)).isTrue();
    assertThat(jobs.isBusy(Lane.DECIDE)).isTrue();
    release.countDown();
    settle();
    assertThat(heard).containsExactlyInAnyOrder("kept", "released");
  }

  @Test
  void whatWasReplacedIsCancelledAndNeverHeardOf() throws InterruptedException {
    CountDownLatch begun = new CountDownLatch(1);
    AtomicBoolean cancelled = new AtomicBoolean();
    jobs.newest(
        "key",
        Lane.MEASURE,
        "old",
        p -> {
          begun.countDown();
          while (!p.isCancelled()) {
            Thread.onSpinWait();
          }
          cancelled.set(true);
          return "old";
        },
        heard::add,
        heard::add);
    assertThat(begun.await(LIMIT_SECONDS, TimeUnit.SECONDS)).isTrue();
    jobs.newest("key", Lane.MEASURE, "new", p -> "new", heard::add, heard::add);
    settle();
    assertThat(cancelled).isTrue();
    assertThat(heard).containsExactly("new");
    jobs.newest("key", Lane.MEASURE, "dropped", p -> "dropped", heard::add, heard::add);
    jobs.drop("key");
    settle();
    assertThat(heard).containsExactly("new");
  }

  @Test
  void closingWaitsForWhatIsBeingKeptAndForNothingElse() {
    AtomicBoolean written = new AtomicBoolean();
    jobs.run(
        Lane.KEEP,
        "keep",
        p -> {
          sleep(150);
          written.set(true);
          return "";
        },
        x -> {},
        heard::add);
    jobs.run(
        Lane.MEASURE,
        "measure",
        p -> {
          while (!p.isCancelled()) {
            sleep(1);
          }
          return "";
        },
        x -> {},
        heard::add);
    jobs.close();
    assertThat(written).isTrue();
  }

  private static String await(CountDownLatch latch) {
    try {
      assertThat(latch.await(LIMIT_SECONDS, TimeUnit.SECONDS)).isTrue();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    return "released";
  }

  private static void sleep(int millis) {
    try {
      Thread.sleep(millis);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
