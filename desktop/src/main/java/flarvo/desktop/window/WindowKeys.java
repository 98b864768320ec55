package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import flarvo.desktop.state.Session;
import java.util.Optional;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/**
 * The window's keys: what lies over the window first, then the shown stop, then the window. While
 * something is typed, letters and digits belong to the text.
 */
final class WindowKeys {

  private final MainWindow window;
  private final Session session;

  WindowKeys(MainWindow window, Session session) {
    this.window = window;
    this.session = session;
  }

  void install(Scene scene) {
    scene.addEventFilter(
        KeyEvent.KEY_PRESSED,
        e -> {
          if (pressed(e, scene.getFocusOwner())) {
            e.consume();
          }
        });
    scene.addEventFilter(
        KeyEvent.KEY_TYPED,
        e -> {
          if ("?".equals(e.getCharacter())
              && !(scene.getFocusOwner() instanceof TextInputControl)) {
            window.openKeys();
            e.consume();
          }
        });
  }

  private boolean pressed(KeyEvent e, Node focus) {
    boolean typing = focus instanceof TextInputControl;
    if (!e.isShortcutDown()) {
      if (window.keysCard().isVisible()) {
        window.keysCard().close();
        return true;
      }
      if (window.finder().isVisible() || window.diary().isVisible()) {
        return false;
      }
      if (session.newShots().offer().get() != null) {
        boolean away = e.getCode() == KeyCode.ESCAPE;
        if (away) {
          session.newShots().dismiss();
        }
        return away;
      }
      if (e.getCode() == KeyCode.ESCAPE) {
        return escape(typing);
      }
      if (typing || belongsToControl(e, focus)) {
        return false;
      }
    } else if (typing && belongsToText(e)) {
      return false;
    }
    Optional<Action> a = WindowActions.of(e, window.current().actions(), window.everywhere());
    a.ifPresent(x -> x.run(session.message()::set));
    return a.isPresent();
  }

  private boolean escape(boolean typing) {
    if (typing && !window.current().escape()) {
      window.picture().requestFocus();
    } else if (!typing) {
      window.escape();
    }
    return true;
  }

  /** Shift+Tab still walks through the controls; so does Tab inside a list of choices. */
  private static boolean belongsToControl(KeyEvent e, Node focus) {
    return e.getCode() == KeyCode.TAB && (e.isShiftDown() || focus instanceof ComboBoxBase<?>);
  }

  private static boolean belongsToText(KeyEvent e) {
    return switch (e.getCode()) {
      case C, V, X, A -> true;
      default -> false;
    };
  }
}
