package flarvo.work;

import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;

/** Several tasks at once, on threads of their own that end with them. */
public final class Workers {

  private Workers() {}

  /**
   * Runs tasks and waits for all.
   *
   * @param jobs how many at once
   * @param name of the threads
   * @return what they answered, in their order
   * @throws Cancelled when the waiting thread was interrupted; the tasks are interrupted too
   * @throws RuntimeException that a task threw; the first of them
   */
  public static <T> List<T> all(int jobs, String name, List<? extends Callable<T>> tasks) {
    ExecutorService workers =
        Executors.newFixedThreadPool(
            jobs,
            r -> {
              Thread t = new Thread(r, name);
              t.setDaemon(true);
              return t;
            });
    try {
      List<Future<T>> running = new ArrayList<>();
      tasks.forEach(t -> running.add(workers.submit(t)));
      List<T> out = new ArrayList<>();
      for (Future<T> f : running) {
        out.add(await(f));
      }
      return out;
    } finally {
      workers.shutdownNow();
    }
  }

  /**
   * Waits for a task.
   *
   * @throws Cancelled when the waiting thread was interrupted
   * @throws RuntimeException that the task threw
   */
  public static <T> T await(Future<T> f) {
    try {
      return f.get();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new Cancelled();
    } catch (ExecutionException e) {
      if (e.getCause() instanceof RuntimeException r) {
        throw r;
      }
      if (e.getCause() instanceof Error r) {
        throw r;
      }
      throw new IllegalStateException(e.getCause());
    }
  }
}
