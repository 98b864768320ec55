package flarvo.desktop.stop;

import javafx.application.Platform;
import javafx.scene.control.Control;
import javafx.scene.control.Tooltip;

/** Tooltips of controls. */
public final class Tips {

  private Tips() {}

  /**
   * A tooltip, or its new text. Each is a window of its own, so it is made after what is under way:
   * no view waits for its tooltips before it is shown.
   */
  public static void on(Control c, String text) {
    Platform.runLater(
        () -> {
          if (c.getTooltip() == null) {
            c.setTooltip(new Tooltip(text));
          } else {
            c.getTooltip().setText(text);
          }
        });
  }
}
