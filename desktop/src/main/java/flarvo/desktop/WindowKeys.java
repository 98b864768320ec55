package flarvo.desktop;

import flarvo.desktop.ladder.Transport;
import flarvo.desktop.session.Playhead;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import java.util.Set;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.TextInputControl;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/** The window's keys. While something is typed, letters and digits belong to the text. */
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
          if (e.isShortcutDown()
              ? command(e, scene.getFocusOwner())
              : plain(e, scene.getFocusOwner())) {
            e.consume();
          }
        });
    scene.addEventFilter(
        KeyEvent.KEY_TYPED,
        e -> {
          if ("?".equals(e.getCharacter())
              && !(scene.getFocusOwner() instanceof TextInputControl)) {
            window.keysCard().open(session.stop().get());
            e.consume();
          }
        });
  }

  private boolean command(KeyEvent e, Node focus) {
    switch (e.getCode()) {
      case C -> {
        if (focus instanceof TextInputControl) {
          return false;
        }
        if (focus != null && "deliveries".equals(focus.getId())) {
          window.copyDeliveries();
        } else {
          window.copyPicture();
        }
      }
      case V -> {
        if (focus instanceof TextInputControl) {
          return false;
        }
        window.paste();
      }
      case K -> window.find();
      case Z -> {
        if (e.isShiftDown()) {
          session.redo();
        } else {
          session.undo();
        }
      }
      case Y -> session.redo();
      case S -> {
        if (e.isShiftDown()) {
          window.saveAs();
        } else {
          window.save();
        }
      }
      case R -> session.takeProposals();
      case D -> window.diary().open();
      case O -> window.chooseFiles();
      case T -> session.view().theme().set(session.view().theme().get().other());
      case ENTER -> session.sending().sendAll();
      default -> {
        return false;
      }
    }
    return true;
  }

  private boolean plain(KeyEvent e, Node focus) {
    if (window.keysCard().isVisible()) {
      window.keysCard().close();
      return true;
    }
    if (window.finder().isVisible() || window.diary().isVisible()) {
      return false;
    }
    if (focus instanceof TextInputControl) {
      if (e.getCode() == KeyCode.ESCAPE && session.tableImport().table().get() == null) {
        window.picture().requestFocus();
        return true;
      }
      return false;
    }
    Playhead head = session.playhead();
    switch (e.getCode()) {
      case DIGIT1, NUMPAD1 -> window.go(Stop.RECEIVE);
      case DIGIT2, NUMPAD2 -> window.go(Stop.VET);
      case DIGIT3, NUMPAD3 -> window.go(Stop.LEVEL);
      case DIGIT4, NUMPAD4 -> window.go(Stop.PLATE);
      case DIGIT5, NUMPAD5 -> window.go(Stop.DISPATCH);
      case DIGIT6, NUMPAD6 -> window.go(Stop.PROOF);
      case SPACE -> Transport.toggle(head);
      case LEFT -> head.step(e.isShiftDown() ? -10 : -1);
      case RIGHT -> head.step(e.isShiftDown() ? 10 : 1);
      case HOME -> head.goTo(head.range().first());
      case END -> head.goTo(head.range().last());
      case OPEN_BRACKET -> head.setIn();
      case CLOSE_BRACKET -> head.setOut();
      case F -> window.frameSelection();
      case G -> {
        return atLevel(
            () -> session.view().handlesShown().set(!session.view().handlesShown().get()));
      }
      case V -> {
        return atLevel(
            () -> session.view().pictureAlone().set(!session.view().pictureAlone().get()));
      }
      case T -> {
        return atVet(() -> session.view().tableShown().set(!session.view().tableShown().get()));
      }
      case M -> {
        return atVet(() -> session.vet().marking().set(!session.vet().marking().get()));
      }
      case W -> {
        return atVet(this::weigh);
      }
      case DELETE, BACK_SPACE -> {
        if (atLevel(session.build()::removeChosen)) {
          return true;
        }
        return atVet(() -> session.vet().cullByHand(Set.copyOf(session.selection())));
      }
      case INSERT -> {
        return atVet(() -> session.vet().restore(Set.copyOf(session.selection())));
      }
      case ESCAPE -> {
        if (session.tableImport().table().get() != null) {
          session.tableImport().close();
        } else if (session.build().dropping().get() != null
            || session.build().sketching().get() != null) {
          session.build().dropping().set(null);
          session.build().sketching().set(null);
          session.build().sketch().clear();
        } else if (session.level().guess().get() != null) {
          session.level().leaveGuess();
        } else if (session.vet().marking().get()) {
          session.vet().marking().set(false);
        } else {
          session.selection().clear();
        }
      }
      case ENTER -> {
        return sendChosen(focus);
      }
      case TAB -> {
        // Shift+Tab still walks through the controls; so does Tab inside a list of choices.
        if (e.isShiftDown() || focus instanceof ComboBoxBase<?>) {
          return false;
        }
        if (session.stop().get() == Stop.RECEIVE) {
          session.view().viewersShown().set(!session.view().viewersShown().get());
        } else {
          session.view().spaceShown().set(!session.view().spaceShown().get());
        }
      }
      default -> {
        return false;
      }
    }
    return true;
  }

  private boolean atLevel(Runnable action) {
    boolean here = session.stop().get() == Stop.LEVEL;
    if (here) {
      action.run();
    }
    return here;
  }

  private boolean atVet(Runnable action) {
    boolean here = session.stop().get() == Stop.VET;
    if (here) {
      action.run();
    }
    return here;
  }

  /** Weight off, or on again where none of the selected has any. */
  private void weigh() {
    Set<String> s = Set.copyOf(session.selection());
    session.vet().weigh(s, session.vet().vetting().weightless().containsAll(s));
  }

  private boolean sendChosen(Node focus) {
    boolean board = focus != null && "deliveries".equals(focus.getId());
    if (board && session.chosen().get() != null) {
      session.sending().send(session.chosen().get());
    }
    return board;
  }
}
