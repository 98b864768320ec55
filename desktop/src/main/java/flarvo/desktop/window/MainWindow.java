package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.CopiesText;
import flarvo.desktop.stop.StopModule;
import flarvo.desktop.stop.StopView;
import flarvo.desktop.stop.TextCopy;
import flarvo.desktop.view.PictureView;
import flarvo.desktop.view.SpaceView;
import flarvo.desktop.view.ViewKind;
import java.io.File;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import javafx.geometry.Orientation;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.SplitPane;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;

/**
 * The window: line, manifest, centre, desk, ladder and status, and what lies over them. It lays out
 * what the stops give it, and knows none of them.
 */
public final class MainWindow {

  /** Share of the height that the picture keeps above what a stop puts below it. */
  private static final double PICTURE_SHARE = 0.56;

  private final Session session;
  private final List<StopModule> stops;
  private final StackPane root = new StackPane();
  private final BorderPane frame = new BorderPane();
  private final BorderPane work = new BorderPane();
  private final PictureView picture;
  private final SpaceView space;
  private final Viewers viewers = new Viewers();
  private final SplitPane split = new SplitPane(viewers);
  private final VBox foot = new VBox();
  private final Map<Node, ScrollPane> desks = new HashMap<>();
  private final Set<StopView> known = new HashSet<>();
  private final Finder finder;
  private final KeysCard keys;
  private final DiaryCard diary;
  private final StatusBar status;
  private final ClosingCard closing;
  private final TextFiles texts;
  private final WindowActions actions;
  private final Optional<Runnable> demo;
  private StopView shown;
  private Node centre;
  private Node graph;

  /**
   * @param stops in the order of the line; the first is shown first
   * @param demo opens the demo; empty where it did not come along
   */
  public MainWindow(Session session, List<StopModule> stops, Optional<Runnable> demo) {
    this.session = session;
    this.stops = List.copyOf(stops);
    this.demo = demo;
    picture = new PictureView(session);
    space = new SpaceView(session);
    picture.setFocusTraversable(true);
    space.setFocusTraversable(true);
    texts = new TextFiles(session);
    FileDialogs files = new FileDialogs(session, root, texts);
    closing = new ClosingCard(session, files);
    actions = new WindowActions(this, session, files, texts);
    finder = new Finder(this::findable, session.message()::set);
    keys = new KeysCard();
    diary = new DiaryCard(session);
    VBox banners = new VBox(4, new RecoveredWorkBanner(session), new ArrivalBanner(session));
    banners.setMaxSize(Region.USE_PREF_SIZE, Region.USE_PREF_SIZE);
    StackPane.setAlignment(banners, Pos.TOP_CENTER);
    viewers.getChildren().addAll(picture, space, new EmptyWindow(session, files, demo), banners);
    // What is hidden in it must not hold the divider.
    viewers.setMinSize(120, 120);
    split.setOrientation(Orientation.VERTICAL);
    foot.getChildren().addAll(new Transport(session), new LadderView(session));
    foot.getStyleClass().add("foot");
    work.setLeft(new ManifestPane(session));
    work.setCenter(split);
    work.setBottom(foot);
    work.setMinSize(Region.USE_COMPUTED_SIZE, 0);
    frame.setTop(new LineBar(session, this.stops, this::openFinder, this::openKeys));
    frame.setCenter(work);
    status = new StatusBar(session);
    frame.setBottom(status);
    frame.getStyleClass().add("window");
    root.getChildren().addAll(frame, finder, keys, diary, new NewShotsCard(session), closing);
    if (stopOf(session.stop().get()).isEmpty()) {
      session.stop().set(stops.get(0).id());
    }
    session.stop().addListener((o, a, b) -> show());
    session.view().spaceShown().addListener((o, a, b) -> arrange());
    drop();
    show();
  }

  public StackPane root() {
    return root;
  }

  public PictureView picture() {
    return picture;
  }

  public SpaceView space() {
    return space;
  }

  /**
   * Whether the window may close at once; else it asks what becomes of unsaved work.
   *
   * @param then closes it, once that is answered
   */
  public boolean mayClose(Runnable then) {
    return closing.ask(then);
  }

  /** The window is closed: plates are no longer decoded, and its clock stops. */
  public void close() {
    status.close();
    picture.cache().close();
  }

  /** In the order of the line. */
  public List<StopModule> stops() {
    return stops;
  }

  /** The stop of a kind; for what drives the window from outside. */
  public <T extends StopModule> T stop(Class<T> kind) {
    return stops.stream().filter(kind::isInstance).map(kind::cast).findFirst().orElseThrow();
  }

  private Optional<StopModule> stopOf(String id) {
    return stops.stream().filter(s -> s.id().equals(id)).findFirst();
  }

  /** The stop that is shown. */
  public StopModule current() {
    return stopOf(session.stop().get()).orElse(stops.get(0));
  }

  Optional<Runnable> demo() {
    return demo;
  }

  private void show() {
    StopModule stop = current();
    session.store().want(stop.slots());
    StopView next = stop.view();
    if (next != shown) {
      if (shown != null) {
        shown.hidden();
      }
      shown = next;
      if (known.add(next)) {
        next.onRearranged(
            () -> {
              if (shown == next) {
                arrange();
              }
            });
      }
      next.shown();
    }
    arrange();
  }

