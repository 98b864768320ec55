package flarvo.desktop.stop.dispatch;

import flarvo.decision.DispatchDecision;
import flarvo.desktop.state.Session;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.FirstBoard;
import flarvo.project.BoardShelf;
import flarvo.project.Preferences;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.project.UserFolder;
import flarvo.report.InputError;
import java.util.List;
import java.util.Optional;
import javafx.scene.control.Button;
import javafx.scene.control.CheckMenuItem;
import javafx.scene.control.CustomMenuItem;
import javafx.scene.control.Menu;
import javafx.scene.control.MenuButton;
import javafx.scene.control.MenuItem;
import javafx.scene.control.SeparatorMenuItem;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;

/** Whole boards: one to begin with, saved ones, those of other shots; and saving this one. */
final class BoardMenu extends MenuButton {

  private final Session session;

  BoardMenu(Session session) {
    super("Board");
    this.session = session;
    setId("board-menu");
    getStyleClass().add("small-button");
    fill();
    setOnShowing(e -> fill());
  }

  /** Adds deliveries to begin with. */
  static void addFirst(Session session) {
    List<Delivery> all = FirstBoard.of(session.state().get().staged(), session.dialects());
    add(session, "usual recipients", all);
  }

  private static void add(Session session, String from, List<Delivery> all) {
    if (all.isEmpty()) {
      session.message().set("Nothing to deliver yet: the shot has no camera and no trackers");
    } else {
      session.store().decide(new DispatchDecision.AddBoard(from, all));
    }
  }

  private void fill() {
    getItems().clear();
    item("Add usual recipients", "board-usual", () -> addFirst(session));
    List<BoardShelf.Board> saved = saved();
    for (BoardShelf.Board b : saved) {
      item(
          "Add board " + b.name(),
          "board-saved-" + b.name(),
          () -> add(session, "board " + b.name(), b.deliveries()));
    }
    Menu copy = new Menu("Copy from shot");
    String here = session.state().get().name();
    for (ProjectShot s : session.project().file().map(ProjectFile::shots).orElse(List.of())) {
      List<Delivery> of = s.deliveries();
      if (!s.name().equals(here) && !of.isEmpty()) {
        MenuItem i = new MenuItem(s.name() + "    " + of.size() + " deliveries");
        i.setOnAction(e -> add(session, "board of " + s.name(), BoardShelf.general(of, s.name())));
        copy.getItems().add(i);
      }
    }
    copy.setDisable(copy.getItems().isEmpty());
    getItems().addAll(copy, watching(), new SeparatorMenuItem(), saving());
    if (!saved.isEmpty()) {
      Menu delete = new Menu("Delete saved board");
      for (BoardShelf.Board b : saved) {
        MenuItem i = new MenuItem(b.name());
        i.setOnAction(
            e -> {
              session.project().boards().remove(b.name());
              session.message().set("Board " + b.name() + " deleted");
            });
        delete.getItems().add(i);
      }
      getItems().add(delete);
    }
  }

  private CheckMenuItem watching() {
    CheckMenuItem i = new CheckMenuItem("Watch this shot's files");
    i.setId("board-watch");
    Optional<Boolean> said = session.state().get().watched();
    i.setSelected(said.orElseGet(() -> Preferences.read(UserFolder.settings()).watchFiles()));
    i.setDisable(!session.isOpen());
    i.setOnAction(e -> session.store().decide(new DispatchDecision.WatchFiles(i.isSelected())));
    return i;
  }

  private void item(String text, String id, Runnable does) {
    MenuItem i = new MenuItem(text);
    i.setId(id);
    i.setOnAction(e -> does.run());
    getItems().add(i);
  }

  private List<BoardShelf.Board> saved() {
    try {
      return session.project().boards().list();
    } catch (InputError e) {
      session.message().set(e.getMessage());
      return List.of();
    }
  }

  private CustomMenuItem saving() {
    TextField name = new TextField();
    name.setId("board-name");
    name.setPromptText("board name");
    name.setPrefColumnCount(12);
    name.getStyleClass().add("small-field");
    Button save = new Button("Save board");
    save.setId("board-save");
    save.getStyleClass().add("small-button");
    save.setOnAction(e -> save(name.getText()));
    name.setOnAction(e -> save(name.getText()));
    CustomMenuItem item = new CustomMenuItem(new HBox(6, name, save));
    item.setHideOnClick(false);
    return item;
  }

  private void save(String name) {
    try {
      session
          .project()
          .boards()
          .save(name, session.state().get().deliveries(), session.state().get().name());
      session.message().set("Board saved as " + name.strip());
      hide();
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
  }
}
