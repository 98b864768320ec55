package flarvo.desktop.view;

import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.layout.Region;

/** A canvas that fills its room and is drawn at most once a pulse, however often it is asked. */
public abstract class CanvasPane extends Region {

  private final Canvas canvas = new Canvas();
  private boolean asked;
  private boolean empty = true;
  private long lastDrawNanos;

  protected CanvasPane() {
    getChildren().add(canvas);
    setMinSize(40, 20);
    visibleProperty().addListener((o, was, is) -> redraw());
    sceneProperty().addListener((o, was, is) -> redraw());
  }

  /** Draws everything; the canvas is {@code width} × {@code height} and not cleared. */
  protected abstract void draw(GraphicsContext g, double width, double height);

  /** Asks for a redraw; from the window's thread only. */
  public final void redraw() {
    if (!asked && getScene() != null) {
      asked = true;
      DrawQueue.of(getScene()).add(this);
    }
  }

  /** Whether nothing was drawn since the canvas got its size. */
  final boolean isEmpty() {
    return empty;
  }

  /** Draws what was asked for. */
  void drawNow() {
    asked = false;
    // What nobody sees is drawn when it is shown.
    if (isVisible() && getScene() != null && canvas.getWidth() > 0 && canvas.getHeight() > 0) {
      long start = System.nanoTime();
      draw(canvas.getGraphicsContext2D(), canvas.getWidth(), canvas.getHeight());
      lastDrawNanos = System.nanoTime() - start;
      empty = false;
    }
  }

  /**
   * What is drawn from now on stays between these edges, rounded to whole pixels: any other clip is
   * drawn as a mask of the whole canvas, which takes as long as everything else. Ended by {@link
   * GraphicsContext#restore()}.
   */
  static void clip(GraphicsContext g, double left, double top, double right, double bottom) {
    double x = Math.rint(left);
    double y = Math.rint(top);
    g.beginPath();
    g.rect(x, y, Math.max(0, Math.rint(right) - x), Math.max(0, Math.rint(bottom) - y));
    g.clip();
  }

  /** How long the last drawing took on the window's thread. */
  public final long lastDrawNanos() {
    return lastDrawNanos;
  }

  @Override
  protected void layoutChildren() {
    double w = Math.floor(getWidth());
    double h = Math.floor(getHeight());
    if (canvas.getWidth() != w || canvas.getHeight() != h) {
      canvas.setWidth(w);
      canvas.setHeight(h);
      empty = true;
      redraw();
    }
  }
}
