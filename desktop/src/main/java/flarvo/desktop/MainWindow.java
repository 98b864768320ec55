package flarvo.desktop;

import flarvo.desktop.dispatch.DispatchBoard;
import flarvo.desktop.dispatch.DispatchDesk;
import flarvo.desktop.find.Action;
import flarvo.desktop.find.Finder;
import flarvo.desktop.find.KeysCard;
import flarvo.desktop.find.LevelActions;
import flarvo.desktop.ladder.LadderView;
import flarvo.desktop.ladder.Transport;
import flarvo.desktop.line.LineBar;
import flarvo.desktop.manifest.ManifestPane;
import flarvo.desktop.picture.PictureView;
import flarvo.desktop.proof.DriftGraph;
import flarvo.desktop.proof.ProofDesk;
import flarvo.desktop.receive.DiaryCard;
import flarvo.desktop.receive.LedgerView;
import flarvo.desktop.receive.RecoveredWorkBanner;
import flarvo.desktop.receive.TableImportView;
import flarvo.desktop.receive.TextFiles;
import flarvo.desktop.session.Session;
import flarvo.desktop.session.Stop;
import flarvo.desktop.space.SpaceView;
import flarvo.desktop.status.StatusBar;
import flarvo.desktop.stop.Desk;
import flarvo.desktop.stop.LevelDesk;
import flarvo.desktop.stop.ReceiveDesk;
import flarvo.desktop.stop.TableImportDesk;
import flarvo.desktop.stop.VetDesk;
import flarvo.desktop.vet.TrackerTable;
import flarvo.desktop.vet.VetGraph;
import flarvo.dispatch.Delivery;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;

/** The window: line, manifest, centre, desk, ladder and status, and what lies over them. */
public final class MainWindow {

  /** Share of the height that the picture keeps above the delivery board. */
  private static final double BOARD_BELOW = 0.62;

  private static final double TABLE_BELOW = 0.52;

  private final Session session;
  private final StackPane root = new StackPane();
  private final BorderPane frame = new BorderPane();
  private final PictureView picture;
  private final SpaceView space;
  private VetGraph errors;
  private TrackerTable trackers;
  private DriftGraph graph; // made when first shown, like the board and the desks
  private DispatchBoard board;
  private final Viewers viewers = new Viewers();
  private final SplitPane split = new SplitPane(viewers);
  private final BorderPane centre = new BorderPane(split);
  private final VBox foot = new VBox();
  private final Map<Stop, Node> desks = new EnumMap<>(Stop.class);
  private final Finder finder;
  private final KeysCard keys = new KeysCard();
  private final Label empty = new Label();
  private final LedgerView ledger;
  private final TableImportView columns;
  private ScrollPane columnsDesk;
  private final RecoveredWorkBanner leftWork;
  private final DiaryCard diary;
  private final TextFiles texts;

  MainWindow(Session session) {
    this.session = session;
    picture = new PictureView(session);
    space = new SpaceView(session);
    finder = new Finder(this::actions);
    empty.getStyleClass().add("empty-picture");
    empty.setWrapText(true);
    empty.setMaxWidth(430);
    picture.setFocusTraversable(true);
    space.setFocusTraversable(true);
    ledger = new LedgerView(session);
    ledger.setFocusTraversable(true);
    columns = new TableImportView(session);
    leftWork = new RecoveredWorkBanner(session);
    viewers.getChildren().addAll(picture, space, ledger, empty, columns, leftWork);
    // What is hidden in it, such as the ledger, must not hold the divider.
    viewers.setMinSize(120, 120);
    split.setOrientation(Orientation.VERTICAL);
    frame.setTop(new LineBar(session, this::find, () -> keys.open(session.stop().get())));
    frame.setLeft(new ManifestPane(session));
    frame.setCenter(centre);
    foot.getChildren()
        .addAll(new Transport(session), new LadderView(session), new StatusBar(session));
    foot.getStyleClass().add("foot");
    frame.setBottom(foot);
    frame.getStyleClass().add("window");
    diary = new DiaryCard(session);
    texts = new TextFiles(session);
    root.getChildren().addAll(frame, finder, keys, diary);
    session.stop().addListener((o, a, b) -> arrange());
    session.view().spaceShown().addListener((o, a, b) -> arrange());
    session.view().viewersShown().addListener((o, a, b) -> arrange());
    session.view().tableShown().addListener((o, a, b) -> arrange());
    session.view().pictureAlone().addListener((o, a, b) -> arrange());
    session.tableImport().table().addListener((o, a, b) -> arrange());
    session
        .state()
        .addListener(
            (o, a, b) -> {
              words();
              if (a == null) {
                arrange();
              }
            });
    session.loading().addListener((o, a, b) -> words());
    session.problem().addListener((o, a, b) -> words());
    session
        .selection()
        .addListener((javafx.collections.SetChangeListener<String>) c -> space.redraw());
    drop();
    arrange();
    words();
  }

