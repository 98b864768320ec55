package flarvo.desktop.stop;

import flarvo.desktop.view.Layer;
import flarvo.desktop.view.Tool;
import flarvo.desktop.view.ViewKind;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;

/** What a stop shows. The window lays it out, and asks again whenever it was rearranged. */
public interface StopView {

  /** The right side: tools from top to bottom in the order of work. */
  Node desk();

  /** In the place of Picture and Space. */
  default Optional<Node> centre() {
    return Optional.empty();
  }

  /** Under Picture and Space. */
  default Optional<Node> below() {
    return Optional.empty();
  }

  /** Over the ladder, on its time axis. */
  default Optional<Node> graph() {
    return Optional.empty();
  }

  /** Whether Picture and Space are shown together. */
  default boolean showsBoth() {
    return false;
  }

  /** What is drawn into a view, in this order. */
  default List<Layer> layers(ViewKind kind) {
    return List.of();
  }

  /** Asked in turn who takes a press in a view; before selecting and moving the view. */
  default List<Tool> tools(ViewKind kind) {
    return List.of();
  }

  /** Told whenever the answers to the questions above have changed. */
  default void onRearranged(Runnable told) {}

  /** It is in the window now. */
  default void shown() {}

  /** Another stop is shown now; what was armed is given up. */
  default void hidden() {}
}
