package flarvo.desktop.action;

import java.util.EnumMap;
import java.util.Map;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/**
 * A key with what is held down beside it.
 *
 * @param shortcut Ctrl, or the command key where there is one
 */
public record Keys(KeyCode code, boolean shortcut, boolean shift) {

  private static final Map<KeyCode, String> WORDS = new EnumMap<>(KeyCode.class);

  static {
    WORDS.put(KeyCode.LEFT, "←");
    WORDS.put(KeyCode.RIGHT, "→");
    WORDS.put(KeyCode.OPEN_BRACKET, "[");
    WORDS.put(KeyCode.CLOSE_BRACKET, "]");
    WORDS.put(KeyCode.ESCAPE, "Esc");
  }

  public static Keys of(KeyCode code) {
    return new Keys(code, false, false);
  }

  public static Keys shift(KeyCode code) {
    return new Keys(code, false, true);
  }

  public static Keys ctrl(KeyCode code) {
    return new Keys(code, true, false);
  }

  public static Keys ctrlShift(KeyCode code) {
    return new Keys(code, true, true);
  }

  /** Keys of the number pad count as those above the letters, and Backspace as Delete. */
  public boolean matches(KeyEvent e) {
    return plain(e.getCode()) == code
        && e.isShortcutDown() == shortcut
        && e.isShiftDown() == shift
        && !e.isAltDown();
  }

  private static KeyCode plain(KeyCode c) {
    if (c == KeyCode.BACK_SPACE) {
      return KeyCode.DELETE;
    }
    return c.name().startsWith("NUMPAD")
        ? KeyCode.valueOf("DIGIT" + c.name().substring("NUMPAD".length()))
        : c;
  }

  /** As a person reads it, such as Ctrl+Shift+Z. */
  public String words() {
    return (shortcut ? "Ctrl+" : "")
        + (shift ? "Shift+" : "")
        + WORDS.getOrDefault(code, code.getName());
  }
}
