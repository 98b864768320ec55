package flarvo.desktop.state;

import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.AbstractExecutorService;
import java.util.concurrent.TimeUnit;

/** Jobs whose lanes run only when a test says so, in any order; no window is needed. */
final class HandDriven {

  private final Map<Lane, Deque<Runnable>> waiting = new EnumMap<>(Lane.class);
  private final Deque<Runnable> window = new ArrayDeque<>();
  final Jobs jobs =
      new Jobs(
          window::add,
          lane -> {
            waiting.put(lane, new ArrayDeque<>());
            return new Lined(waiting.get(lane));
          });

  int waiting(Lane lane) {
    return waiting.get(lane).size();
  }

  /** Does the oldest work of a lane; what comes of it waits for the window. */
  void work(Lane lane) {
    waiting.get(lane).remove().run();
  }

  /** Everything that came back so far. */
  void window() {
    while (!window.isEmpty()) {
      window.remove().run();
    }
  }

  /** Applies what was decided, and nothing else. */
  void applied() {
    while (waiting(Lane.APPLY) > 0) {
      int before = window.size();
      work(Lane.APPLY);
      while (window.size() > before) {
        window.removeLast().run();
      }
    }
  }

  /** Takes what came back first, without running it: it arrives when the test says so. */
  Runnable held() {
    return window.remove();
  }

  void everything() {
    boolean any = true;
    while (any) {
      any = false;
      for (Lane l : Lane.values()) {
        while (waiting(l) > 0) {
          work(l);
          any = true;
        }
      }
      window();
    }
  }

  private static final class Lined extends AbstractExecutorService {
    private final Deque<Runnable> queue;

    Lined(Deque<Runnable> queue) {
      this.queue = queue;
    }

    @Override
    public void execute(Runnable r) {
      queue.add(r);
    }

    @Override
    public void shutdown() {
      queue.clear();
    }

    @Override
    public List<Runnable> shutdownNow() {
      queue.clear();
      return List.of();
    }

    @Override
    public boolean isShutdown() {
      return false;
    }

    @Override
    public boolean isTerminated() {
      return true;
    }

    @Override
    public boolean awaitTermination(long time, TimeUnit unit) {
      return true;
    }
  }
}
