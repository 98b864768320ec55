package flarvo.desktop.stop.level;

import flarvo.desktop.state.Session;
import flarvo.desktop.view.DrawContext;
import flarvo.desktop.view.Projector;
import flarvo.desktop.view.Tool;
import flarvo.scene.Similarity;
import java.util.Optional;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** A handle that is taken, dragged and let go: tried all the while, one edit at the end. */
final class HandleDrag implements Tool {

  private final Session session;
  private final LevelWork level;
  private final Handles handles;
  private final boolean throughCamera;
  private Handles.Handle held;
  private Projector began;
  private Similarity start;
  private double x0;
  private double y0;

  /**
   * @param throughCamera whether the picture stands still and the world is moved under it
   */
  HandleDrag(Session session, LevelWork level, Handles handles, boolean throughCamera) {
    this.session = session;
    this.level = level;
    this.handles = handles;
    this.throughCamera = throughCamera;
  }

  Handles.Handle held() {
    return held;
  }

  /** As the world was when the drag began counts for all of it. */
  @Override
  public boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (held == null) {
      boolean may =
          c.world() != null
              && session.view().handlesShown().get()
              && e.getButton() == MouseButton.PRIMARY;
      handles.setRadius(c.reach());
      Optional<Handles.Handle> k =
          may ? handles.at(c.world(), e.getX() - dx, e.getY() - dy) : Optional.empty();
      if (k.isEmpty()) {
        return false;
      }
      held = k.get();
      began = c.world();
      start = level.standing();
      x0 = e.getX() - dx;
      y0 = e.getY() - dy;
    }
    Similarity by = handles.drag(held, began, x0, y0, e.getX(), e.getY(), e.isShiftDown());
    level.tryLevel((throughCamera ? by.inverse() : by).after(start));
    return true;
  }

  @Override
  public void release() {
    level.keepTried("drag " + held.word());
    held = null;
  }
}
