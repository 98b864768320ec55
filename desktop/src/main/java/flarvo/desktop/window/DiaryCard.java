package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import flarvo.project.DiaryEntry;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.layout.VBox;

/** What was done with the shot, and room for the user's own notes. */
public final class DiaryCard extends OverlayCard {

  private static final DateTimeFormatter AT =
      DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());

  private final Session session;
  private final ListView<DiaryEntry> lines = new ListView<>();
  private final TextField note = new TextField();

  public DiaryCard(Session session) {
    super(new VBox(8), Pos.TOP_CENTER);
    this.session = session;
    Label title = new Label("Diary");
    title.getStyleClass().add("panel-title");
    lines.setPrefSize(560, 360);
    lines.setPlaceholder(new Label("Nothing has been done yet."));
    lines.setAccessibleText("Diary of the shot");
    lines.setCellFactory(
        v ->
            new ListCell<>() {
              @Override
              protected void updateItem(DiaryEntry e, boolean none) {
                super.updateItem(e, none);
                setText(
                    none || e == null
                        ? ""
                        : AT.format(e.at()) + (e.note() ? "   note: " : "   ") + e.text());
              }
            });
    note.setPromptText("Note; Enter adds it");
    note.setId("diary-note");
    note.setAccessibleText("Your own note");
    note.setOnAction(e -> keep());
    card().getChildren().addAll(title, lines, note);
    setOnMouseClicked(
        e -> {
          if (e.getTarget() == this) {
            close();
          }
        });
    addEventFilter(
        KeyEvent.KEY_PRESSED,
        e -> {
          if (e.getCode() == KeyCode.ESCAPE) {
            close();
            e.consume();
          }
        });
  }

  public void open() {
    if (!session.isOpen()) {
      session.message().set("There is no diary yet; open a shot first");
      return;
    }
    fill();
    present(true);
    note.requestFocus();
  }

  private void close() {
    present(false);
  }

  private void keep() {
    if (!note.getText().isBlank()) {
      session.project().note(note.getText());
      note.clear();
      fill();
    }
  }

  private void fill() {
    List<DiaryEntry> all = session.project().diary().entries();
    lines.getItems().setAll(all);
    if (!all.isEmpty()) {
      lines.scrollTo(all.size() - 1);
    }
  }
}
