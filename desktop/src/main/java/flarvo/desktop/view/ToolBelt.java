package flarvo.desktop.view;

import java.util.List;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.scene.input.MouseEvent;

/** The tools that the shown stop has in a view, and the one that has the drag. */
final class ToolBelt {

  private List<Tool> tools = List.of();
  private Tool held;
  private boolean asked;

  void set(List<Tool> next) {
    release();
    tools = List.copyOf(next);
  }

  /** Whether a tool has this drag; asked with every part of it. */
  boolean drag(DrawContext c, double dx, double dy, MouseEvent e) {
    if (asked) {
      if (held != null) {
        held.drag(c, dx, dy, e);
      }
      return held != null;
    }
    asked = true;
    held = tools.stream().filter(t -> t.drag(c, dx, dy, e)).findFirst().orElse(null);
    return held != null;
  }

  void release() {
    if (held != null) {
      held.release();
    }
    held = null;
    asked = false;
  }

  boolean click(DrawContext c, MouseEvent e, Supplier<Optional<String>> tracker) {
    return tools.stream().anyMatch(t -> t.click(c, e, tracker));
  }

  boolean moved(double x, double y) {
    boolean any = false;
    for (Tool t : tools) {
      any |= t.moved(x, y);
    }
    return any;
  }
}
