package flarvo.desktop.view;

import java.util.function.BiConsumer;
import javafx.scene.canvas.GraphicsContext;

/**
 * What lies over plate and trackers and changes more often than they do: the selection, what is
 * being drawn or marked. Drawing it costs nothing of what thousands of trackers cost.
 */
final class PictureOverlay extends CanvasPane {

  private final BiConsumer<GraphicsContext, PictureOverlay> drawing;

  PictureOverlay(BiConsumer<GraphicsContext, PictureOverlay> drawing) {
    this.drawing = drawing;
    setMouseTransparent(true);
    setManaged(false);
  }

  @Override
  protected void draw(GraphicsContext g, double w, double h) {
    g.clearRect(0, 0, w, h);
    drawing.accept(g, this);
  }
}
