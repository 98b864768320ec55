package flarvo.desktop.window;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** Views over each other, or two of them together, whichever way leaves the first more room. */
final class Viewers extends StackPane {

  private static final double GAP = 2;

  /** Share of the first view: across, and down. */
  private static final double ACROSS = 0.6;

  private static final double DOWN = 0.57;

  /** Width of a picture for its height, as most are. */
  private static final double PICTURE = 16.0 / 9;

  private List<? extends Node> both = List.of();

  /**
   * @param views two that share the room; empty for all of them over each other
   * @return whether views share the room now that did not before
   */
  boolean together(List<? extends Node> views) {
    boolean begins = both.isEmpty() && !views.isEmpty();
    both = views;
    requestLayout();
    return begins;
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    if (both.isEmpty()) {
      return;
    }
    double w = getWidth();
    double h = getHeight();
    double across = Math.min(ACROSS * w, h * PICTURE);
    double down = Math.min(w, DOWN * h * PICTURE);
    if (down > across) {
      double first = Math.floor(DOWN * h);
      both.get(0).resizeRelocate(0, 0, w, first);
      both.get(1).resizeRelocate(0, first + GAP, w, h - first - GAP);
    } else {
      double first = Math.floor(ACROSS * w);
      both.get(0).resizeRelocate(0, 0, first, h);
      both.get(1).resizeRelocate(first + GAP, 0, w - first - GAP, h);
    }
  }
}
