package flarvo.desktop.window;

import flarvo.desktop.state.Autosave;
import flarvo.desktop.state.Session;
import flarvo.project.RecoveredWork;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;

/** Offers work back that was not saved before the program ended. */
public final class RecoveredWorkBanner extends HBox {

  private static final DateTimeFormatter AT =
      DateTimeFormatter.ofPattern("d MMM, HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());

  private final Label text = new Label();
  private final Autosave autosave;

  public RecoveredWorkBanner(Session session) {
    super(10);
    autosave = session.project().autosave();
    getStyleClass().add("left-work");
    setAlignment(Pos.CENTER_LEFT);
    setMaxSize(USE_PREF_SIZE, USE_PREF_SIZE);
    Button back = new Button("Recover");
    back.setId("restore-work");
    back.getStyleClass().addAll("small-button", "accent");
    back.setOnAction(e -> autosave.restore());
    Button away = new Button("Discard");
    away.getStyleClass().add("small-button");
    away.setOnAction(e -> autosave.discard());
    getChildren().addAll(text, back, away);
    autosave.recovered().addListener((o, a, b) -> show(b));
    show(null);
  }

  private void show(RecoveredWork left) {
    setVisible(left != null);
    setManaged(left != null);
    if (left != null) {
      int offers = autosave.offers();
      text.setText(
          "There is unsaved work of this project from "
              + AT.format(left.at())
              + (offers > 1 ? ", and " + (offers - 1) + " more." : "."));
    }
  }
}
