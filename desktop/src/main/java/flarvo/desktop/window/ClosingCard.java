package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.project.Preferences;
import flarvo.project.UserFolder;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/** Asks what becomes of unsaved work before the window closes. */
public final class ClosingCard extends OverlayCard {

  private final Session session;
  private final Label text = new Label();
  private final CheckBox always = new CheckBox("Always keep unsaved work for later");
  private final Button save = button("closing-save", "Save");
  private Runnable close = () -> {};

  ClosingCard(Session session, FileDialogs files) {
    super(new VBox(10), Pos.CENTER);
    this.session = session;
    setId("closing-card");
    Label title = new Label("Close with unsaved work?");
    title.getStyleClass().add("panel-title");
    text.setWrapText(true);
    text.setMaxWidth(420);
    Button keep = button("closing-keep", "Keep for later");
    Button discard = button("closing-discard", "Discard");
    Button stay = button("closing-cancel", "Cancel");
    save.getStyleClass().add("accent");
    save.setOnAction(e -> files.save(this::leave));
    keep.setOnAction(e -> keep());
    discard.setOnAction(
        e -> {
          session.project().autosave().drop();
          leave();
        });
    stay.setOnAction(e -> hide());
    HBox buttons = new HBox(6, save, keep, discard, stay);
    card().getChildren().addAll(title, text, always, buttons);
    addEventFilter(
        KeyEvent.KEY_PRESSED,
        e -> {
          if (e.getCode() == KeyCode.ESCAPE) {
            hide();
            e.consume();
          }
        });
  }

  private static Button button(String id, String words) {
    Button b = new Button(words);
    b.setId(id);
    b.getStyleClass().add("small-button");
    return b;
  }

  /**
   * Asks once, unless nothing is unsaved or the user does not want to be asked.
   *
   * @param then closes the window
   * @return whether the window may close at once
   */
  boolean ask(Runnable then) {
    if (session.store().isApplying()) {
      session
          .store()
          .whenApplied(
              () -> {
                if (ask(then)) {
                  then.run();
                }
              });
      return false;
    }
    if (!session.project().autosave().isUnsaved()
        || !session.isOpen()
        || Preferences.read(UserFolder.settings()).keepOnClose()) {
      return true;
    }
    close = then;
    boolean named = session.project().hasProject();
    save.setText(named ? "Save" : "Save as…");
    text.setText(
        named
            ? "Work kept for later is offered when this project is opened again."
            : "This shot has no project file yet. Work kept for later is offered at the next start.");
    present(true);
    save.requestFocus();
    return false;
  }

  private void keep() {
    if (always.isSelected()) {
      Preferences.read(UserFolder.settings()).withKeepOnClose(true).write(UserFolder.settings());
    }
    leave();
  }

  private void leave() {
    hide();
    close.run();
  }

  private void hide() {
    present(false);
  }
}
