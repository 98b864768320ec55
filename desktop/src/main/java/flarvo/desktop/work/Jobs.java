package flarvo.desktop.work;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Executor;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Background work in lanes; results and errors come back on the window's thread. What was replaced
 * by newer work of its kind is cancelled and never heard of again.
 */
public final class Jobs {

  private static final Logger LOG = LoggerFactory.getLogger(Jobs.class);

  private static final long IDLE_SECONDS = 20;
  private static final long CLOSING_SECONDS = 10;

  private final ObservableList<Job> running = FXCollections.observableArrayList();
  private final Map<Lane, ExecutorService> pools = new EnumMap<>(Lane.class);
  private final Map<Object, Job> newest = new HashMap<>();
  private final Executor window;

  public Jobs() {
    this(Platform::runLater, Jobs::pool);
  }

  /**
   * @param window runs what belongs to the window's thread
   * @param lanes makes each lane's workers
   */
  public Jobs(Executor window, Function<Lane, ExecutorService> lanes) {
    this.window = window;
    for (Lane lane : Lane.values()) {
      pools.put(lane, lanes.apply(lane));
    }
  }

  private static ExecutorService pool(Lane lane) {
    ThreadPoolExecutor pool =
        new ThreadPoolExecutor(
            lane.threads(),
            lane.threads(),
            IDLE_SECONDS,
            TimeUnit.SECONDS,
            new LinkedBlockingQueue<>(),
            r -> {
              Thread t = new Thread(r, lane.name().toLowerCase(Locale.ROOT));
              t.setDaemon(true);
              t.setPriority(Thread.MIN_PRIORITY); // the launcher says what that means
              return t;
            });
    pool.allowCoreThreadTimeOut(true);
    return pool;
  }

  /** From now on, what nobody foresaw is logged and said, and the work goes on. */
  public void hearUncaught(Consumer<String> say) {
    Thread.setDefaultUncaughtExceptionHandler(
        (thread, e) -> {
          LOG.error("uncaught in {}", thread.getName(), e);
          window.execute(
              () ->
                  say.accept(
                      "Internal error ("
                          + e.getClass().getSimpleName()
                          + "); your work is kept. 'Save a problem report' in Ctrl+K helps to find"
                          + " the cause"));
        });
  }

  /** What runs or waits, oldest first. */
  public ObservableList<Job> running() {
    return running;
  }

  /** Whether anything of a lane runs, waits, or has not been answered for yet. */
  public boolean isBusy(Lane lane) {
    return running.stream().anyMatch(j -> j.lane() == lane);
  }

  /**
   * Called on the window's thread, and so are {@code done} and {@code failed}. An opening replaces
   * the one before it.
   */
  public <T> Job run(
      Lane lane,
      String title,
      Function<Progress, T> work,
      Consumer<T> done,
      Consumer<String> failed) {
    return lane == Lane.LOAD
        ? newest(Lane.LOAD, lane, title, work, done, failed)
        : start(new Job(title, lane, window), work, done, failed);
  }

  /** The same, in the place of earlier work under this key that is not done yet. */
  public <T> Job newest(
      Object key,
      Lane lane,
      String title,
      Function<Progress, T> work,
      Consumer<T> done,
      Consumer<String> failed) {
    drop(key);
    Job job = new Job(title, lane, window);
    newest.put(key, job);
    return start(
        job,
        work,
        r -> {
          newest.remove(key, job);
          done.accept(r);
        },
        why -> {
          newest.remove(key, job);
          failed.accept(why);
        });
  }

  /**
   * Work that nobody waits for and nobody is shown, in its order within the lane. Called on the
   * window's thread, and so is {@code done}, unless the work fails or everything is closed.
   */
  public <T> void quietly(Lane lane, Supplier<T> work, Consumer<T> done) {
    ExecutorService pool = pools.get(lane);
    if (pool.isShutdown()) {
      return;
    }
    pool.execute(
        () -> {
          try {
            T result = work.get();
            window.execute(() -> done.accept(result));
          } catch (RuntimeException e) {
            LOG.error("quiet work in {} failed", lane, e);
          }
        });
  }

  /** Cancels what was started under a key, without a word. */
  public void drop(Object key) {
    Job old = newest.remove(key);
    if (old != null) {
      old.replace();
    }
  }

  private <T> Job start(
      Job job, Function<Progress, T> work, Consumer<T> done, Consumer<String> failed) {
    running.add(job);
    pools
        .get(job.lane())
        .execute(
            () -> {
              try {
                if (job.isCancelled()) {
                  throw new Cancelled();
                }
                T result = work.apply(job);
                finish(job, () -> done.accept(result));
              } catch (Cancelled e) {
                finish(job, () -> failed.accept(job.title() + " was cancelled"));
              } catch (InputError e) {
                finish(job, () -> failed.accept(e.getMessage()));
              } catch (RuntimeException e) {
                LOG.error("{} failed", job.title(), e);
                finish(job, () -> failed.accept(job.title() + " failed: " + e));
              } catch (OutOfMemoryError | StackOverflowError e) {
                LOG.error("{} failed", job.title(), e);
                String why =
                    e instanceof StackOverflowError
                        ? "it is nested too deeply"
                        : "it needs more memory than there is";
                finish(job, () -> failed.accept(job.title() + " failed: " + why));
              }
            });
    return job;
  }

  private void finish(Job job, Runnable then) {
    window.execute(
        () -> {
          running.remove(job);
          if (!job.isReplaced()) {
            then.run();
          }
        });
  }

  /** Cancels everything but what is being kept, and waits for that. */
  public void close() {
    running.stream().filter(j -> j.lane() != Lane.KEEP).forEach(Job::cancel);
    pools.forEach(
        (lane, pool) -> {
          if (lane != Lane.KEEP) {
            pool.shutdownNow();
          }
        });
    ExecutorService keep = pools.get(Lane.KEEP);
    keep.shutdown();
    try {
      if (!keep.awaitTermination(CLOSING_SECONDS, TimeUnit.SECONDS)) {
        LOG.warn("gave up waiting for work that was being kept");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
