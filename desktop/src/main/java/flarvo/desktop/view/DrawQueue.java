package flarvo.desktop.view;

import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.ArrayDeque;
import java.util.Queue;
import javafx.application.Platform;
import javafx.scene.Scene;

/**
 * Canvases of a window that want to be drawn, in the order in which they asked. They are drawn
 * after layout, so that they show in the same pulse and at their new size. What does not fit into a
 * pulse any more comes first in the next: several slow ones never add up to one long pulse. After
 * an edit, whose listeners and layout fill a pulse by themselves, all of them wait for the next.
 */
final class DrawQueue {

  /** Half of a pulse: the other half is for layout and for what the renderer is behind. */
  private static final long BUDGET_NANOS = 4_000_000;

  /** What the thread may have worked since the last pulse for drawing to fit in as well. */
  private static final long BUSY_NANOS = 9_000_000;

  private static final ThreadMXBean THREADS = ManagementFactory.getThreadMXBean();

  private final Queue<CanvasPane> waiting = new ArrayDeque<>();
  private long worked; // processor time of the window's thread when the last pulse had been drawn
  private boolean waited;

  /** The one of a window. */
  static DrawQueue of(Scene s) {
    return (DrawQueue)
        s.getProperties()
            .computeIfAbsent(
                DrawQueue.class,
                k -> {
                  DrawQueue q = new DrawQueue();
                  s.addPostLayoutPulseListener(q::draw);
                  return q;
                });
  }

  void add(CanvasPane pane) {
    waiting.add(pane);
    Platform.requestNextPulse();
  }

  private void draw() {
    waited = !waited && THREADS.getCurrentThreadCpuTime() - worked > BUSY_NANOS;
    if (waited) {
      drawResized();
    } else {
      drawInOrder();
    }
    if (!waiting.isEmpty()) {
      Platform.requestNextPulse();
    }
    worked = THREADS.getCurrentThreadCpuTime();
  }

  /** A canvas of a new size is empty, so it would flicker if it waited. */
  private void drawResized() {
    for (int n = waiting.size(); n > 0; n--) {
      CanvasPane pane = waiting.remove();
      if (pane.isEmpty()) {
        pane.drawNow();
      } else {
        waiting.add(pane);
      }
    }
  }

  private void drawInOrder() {
    long spent = 0;
    // Who asks while it is drawn is drawn in the next pulse.
    for (int n = waiting.size(); n > 0; n--) {
      long expected = waiting.element().lastDrawNanos();
      if (spent > 0 && spent + expected > BUDGET_NANOS) {
        break;
      }
      long start = System.nanoTime();
      waiting.remove().drawNow();
      spent += System.nanoTime() - start;
    }
  }
}
