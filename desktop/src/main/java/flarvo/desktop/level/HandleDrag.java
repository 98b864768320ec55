package flarvo.desktop.level;

import flarvo.desktop.session.Session;
import flarvo.scene.Similarity;
import java.util.Optional;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** A knob that is taken, dragged and let go: tried all the while, one edit at the end. */
public final class HandleDrag {

  private final Session session;
  private final Handles handles;
  private final boolean throughCamera;
  private Handles.Knob held;
  private boolean asked;
  private Projector began;
  private Similarity start;
  private double x0;
  private double y0;

  /**
   * @param throughCamera whether the picture stands still and the world is moved under it
   */
  public HandleDrag(Session session, Handles handles, boolean throughCamera) {
    this.session = session;
    this.handles = handles;
    this.throughCamera = throughCamera;
  }

  public Handles.Knob held() {
    return held;
  }

  /**
   * One more part of a drag.
   *
   * @param to as it was when the drag began counts; may be null
   * @return whether the drag belongs to a knob
   */
  public boolean drag(Projector to, double dx, double dy, MouseEvent e) {
    if (!asked) {
      asked = true;
      held = null;
      boolean may =
          to != null && session.view().handlesShown().get() && e.getButton() == MouseButton.PRIMARY;
      Optional<Handles.Knob> k =
          may ? handles.at(to, e.getX() - dx, e.getY() - dy) : Optional.empty();
      if (k.isPresent()) {
        held = k.get();
        began = to;
        start = session.level().standing();
        x0 = e.getX() - dx;
        y0 = e.getY() - dy;
      }
    }
    if (held == null) {
      return false;
    }
    Similarity by = handles.drag(held, began, x0, y0, e.getX(), e.getY(), e.isShiftDown());
    session.level().tryLevel((throughCamera ? by.inverse() : by).after(start));
    return true;
  }

  public void drop() {
    if (held != null) {
      session.level().keepTried("drag " + held.word());
    }
    held = null;
    asked = false;
  }
}
