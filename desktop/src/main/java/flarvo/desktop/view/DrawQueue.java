package flarvo.desktop.view;

import java.util.ArrayDeque;
import java.util.Queue;
import javafx.application.Platform;
import javafx.scene.Scene;

/**
 * Canvases of a window that want to be drawn, in the order in which they asked. They are drawn
 * after layout, so that they show in the same pulse and at their new size. What does not fit into a
 * pulse any more comes first in the next: several slow ones never add up to one long pulse.
 */
final class DrawQueue {

  /** Half of a pulse: the other half is for layout and for what the renderer is behind. */
  private static final long BUDGET_NANOS = 4_000_000;

  private final Queue<CanvasPane> waiting = new ArrayDeque<>();

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
    if (!waiting.isEmpty()) {
      Platform.requestNextPulse();
    }
  }
}
