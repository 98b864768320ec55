package flarvo.desktop.window;

import java.util.List;
import javafx.scene.Node;
import javafx.scene.layout.StackPane;

/** Views over each other, or some of them side by side. */
public final class Viewers extends StackPane {

  private static final double GAP = 2;

  /** The first has so many times the room of each other one. */
  private static final double FIRST = 1.5;

  private List<? extends Node> beside = List.of();

  /** Empty for all of them over each other. */
  void sideBySide(List<? extends Node> views) {
    beside = views;
    requestLayout();
  }

  @Override
  protected void layoutChildren() {
    super.layoutChildren();
    double x = 0;
    for (int i = 0; i < beside.size(); i++) {
      double rest = getWidth() - x;
      boolean last = i + 1 == beside.size();
      double each = last ? rest : Math.floor(rest * FIRST / (FIRST + beside.size() - 1 - i));
      beside.get(i).resizeRelocate(x, 0, each, getHeight());
      x += each + GAP;
    }
  }
}
