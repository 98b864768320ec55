package flarvo.desktop.window;

import flarvo.desktop.state.NewShots;
import flarvo.desktop.state.NewShots.Offer;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.Fields;
import flarvo.desktop.stop.Tips;
import flarvo.folder.FoundShot;
import flarvo.project.BoardShelf;
import flarvo.project.ShotArrivals.Arrival;
import flarvo.project.StartBoard;
import flarvo.report.InputError;
import flarvo.report.Note;
import java.io.File;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ComboBox;
import javafx.scene.control.Label;
import javafx.scene.control.ListCell;
import javafx.scene.control.ListView;
import javafx.scene.control.TextField;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The shots that were found in folders: which, into which project, and what became of each. */
final class NewShotsCard extends OverlayCard {

  private static final String NO_BOARD = "none";

  /** A line of the list. */
  private record Line(String text, boolean wrong) {}

  private final Session session;
  private final NewShots shots;
  private final Label title = new Label();
  private final ListView<Line> lines = new ListView<>();
  private final TextField project = new TextField();
  private final Label list = new Label();
  private final ComboBox<String> board = new ComboBox<>();
  private final Label problem = new Label();
  private final GridPane settings = new GridPane();
  private final Button receive = Fields.button("new-shots-receive", "", this::receive);
  private final Button one =
      Fields.button("new-shots-one", "Open as one shot", () -> shots().openAsOne());
  private final Button away = Fields.button("new-shots-cancel", "Cancel", () -> shots().dismiss());

  NewShotsCard(Session session) {
    super(new VBox(10), Pos.TOP_CENTER);
    this.session = session;
    shots = session.newShots();
    setId("new-shots");
    title.getStyleClass().add("panel-title");
    title.setId("new-shots-title");
    lines.setId("new-shots-list");
    lines.setPrefSize(640, 300);
    lines.setAccessibleText("Shots that were found");
    lines.setCellFactory(v -> new LineCell());
    problem.setWrapText(true);
    problem.setMaxWidth(640);
    problem.getStyleClass().add("over");
    receive.getStyleClass().add("accent");
    settings();
    HBox buttons = new HBox(6, receive, one, away);
    card().getChildren().addAll(title, lines, settings, problem, buttons);
    shots.offer().addListener((o, a, b) -> show(a, b));
    shots.working().addListener((o, a, b) -> enable());
    shots.problem().addListener((o, a, b) -> enable());
  }

  private NewShots shots() {
    return shots;
  }

  private void settings() {
    project.setId("new-shots-project");
    project.setAccessibleText("Project file");
    project.getStyleClass().add("small-field");
    settings.setHgap(8);
    settings.setVgap(6);
    board.setId("new-shots-board");
    board.setAccessibleText("Deliveries that each shot begins with");
    board.getStyleClass().add("small-field");
    Tips.on(board, "Deliveries that each new shot begins with");
    list.setId("new-shots-listed");
    Button choose = Fields.button("new-shots-choose-list", "Choose…", this::chooseList);
    Tips.on(choose, "CSV or OpenTimelineIO: names, frames and handles");
    HBox listed = new HBox(8, list, choose);
    listed.setAlignment(Pos.CENTER_LEFT);
    settings.addRow(0, new Label("Project"), project);
    settings.addRow(1, new Label("Shot list"), listed);
    settings.addRow(2, new Label("Board"), board);
    GridPane.setHgrow(project, Priority.ALWAYS);
  }

  private void chooseList() {
    FileChooser c = new FileChooser();
    c.setTitle("Shot list (CSV or OpenTimelineIO)");
    File f = c.showOpenDialog(getScene().getWindow());
    if (f != null) {
      shots.search(shots.offer().get().folders(), Optional.of(f.toPath()));
    }
  }

