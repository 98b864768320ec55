package flarvo.desktop.window;

import flarvo.desktop.state.Autosave;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Tips;
import flarvo.project.RecoveredWork;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** What stands in the middle while no shot is open: what to bring, and ways to begin. */
final class EmptyWindow extends VBox {

  private static final int MOST_RECENT = 6;

  private final Session session;
  private final Label text = new Label();
  private final VBox recent = new VBox(2);

  /**
   * @param demo opens the demo; empty where it did not come along
   */
  EmptyWindow(Session session, FileDialogs files, Optional<Runnable> demo) {
    super(14);
    this.session = session;
    getStyleClass().add("empty-window");
    setId("empty-window");
    setMaxSize(480, USE_PREF_SIZE);
    setAlignment(Pos.CENTER_LEFT);
    text.setWrapText(true);
    text.setMinHeight(USE_PREF_SIZE);
    FlowPane ways = new FlowPane(8, 8);
    ways.getChildren().addAll(button("open-files", "Open files…", files::open));
    ways.getChildren().add(button("open-folder", "Open a folder…", files::openFolder));
    demo.ifPresent(d -> ways.getChildren().add(button("open-demo", "Open the demo", d)));
    ways.getChildren().get(0).getStyleClass().add("accent");
    getChildren().addAll(text, ways, recent);
    session.open().addListener((o, a, b) -> fill());
    session.project().loading().addListener((o, a, b) -> fill());
    session.project().problem().addListener((o, a, b) -> fill());
    session.project().autosave().recent().addListener((o, a, b) -> fill());
    session.project().autosave().unnamed().addListener((o, a, b) -> fill());
    fill();
  }

  private static final DateTimeFormatter AT =
      DateTimeFormatter.ofPattern("d MMM, HH:mm", Locale.ROOT).withZone(ZoneId.systemDefault());

  private static Button button(String id, String words, Runnable deed) {
    Button b = new Button(words);
    b.setId(id);
    b.getStyleClass().add("small-button");
    b.setOnAction(e -> deed.run());
    return b;
  }

  private void fill() {
    setVisible(!session.isOpen());
    setManaged(!session.isOpen());
    String problem = session.project().problem().get();
    if (!problem.isEmpty()) {
      text.setText(problem + ".\n\nNothing was changed. Fix the file, or open another.");
    } else if (session.project().loading().get()) {
      text.setText("Reading…");
    } else {
      text.setText(
          "Drop a project here, or everything you received for a shot: camera and points (USD,"
              + " FBX, Alembic, glTF or tables), 2D tracks, plates, lens and log. A whole folder"
              + " will do; files are recognised by their contents.");
    }
    recent.getChildren().clear();
    unsaved();
    List<Path> list = session.project().autosave().recent().get();
    if (!list.isEmpty()) {
      Label head = new Label("Recent projects");
      head.getStyleClass().add("quiet");
      recent.getChildren().add(head);
    }
    list.stream().limit(MOST_RECENT).forEach(p -> recent.getChildren().add(recent(p)));
  }

  /** Shots that were never saved as a project, from earlier runs. */
  private void unsaved() {
    Autosave autosave = session.project().autosave();
    List<RecoveredWork> left = autosave.unnamed().get();
    if (left.isEmpty()) {
      return;
    }
    Label head = new Label("Unsaved shots");
    head.getStyleClass().add("quiet");
    recent.getChildren().add(head);
    left.stream()
        .limit(MOST_RECENT)
        .forEach(
            w -> {
              String name = w.project().shots().get(0).name() + ", " + AT.format(w.at());
              Button open = button("recover-shot", name, () -> autosave.restore(w));
              open.getStyleClass().setAll("button", "row-button");
              Button away = button("discard-shot", "Discard", () -> autosave.discard(w));
              HBox row = new HBox(6, open, away);
              HBox.setHgrow(open, Priority.ALWAYS);
              open.setMaxWidth(Double.MAX_VALUE);
              row.setAlignment(Pos.CENTER_LEFT);
              recent.getChildren().add(row);
            });
  }

  private Button recent(Path p) {
    Button b = button("", shortName(p), () -> session.project().open(List.of(p)));
    b.getStyleClass().setAll("button", "row-button");
    Tips.on(b, p.toString());
    b.setMaxWidth(Double.MAX_VALUE);
    return b;
  }

  /** Its folder and its name: projects are often called alike. */
  static String shortName(Path p) {
    Path folder = p.getParent();
    return (folder == null || folder.getFileName() == null ? "" : folder.getFileName() + "/")
        + p.getFileName();
  }
}
