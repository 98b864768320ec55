package flarvo.desktop;

import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.ArrayList;
import java.util.List;

/**
 * How much longer work takes now than on a machine of one's own: limits in seconds grow by it, and
 * by nothing else.
 */
final class MachineLoad {

  private static final long WORK_NANOS = 150_000_000L;

  private MachineLoad() {}

  /** 1 where every processor is free; 2 where half of the time goes to others. */
  static double factor() throws InterruptedException {
    List<Double> ratios = new ArrayList<>();
    List<Thread> all = new ArrayList<>();
    for (int i = 0; i < Runtime.getRuntime().availableProcessors(); i++) {
      Thread t =
          new Thread(
              () -> {
                double r = ratio();
                synchronized (ratios) {
                  ratios.add(r);
                }
              });
      all.add(t);
      t.start();
    }
    for (Thread t : all) {
      t.join();
    }
    return Math.max(1, ratios.stream().mapToDouble(r -> r).max().orElse(1));
  }

  /** Time on the clock for time on the processor. */
  private static double ratio() {
    ThreadMXBean threads = ManagementFactory.getThreadMXBean();
    long wall = System.nanoTime();
    long begun = threads.getCurrentThreadCpuTime();
    double x = 1;
    while (threads.getCurrentThreadCpuTime() - begun < WORK_NANOS) {
      for (int i = 0; i < 10_000; i++) {
        x = Math.sqrt(x + i);
      }
    }
    double cpu = threads.getCurrentThreadCpuTime() - begun;
    return x < 0 ? 0 : (System.nanoTime() - wall) / cpu;
  }
}
