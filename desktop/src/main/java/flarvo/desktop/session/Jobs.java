package flarvo.desktop.session;

import flarvo.report.InputError;
import flarvo.work.Cancelled;
import flarvo.work.Progress;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.function.Consumer;
import java.util.function.Function;
import javafx.application.Platform;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Background work; results and errors come back on the window's thread. */
public final class Jobs {

  private static final Logger LOG = LoggerFactory.getLogger(Jobs.class);

  private final ObservableList<Job> running = FXCollections.observableArrayList();
  private final ExecutorService pool =
      Executors.newFixedThreadPool(
          2,
          r -> {
            Thread t = new Thread(r, "work");
            t.setDaemon(true);
            return t;
          });

  public ObservableList<Job> running() {
    return running;
  }

  /** Called on the window's thread, and so are {@code done} and {@code failed}. */
  public <T> Job run(
      String title, Function<Progress, T> work, Consumer<T> done, Consumer<String> failed) {
    Job job = new Job(title);
    running.add(job);
    pool.execute(
        () -> {
          try {
            T result = work.apply(job);
            finish(job, () -> done.accept(result));
          } catch (Cancelled e) {
            finish(job, () -> failed.accept(title + " was cancelled; nothing was written"));
          } catch (InputError e) {
            finish(job, () -> failed.accept(e.getMessage()));
          } catch (RuntimeException e) {
            LOG.error("{} failed", title, e);
            finish(job, () -> failed.accept(title + " failed: " + e));
          }
        });
    return job;
  }

  private void finish(Job job, Runnable then) {
    Platform.runLater(
        () -> {
          running.remove(job);
          then.run();
        });
  }

  void close() {
    running.forEach(Job::cancel);
    pool.shutdownNow();
  }
}
