package flarvo.desktop.stop;

import javafx.scene.control.Control;
import javafx.scene.control.Tooltip;
import javafx.scene.input.MouseEvent;

/** Tooltips of controls. */
public final class Tips {

  private Tips() {}

  /**
   * A tooltip, or its new text. Each is a window of its own, so it is made when the pointer comes
   * to the control for the first time; most are never seen. Screen readers read the text at once.
   */
  public static void on(Control c, String text) {
    boolean first = c.getAccessibleHelp() == null;
    c.setAccessibleHelp(text);
    if (c.getTooltip() != null) {
      c.getTooltip().setText(text);
    } else if (first) {
      c.addEventHandler(MouseEvent.MOUSE_ENTERED, e -> show(c));
    }
  }

  private static void show(Control c) {
    if (c.getTooltip() == null) {
      c.setTooltip(new Tooltip(c.getAccessibleHelp()));
    }
  }
}