  private void arrange() {
    boolean viewing =
        picture.isFocused() || space.isFocused() || centre != null && centre.isFocused();
    Node wanted = shown.centre().orElse(null);
    if (wanted != centre) {
      viewers.getChildren().remove(centre);
      if (wanted != null) {
        viewers.getChildren().add(2, wanted);
      }
      centre = wanted;
    }
    boolean outside = session.view().spaceShown().get();
    boolean both = shown.showsBoth() && centre == null;
    picture.setVisible(centre == null && (!outside || both));
    space.setVisible(centre == null && (outside || both));
    if (viewers.together(both ? List.of(picture, space) : List.of())) {
      space.reframe();
    }
    below(shown.below().orElse(null));
    graph(shown.graph().orElse(null));
    frame.setRight(desks.computeIfAbsent(shown.desk(), MainWindow::scroll));
    picture.use(shown.layers(ViewKind.PICTURE), shown.tools(ViewKind.PICTURE));
    space.use(shown.layers(ViewKind.SPACE), shown.tools(ViewKind.SPACE));
    if (viewing) {
      (centre != null ? centre : outside ? space : picture).requestFocus();
    }
  }

  /** The viewers never leave the window, so that neither focus nor drawing is lost. */
  private void below(Node wanted) {
    split.getItems().removeIf(n -> n != viewers && n != wanted);
    if (wanted != null && !split.getItems().contains(wanted)) {
      split.getItems().add(wanted);
      split.setDividerPositions(PICTURE_SHARE);
    }
  }

  /** The stop's graph lies over the ladder, on one time axis with it. */
  private void graph(Node wanted) {
    if (wanted != graph) {
      foot.getChildren().remove(graph);
      if (wanted != null) {
        foot.getChildren().add(0, wanted);
      }
      graph = wanted;
    }
  }

  private static ScrollPane scroll(Node desk) {
    ScrollPane p = new ScrollPane(desk);
    p.setFitToWidth(true);
    p.setHbarPolicy(ScrollPane.ScrollBarPolicy.NEVER);
    p.getStyleClass().addAll("desk-scroll", "panel");
    p.setPrefWidth(320);
    p.setMinWidth(300);
    return p;
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
            session.stop().set(stops.get(0).id());
            session.project().open(files);
          }
          e.setDropCompleted(!files.isEmpty());
          e.consume();
        });
  }

  /** Opens the shot's diary, as Ctrl+D does. */
  public void openDiary() {
    diary.open();
  }

  /** Opens the finder, as Ctrl+K does. */
  public void openFinder() {
    finder.open();
  }

  /** Opens the key card of the shown stop, as the question mark does. */
  public void openKeys() {
    keys.open(everywhere(), current());
  }

  /** Closes the key card, as any key does. */
  public void closeKeys() {
    keys.close();
  }

  void copyDiary() {
    TextCopy.copy(session, "Diary", texts.diary().orElse(""));
  }

  /** What is worked in, where it can be text; else the picture. */
  void copy() {
    for (Node n = root.getScene().getFocusOwner(); n != null; n = n.getParent()) {
      if (n instanceof CopiesText c) {
        TextCopy.copy(session, c.copiedName(), c.asText());
        return;
      }
    }
    copyPicture();
  }

  /** The picture or space as it stands, as an image. */
  void copyPicture() {
    ClipboardContent c = new ClipboardContent();
    c.putImage((session.view().spaceShown().get() ? space : picture).snapshot(null, null));
    Clipboard.getSystemClipboard().setContent(c);
    session.message().set("The picture was copied as an image");
  }

  /** Files, or text that was copied elsewhere, which comes in as a table. */
  void paste() {
    Clipboard c = Clipboard.getSystemClipboard();
    if (c.hasFiles()) {
      session.project().open(c.getFiles().stream().map(File::toPath).toList());
    } else if (c.hasString()) {
      session.project().paste(c.getString());
    } else {
      session.message().set("The clipboard holds neither files nor text");
    }
  }

  void frameSelection() {
    if (space.isVisible()) {
      space.frameSelection();
    }
    if (picture.isVisible()) {
      picture.frameSelection();
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

  /** Lets go of what is armed, else of the selection. */
  void escape() {
    if (!current().escape()) {
      session.selection().clear();
    }
  }

  public void installKeys(Scene scene) {
    new WindowKeys(this, session).install(scene);
  }

  /** Whose keys count in every stop: the window's, and those of stops with Ctrl. */
  List<Action> everywhere() {
    List<Action> list = new ArrayList<>(actions.all());
    for (StopModule s : stops) {
      s.actions().stream()
          .filter(a -> a.keys().isPresent() && a.keys().get().shortcut())
          .forEach(list::add);
    }
    return list;
  }

  /** Every action and object by name, as they are now. */
  List<Action> findable() {
    List<Action> list = new ArrayList<>();
    for (StopModule s : stops) {
      list.addAll(s.actions());
    }
    list.addAll(actions.all());
    for (StopModule s : stops) {
      list.addAll(s.objects());
    }
    list.addAll(actions.objects());
    return list;
  }
}
