package flarvo.desktop.stop;

import flarvo.desktop.state.Session;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;

/** Text that goes to the clipboard, with a word on it. */
public final class TextCopy {

  private TextCopy() {}

  /**
   * @param name such as "Ledger"
   * @param text empty while there is nothing to copy, which is said
   */
  public static void copy(Session session, String name, String text) {
    if (text.isEmpty()) {
      session.message().set("There is nothing to copy yet");
      return;
    }
    ClipboardContent c = new ClipboardContent();
    c.putString(text);
    Clipboard.getSystemClipboard().setContent(c);
    session.message().set(name + " copied as text");
  }
}