  StackPane root() {
    return root;
  }

  public PictureView picture() {
    return picture;
  }

  public SpaceView space() {
    return space;
  }

  private static ScrollPane scroll(Desk desk) {
    ScrollPane p = new ScrollPane(desk);
    p.setFitToWidth(true);
    p.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    p.getStyleClass().addAll("desk-scroll", "panel");
    p.setPrefWidth(320);
    p.setMinWidth(300);
    return p;
  }

  private void arrange() {
    Stop stop = session.stop().get();
    boolean shown = session.view().spaceShown().get();
    boolean viewing = picture.isFocused() || space.isFocused() || ledger.isFocused();
    boolean weighing = stop == Stop.RECEIVE && session.state().get() != null;
    boolean naming = stop == Stop.RECEIVE && session.tableImport().table().get() != null;
    columns.setVisible(naming);
    ledger.setVisible(weighing && !naming && !session.view().viewersShown().get());
    boolean both = stop == Stop.LEVEL && !session.view().pictureAlone().get();
    picture.setVisible((!shown || both) && !ledger.isVisible() && !naming);
    space.setVisible((shown || both) && !ledger.isVisible() && !naming);
    viewers.sideBySide(both ? List.of(picture, space) : List.of());
    // The viewers never leave the window, so that neither focus nor drawing is lost.
    if (stop != Stop.DISPATCH) {
      split.getItems().remove(board);
    } else if (!split.getItems().contains(board())) {
      split.getItems().add(board());
      split.setDividerPositions(BOARD_BELOW);
    }
    if (stop == Stop.PROOF && graph == null) {
      graph = new DriftGraph(session);
    }
    if (stop == Stop.VET && errors == null) {
      errors = new VetGraph(session);
    }
    boolean table = stop == Stop.VET && session.view().tableShown().get();
    if (!table) {
      split.getItems().remove(trackers);
    } else if (!split.getItems().contains(trackers())) {
      split.getItems().add(trackers());
      split.setDividerPositions(TABLE_BELOW);
    }
    over(stop == Stop.PROOF ? graph : stop == Stop.VET ? errors : null);
    frame.setRight(naming ? columnsDesk() : desks.computeIfAbsent(stop, s -> scroll(desk(s))));
    if (viewing) {
      (ledger.isVisible() ? ledger : shown ? space : picture).requestFocus();
    }
    picture.redraw();
    space.redraw();
  }

  /** The stop's graph lies over the ladder, on one time axis with it. */
  private void over(Node wanted) {
    if (!foot.getChildren().contains(wanted)) {
      foot.getChildren().removeIf(n -> n == graph || n == errors);
      if (wanted != null) {
        foot.getChildren().add(0, wanted);
      }
    }
  }

  private TrackerTable trackers() {
    if (trackers == null) {
      trackers = new TrackerTable(session);
    }
    return trackers;
  }

  private ScrollPane columnsDesk() {
    if (columnsDesk == null) {
      columnsDesk = scroll(new TableImportDesk(session));
    }
    return columnsDesk;
  }

  private DispatchBoard board() {
    if (board == null) {
      board = new DispatchBoard(session);
    }
    return board;
  }

  private Desk desk(Stop stop) {
    return switch (stop) {
      case RECEIVE -> new ReceiveDesk(session);
      case VET -> new VetDesk(session);
      case DISPATCH -> new DispatchDesk(session);
      case PROOF -> new ProofDesk(session);
      case LEVEL -> new LevelDesk(session);
      case PLATE -> throw new IllegalStateException(stop + " is not built");
    };
  }