  private void show(Offer before, Offer o) {
    present(o != null);
    if (o == null) {
      return;
    }
    if (before == null) {
      project.setText(shots.usualProject().toString());
      boards();
    }
    int n = o.found().shots().size();
    String count = n + (n == 1 ? " shot" : " shots");
    title.setText(
        o.isReceived()
            ? "Received into " + o.project().get().getFileName()
            : count + " found in " + names(o.folders()));
    list.setText(o.list().map(l -> l.getFileName().toString()).orElse("none"));
    receive.setText("Receive " + count);
    away.setText(o.isReceived() ? "Close" : "Cancel");
    lines.getItems().setAll(o.isReceived() ? received(o) : found(o));
    enable();
    (o.isReceived() ? away : receive).requestFocus();
  }

  private void boards() {
    board.getItems().setAll(NO_BOARD, StartBoard.USUAL);
    try {
      session.project().boards().list().stream()
          .map(BoardShelf.Board::name)
          .forEach(board.getItems()::add);
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
    board.getSelectionModel().select(StartBoard.USUAL);
  }

  private static String names(List<Path> folders) {
    String first = String.valueOf(folders.get(0).getFileName());
    return folders.size() == 1 ? first : first + " and " + (folders.size() - 1) + " more";
  }

  private void enable() {
    Offer o = shots.offer().get();
    boolean busy = shots.working().get();
    boolean received = o != null && o.isReceived();
    String wrong = shots.problem().get();
    problem.setText(busy ? "Working…" : wrong);
    problem.setVisible(busy || !wrong.isEmpty());
    problem.setManaged(problem.isVisible());
    settings.setDisable(busy);
    settings.setVisible(!received);
    settings.setManaged(!received);
    for (Button b : List.of(receive, one)) {
      b.setVisible(!received);
      b.setManaged(!received);
      b.setDisable(busy || o == null || o.found().shots().isEmpty());
    }
  }

  private static List<Line> found(Offer o) {
    List<Line> out = new ArrayList<>();
    for (FoundShot s : o.found().shots()) {
      out.add(
          new Line(
              s.name()
                  + "   "
                  + count(s.files().size(), "file")
                  + ", "
                  + count(s.plates().size(), "plate folder")
                  + s.listed().map(l -> "; in the shot list").orElse(""),
              false));
      s.notes().forEach(n -> out.add(new Line("    " + n, false)));
    }
    return notes(out, o.found().notes());
  }

  private static List<Line> received(Offer o) {
    List<Line> out = new ArrayList<>();
    for (Arrival a : o.arrivals()) {
      int open = a.open().size();
      out.add(
          new Line(
              a.name()
                  + "   "
                  + (a.entry().isEmpty()
                      ? (a.known() ? "" : "not added: ") + a.said()
                      : open == 0 ? "no open question" : count(open, "open question")),
              a.entry().isEmpty() && !a.known()));
      a.open().forEach(c -> out.add(new Line("    " + c.sentence(), false)));
    }
    return notes(out, o.found().notes());
  }

  private static List<Line> notes(List<Line> out, List<Note> notes) {
    notes.forEach(n -> out.add(new Line(n.toString(), false)));
    return out;
  }

  private static String count(int n, String what) {
    return n + " " + what + (n == 1 ? "" : "s");
  }

  private void receive() {
    String chosen = board.getSelectionModel().getSelectedItem();
    try {
      shots.receive(
          Path.of(project.getText().strip()),
          chosen == null || chosen.equals(NO_BOARD) ? "" : chosen);
    } catch (InvalidPathException e) {
      session.message().set("'" + project.getText() + "' is not a path: " + e.getReason());
    }
  }

  private static final class LineCell extends ListCell<Line> {
    @Override
    protected void updateItem(Line l, boolean none) {
      super.updateItem(l, none);
      setText(none || l == null ? "" : l.text);
      setWrapText(true);
      setPrefWidth(0); // wraps where the list ends
      getStyleClass().remove("over");
      if (l != null && !none && l.wrong) {
        getStyleClass().add("over");
      }
    }
  }
}
