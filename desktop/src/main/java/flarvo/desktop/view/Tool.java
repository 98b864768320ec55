package flarvo.desktop.view;

import java.util.Optional;
import java.util.function.Supplier;
import javafx.scene.input.MouseEvent;

/** Something that takes presses in a view. Who takes the beginning of a drag has all of it. */
public interface Tool {

  /**
   * One more part of a drag.
   *
   * @param dx since the part before, in the view's pixels
   * @return whether the drag is this tool's; asked at its beginning only
   */
  default boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    return false;
  }

  /** The drag that it took has ended. */
  default void release() {}

  /**
   * @param tracker the one under the pointer
   * @return whether the click is this tool's
   */
  default boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    return false;
  }

  /**
   * The pointer moved, with no button down.
   *
   * @return whether something is to be drawn again for it
   */
  default boolean moved(double x, double y) {
    return false;
  }
}
