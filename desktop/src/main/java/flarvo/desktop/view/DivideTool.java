package flarvo.desktop.view;

import java.util.function.BooleanSupplier;
import javafx.beans.property.DoubleProperty;
import javafx.scene.input.MouseEvent;

/** Drags the upright edge that divides the picture. */
public final class DivideTool implements Tool {

  /** How near a press must be, in the view's pixels. */
  private static final double NEAR = 8;

  private final DoubleProperty edge;
  private final BooleanSupplier shown;
  private boolean held;

  /**
   * @param edge a share of the picture's width
   * @param shown whether it is there to be dragged
   */
  public DivideTool(DoubleProperty edge, BooleanSupplier shown) {
    this.edge = edge;
    this.shown = shown;
  }

  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    double w = c.shot().picture().width() * c.at().scale();
    if (!held) {
      double begun = e.getX() - dx;
      if (!shown.getAsBoolean() || Math.abs(begun - c.at().left() - edge.get() * w) > NEAR) {
        return false;
      }
      held = true;
    }
    edge.set(Math.max(0, Math.min(1, (e.getX() - c.at().left()) / w)));
    return true;
  }

  @Override
  public void release() {
    held = false;
  }
}