  private void words() {
    boolean none = session.state().get() == null;
    empty.setVisible(none);
    if (!session.problem().get().isEmpty()) {
      empty.setText(
          session.problem().get() + ".\n\nNothing was changed. Mend the file, or drop another.");
    } else if (session.loading().get()) {
      empty.setText("Reading…");
    } else {
      empty.setText(
          "Drop a project here, or everything that came for one shot: the camera and points (USD,"
              + " FBX, Alembic, glTF or tables), 2D tracks, plates, lens, and the log somebody"
              + " wrote. A whole folder will do; what a file is shows in its content.\n\n"
              + "Ctrl+O opens files. './flarvo demo' shows a whole shot."
              + recent());
    }
  }

  private String recent() {
    List<Path> list = session.autosave().recent();
    if (list.isEmpty()) {
      return "";
    }
    StringBuilder s = new StringBuilder("\n\nCtrl+K opens a recent project:");
    list.stream().limit(5).forEach(p -> s.append("\n  ").append(shortName(p)));
    return s.toString();
  }

  private static String shortName(Path p) {
    Path folder = p.getParent();
    return (folder == null ? "" : folder.getFileName() + "/") + p.getFileName();
  }

  private void drop() {
    root.setOnDragOver(
        e -> {
          if (e.getDragboard().hasFiles()) {
            e.acceptTransferModes(TransferMode.COPY);
          }
          e.consume();
        });
    root.setOnDragDropped(
        e -> {
          List<Path> files = e.getDragboard().getFiles().stream().map(File::toPath).toList();
          if (!files.isEmpty()) {
            session.stop().set(Stop.RECEIVE);
            session.open(files);
          }
          e.setDropCompleted(!files.isEmpty());
          e.consume();
        });
  }

  void chooseFiles() {
    FileChooser c = new FileChooser();
    c.setTitle("Open a project, or the files of a shot");
    List<File> files = c.showOpenMultipleDialog(root.getScene().getWindow());
    if (files != null && !files.isEmpty()) {
      session.open(files.stream().map(File::toPath).toList());
    }
  }

  void saveAs() {
    FileChooser c = new FileChooser();
    c.setTitle("Save the project as");
    c.setInitialFileName("project.json");
    File f = c.showSaveDialog(root.getScene().getWindow());
    if (f != null) {
      session.saveAs(f.toPath());
    }
  }

  void save() {
    if (session.hasProject()) {
      session.save();
    } else {
      saveAs();
    }
  }

