package flarvo.desktop.stop.plate;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Tool;
import javafx.scene.input.MouseEvent;

/** Drags the edge between the original and the undistorted plate. */
final class WipeTool implements Tool {

  /** How near a press must be, in the view's pixels. */
  private static final double NEAR = 8;

  private final Session session;
  private boolean held;

  WipeTool(Session session) {
    this.session = session;
  }

  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    double wipe = session.view().wipe().get();
    double w = c.shot().picture().width() * c.at().scale();
    if (!held) {
      double begun = e.getX() - dx;
      if (wipe < 0 || Math.abs(begun - c.at().left() - wipe * w) > NEAR) {
        return false;
      }
      held = true;
    }
    session.view().wipe().set(Math.max(0, Math.min(1, (e.getX() - c.at().left()) / w)));
    return true;
  }

  @Override
  public void release() {
    held = false;
  }
}
