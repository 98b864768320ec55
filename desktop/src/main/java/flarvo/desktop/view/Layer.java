package flarvo.desktop.view;

import java.util.List;
import javafx.beans.Observable;
import javafx.scene.canvas.GraphicsContext;

/** Something that is drawn into a view. */
public interface Layer {

  /** Over what it lies. What changes often lies over what is costly to draw. */
  enum Depth {
    /** With plate and trackers. */
    UNDER,
    /** Over them. */
    OVER
  }

  /** Whose it is where a stop compares the shot with something else. */
  enum Side {
    /** Nobody's: it is drawn in any case. */
    NONE,
    /** The shot's, beside its trackers. */
    OWN,
    /** Of what it is compared with. */
    OTHER
  }

  Depth depth();

  default Side side() {
    return Side.NONE;
  }

  /** Whether there is something to compare with now; only asked of the other side. */
  default boolean compares() {
    return false;
  }

  /** What stands over its side where the picture is divided. */
  default String caption() {
    return "";
  }

  /** What it is drawn again for, beside shot, frame, selection and view. */
  List<Observable> dependsOn();

  void draw(GraphicsContext g, DrawContext c);
}
