package flarvo.desktop.view;

import javafx.scene.Node;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** Tells a drag from a click on a viewer: a hand that trembles a little still clicks. */
public final class DragOrClick {

  /** How far a pressed mouse may wander and still click, in pixels of the screen. */
  private static final double TREMBLE = 4;

  /** Told of each further part of a drag. */
  @FunctionalInterface
  public interface Drag {
    void by(double dx, double dy, MouseEvent e);
  }

  /** Told of a click with the first button. */
  @FunctionalInterface
  public interface Click {
    void at(MouseEvent e);
  }

  private double x;
  private double y;
  private boolean dragging;

  private DragOrClick() {}

  public static void install(Node viewer, Drag drag, Click click) {
    install(viewer, drag, click, e -> {});
  }

  /**
   * @param dropped told when a drag ends
   */
  public static void install(Node viewer, Drag drag, Click click, Click dropped) {
    DragOrClick state = new DragOrClick();
    viewer.setOnMousePressed(
        e -> {
          state.dragging = false;
          state.stand(e);
        });
    viewer.setOnMouseDragged(e -> state.dragged(e, drag));
    viewer.setOnMouseReleased(
        e -> {
          if (!state.dragging && e.getButton() == MouseButton.PRIMARY) {
            click.at(e);
          } else if (state.dragging) {
            dropped.at(e);
          }
        });
  }

  private void dragged(MouseEvent e, Drag drag) {
    double dx = e.getX() - x;
    double dy = e.getY() - y;
    if (dragging || Math.hypot(dx, dy) > TREMBLE) {
      dragging = true;
      stand(e);
      drag.by(dx, dy, e);
    }
  }

  private void stand(MouseEvent e) {
    x = e.getX();
    y = e.getY();
  }
}