  void findMissing() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle("Folder that holds the missing files");
    File f = c.showDialog(root.getScene().getWindow());
    if (f != null) {
      session.relink(f.toPath());
    }
  }

  void copyDiary() {
    if (texts.diary().isEmpty()) {
      session.message().set("There is no diary yet");
      return;
    }
    ClipboardContent c = new ClipboardContent();
    c.putString(texts.diary().get());
    Clipboard.getSystemClipboard().setContent(c);
    session.message().set("The diary was copied as text");
  }

  /** Asks where to, then saves it as text. */
  private void saveText(String what, Optional<String> text) {
    if (text.isEmpty()) {
      session.message().set("There is no " + what + " yet");
      return;
    }
    FileChooser c = new FileChooser();
    c.setTitle("Save the " + what + " as text");
    c.setInitialFileName(session.state().get().shot().name() + "_" + what + ".txt");
    File f = c.showSaveDialog(root.getScene().getWindow());
    if (f != null) {
      texts.save(what, text.get(), f.toPath());
    }
  }

  /** Opens the shot's diary, as Ctrl+D does. */
  public void openDiary() {
    diary.open();
  }

  /** Opens the finder, as Ctrl+K does. */
  public void openFinder() {
    find();
  }

  void find() {
    finder.open();
  }

  /** Text that was copied elsewhere comes in as a table. */
  void paste() {
    Clipboard c = Clipboard.getSystemClipboard();
    if (c.hasFiles()) {
      session.open(c.getFiles().stream().map(File::toPath).toList());
    } else if (c.hasString()) {
      session.tableImport().paste(c.getString());
    } else {
      session.message().set("The clipboard holds neither files nor text");
    }
  }

  /** The picture or space as it stands, as an image. */
  void copyPicture() {
    ClipboardContent c = new ClipboardContent();
    c.putImage((session.view().spaceShown().get() ? space : picture).snapshot(null, null));
    Clipboard.getSystemClipboard().setContent(c);
    session.message().set("The picture was copied as an image");
  }

  void copyDeliveries() {
    ClipboardContent c = new ClipboardContent();
    c.putString(board().asText());
    Clipboard.getSystemClipboard().setContent(c);
    session.message().set("The deliveries were copied as text");
  }

  void frameSelection() {
    if (space.isVisible()) {
      space.frameSelection();
    }
    if (picture.isVisible()) {
      picture.frameSelection();
    }
  }

  void go(Stop stop) {
    if (stop.isBuilt()) {
      session.stop().set(stop);
    } else {
      session.message().set(stop.needs());
    }
  }

  DiaryCard diary() {
    return diary;
  }

  Finder finder() {
    return finder;
  }

  KeysCard keysCard() {
    return keys;
  }

  void installKeys(Scene scene) {
    new WindowKeys(this, session).install(scene);
  }

  private List<Action> actions() {
    List<Action> list = new ArrayList<>();
    for (Stop s : Stop.values()) {
      if (s.isBuilt()) {
        list.add(new Action("Go to " + s.title(), Integer.toString(s.number()), () -> go(s)));
      }
    }
    list.add(new Action("Send all deliveries", "Ctrl+Enter", session.sending()::sendAll));
    list.add(new Action("Play or stop", "Space", () -> Transport.toggle(session.playhead())));
    list.add(
        new Action(
            "Change between picture and space",
            "Tab",
            () -> session.view().spaceShown().set(!session.view().spaceShown().get())));
    list.add(
        new Action(
            "Table of trackers",
            "T",
            () -> {
              go(Stop.VET);
              session.view().tableShown().set(!session.view().tableShown().get());
            }));
    list.add(
        new Action(
            "Leave out the selected trackers",
            "Delete",
            () -> session.vet().cullByHand(java.util.Set.copyOf(session.selection()))));
    list.add(
        new Action(
            "Bring back all trackers",
            "",
            () -> session.vet().restore(session.vet().vetting().culled())));
    list.add(new Action("Take the solve as it came", "", session.vet()::revertSolve));
    LevelActions.add(list, session);
    list.add(new Action("Frame the selection", "F", this::frameSelection));
    list.add(new Action("Whole picture", "", picture::fit));
    list.add(new Action("Copy the picture as an image", "Ctrl+C", this::copyPicture));
    list.add(new Action("Copy the deliveries as text", "", this::copyDeliveries));
    list.add(new Action("Undo", "Ctrl+Z", session::undo));
    list.add(new Action("Redo", "Ctrl+Shift+Z", session::redo));
    list.add(new Action("Save the project", "Ctrl+S", this::save));
    list.add(new Action("Save the project as", "Ctrl+Shift+S", this::saveAs));
    list.add(new Action("Take all proposals of the ledger", "Ctrl+R", session::takeProposals));
    list.add(new Action("Paste a table", "Ctrl+V", this::paste));
    for (Path t : session.tables()) {
      list.add(
          new Action("Columns of " + t.getFileName(), "", () -> session.tableImport().open(t)));
    }
    list.add(new Action("Copy the ledger as text", "", ledger::copy));
    list.add(new Action("Copy the diary as text", "", this::copyDiary));
    list.add(new Action("Save the diary as text", "", () -> saveText("diary", texts.diary())));
    list.add(new Action("Save the ledger as text", "", () -> saveText("ledger", texts.ledger())));
    list.add(new Action("Open the diary", "Ctrl+D", diary::open));
    if (!session.missing().isEmpty()) {
      list.add(new Action("Find missing files", "", this::findMissing));
    }
    for (Path p : session.autosave().recent()) {
      list.add(new Action("Open recent " + shortName(p), "", () -> session.open(List.of(p))));
    }
    session
        .project()
        .ifPresent(
            p ->
                p.shots()
                    .forEach(
                        s ->
                            list.add(
                                new Action(
                                    "Shot " + s.name(), "", () -> session.openShot(s.name())))));
    list.add(new Action("Open files", "Ctrl+O", this::chooseFiles));
    list.add(
        new Action(
            "Change between dark and light",
            "Ctrl+T",
            () -> session.view().theme().set(session.view().theme().get().other())));
    if (session.state().get() != null) {
      for (Delivery d : session.state().get().deliveries()) {
        list.add(new Action("Delivery " + d.name(), "", () -> session.chosen().set(d)));
        list.add(new Action("Send " + d.name(), "", () -> session.sending().send(d)));
      }
      session.state().get().shot().trackers().stream()
          .flatMap(t -> t.names().stream())
          .forEach(n -> list.add(new Action("Tracker " + n, "", () -> select(n))));
    }
    return list;
  }

  private void select(String tracker) {
    session.selection().clear();
    session.choose(tracker, false);
  }
}
