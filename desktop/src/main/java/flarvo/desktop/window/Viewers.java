package flarvo.desktop.window;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** Views over each other, or two of them side by side. */
final class Viewers extends StackPane {

  private static final double GAP = 2;

  /** The first view's share of the width. */
  private static final double FIRST = 0.6;

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
    if (!both.isEmpty()) {
      double first = Math.floor(FIRST * getWidth());
      both.get(0).resizeRelocate(0, 0, first, getHeight());
      both.get(1).resizeRelocate(first + GAP, 0, getWidth() - first - GAP, getHeight());
    }
  }
}
