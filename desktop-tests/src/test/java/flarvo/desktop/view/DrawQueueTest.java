package flarvo.desktop.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.management.ManagementFactory;
import java.lang.management.ThreadMXBean;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import javafx.scene.Scene;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.HBox;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.testfx.api.FxToolkit;
import org.testfx.framework.junit5.ApplicationExtension;
import org.testfx.util.WaitForAsyncUtils;

/** In which pulses canvases are drawn, in a real window. */
@ExtendWith(ApplicationExtension.class)
class DrawQueueTest {

  /** Twice what a pulse has room for. */
  private static final int SLOW_MS = 16;

  private final List<Pane> drawn = new ArrayList<>();
  private final List<Integer> inPulse = new ArrayList<>();
  private int pulse;
  private HBox box;

  private final class Pane extends CanvasPane {
    private final int takesMs;
    private double width;

    Pane(int takesMs) {
      this.takesMs = takesMs;
      setPrefSize(60, 60);
    }

    @Override
    protected void draw(GraphicsContext g, double w, double h) {
      width = w;
      drawn.add(this);
      inPulse.add(pulse);
      long end = System.nanoTime() + takesMs * 1_000_000L;
      while (System.nanoTime() < end) {
        Thread.onSpinWait();
      }
    }
  }

  @BeforeEach
  void open() throws Exception {
    FxToolkit.setupStage(
        stage -> {
          box = new HBox();
          stage.setScene(new Scene(box, 600, 100));
          stage.getScene().addPreLayoutPulseListener(() -> pulse++);
          stage.show();
        });
  }

  private List<Pane> shown(int count, int takesMs) throws Exception {
    List<Pane> panes =
        onWindow(() -> IntStream.range(0, count).mapToObj(i -> new Pane(takesMs)).toList());
    onWindow(() -> box.getChildren().setAll(panes));
    await(() -> drawn.containsAll(panes));
    // Some pulses more, until nothing is asked for any more.
    for (int still = -1; still != drawn.size(); ) {
      still = drawn.size();
      WaitForAsyncUtils.waitForFxEvents();
    }
    onWindow(
        () -> {
          drawn.clear();
          inPulse.clear();
          return null;
        });
    return panes;
  }

  private static <T> T onWindow(Callable<T> what) throws Exception {
    return WaitForAsyncUtils.waitForAsyncFx(60_000, what);
  }

  private static void await(Callable<Boolean> what) throws Exception {
    WaitForAsyncUtils.waitFor(60, TimeUnit.SECONDS, () -> onWindow(what));
  }

  private void askTwice(List<Pane> panes) throws Exception {
    onWindow(
        () -> {
          panes.forEach(CanvasPane::redraw);
          panes.forEach(CanvasPane::redraw);
          return null;
        });
    await(() -> drawn.size() >= panes.size());
    WaitForAsyncUtils.waitForFxEvents();
  }

  @Test
  void quickOnesAreDrawnOnceInOnePulse() throws Exception {
    List<Pane> panes = shown(4, 0);
    askTwice(panes);
    assertThat(drawn).containsExactlyElementsOf(panes);
    assertThat(inPulse).containsOnly(inPulse.get(0));
  }

  @Test
  void slowOnesAreDrawnOneAPulseInTheOrderOfAsking() throws Exception {
    List<Pane> panes = shown(3, SLOW_MS);
    askTwice(panes);
    assertThat(drawn).containsExactlyElementsOf(panes);
    assertThat(inPulse).doesNotHaveDuplicates();
  }

  @Test
  void whoAsksWhileSlowOnesWaitComesAfterThem() throws Exception {
    List<Pane> panes = shown(3, SLOW_MS);
    Pane first = panes.get(0);
    onWindow(
        () -> {
          panes.forEach(CanvasPane::redraw);
          return null;
        });
    await(() -> !drawn.isEmpty());
    onWindow(
        () -> {
          first.redraw();
          return null;
        });
    await(() -> drawn.size() >= 4);
    assertThat(drawn).containsExactly(first, panes.get(1), panes.get(2), first);
  }

  @Test
  void afterLongWorkAllWaitForTheNextPulseButOne() throws Exception {
    List<Pane> panes = shown(2, 0);
    // Work before the pulse in which they would be drawn, and again before the one that follows.
    int before =
        onWindow(
            () -> {
              panes.forEach(CanvasPane::redraw);
              work();
              box.getScene().addPreLayoutPulseListener(this::work);
              return pulse;
            });
    await(() -> drawn.size() >= 2);
    assertThat(drawn).containsExactlyElementsOf(panes);
    assertThat(inPulse).containsOnly(before + 2);
  }

  @Test
  void aNewSizeDoesNotWait() throws Exception {
    Pane pane = shown(1, 0).get(0);
    int before =
        onWindow(
            () -> {
              pane.setPrefSize(90, 60);
              work();
              return pulse;
            });
    await(() -> !drawn.isEmpty());
    assertThat(inPulse.get(0)).isEqualTo(before + 1);
  }

  /** Longer, on the processor, than a pulse has room for. */
  private void work() {
    ThreadMXBean threads = ManagementFactory.getThreadMXBean();
    long end = threads.getCurrentThreadCpuTime() + SLOW_MS * 1_000_000L;
    while (threads.getCurrentThreadCpuTime() < end) {
      Thread.onSpinWait();
    }
  }

  @Test
  void aNewSizeIsDrawnInThePulseThatLaidItOut() throws Exception {
    Pane pane = shown(1, 0).get(0);
    int before =
        onWindow(
            () -> {
              pane.setPrefSize(90, 60);
              return pulse;
            });
    await(() -> !drawn.isEmpty());
    assertThat(pane.width).isEqualTo(90);
    assertThat(inPulse.get(0)).isEqualTo(before + 1);
  }
}
