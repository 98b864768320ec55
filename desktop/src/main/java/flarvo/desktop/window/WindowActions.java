package flarvo.desktop.window;

import flarvo.desktop.action.Action;
import flarvo.desktop.action.Can;
import flarvo.desktop.action.Keys;
import flarvo.desktop.state.Playhead;
import flarvo.desktop.state.Session;
import flarvo.desktop.stop.StopModule;
import flarvo.project.Preferences;
import flarvo.project.ProjectShot;
import flarvo.project.UserFolder;
import flarvo.report.InputError;
import flarvo.scene.TrackerSet;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.scene.input.KeyCode;

/** What can be done in every stop. */
final class WindowActions {

  private final MainWindow window;
  private final Session session;
  private final FileDialogs files;
  private final TextFiles texts;

  WindowActions(MainWindow window, Session session, FileDialogs files, TextFiles texts) {
    this.window = window;
    this.session = session;
    this.files = files;
    this.texts = texts;
  }

  List<Action> all() {
    List<Action> list = new ArrayList<>();
    go(list);
    playback(list);
    view(list);
    edit(list);
    project(list);
    return list;
  }

  private void go(List<Action> list) {
    List<StopModule> stops = window.stops();
    for (int i = 0; i < stops.size(); i++) {
      StopModule s = stops.get(i);
      list.add(
          Action.of("go." + s.id(), "Go to " + s.title(), () -> session.stop().set(s.id()))
              .on(Keys.of(KeyCode.valueOf("DIGIT" + (i + 1)))));
    }
  }

  private void playback(List<Action> list) {
    Playhead head = session.playhead();
    list.add(
        Action.of("play", "Play or pause", () -> Transport.toggle(head))
            .called("playback", "pause")
            .on(Keys.of(KeyCode.SPACE)));
    list.add(
        Action.of("frame.back", "Previous frame", () -> head.step(-1)).on(Keys.of(KeyCode.LEFT)));
    list.add(Action.of("frame.on", "Next frame", () -> head.step(1)).on(Keys.of(KeyCode.RIGHT)));
    list.add(
        Action.of("frame.back10", "Ten frames back", () -> head.step(-10))
            .on(Keys.shift(KeyCode.LEFT)));
    list.add(
        Action.of("frame.on10", "Ten frames forward", () -> head.step(10))
            .on(Keys.shift(KeyCode.RIGHT)));
    list.add(
        Action.of("frame.first", "First frame", () -> head.goTo(head.range().first()))
            .on(Keys.of(KeyCode.HOME)));
    list.add(
        Action.of("frame.last", "Last frame", () -> head.goTo(head.range().last()))
            .on(Keys.of(KeyCode.END)));
    list.add(
        Action.of("in", "Set in point", head::setIn)
            .called("loop", "range")
            .on(Keys.of(KeyCode.OPEN_BRACKET)));
    list.add(
        Action.of("out", "Set out point", head::setOut)
            .called("loop", "range")
            .on(Keys.of(KeyCode.CLOSE_BRACKET)));
    list.add(Action.of("in-out.clear", "Clear in and out", head::clearInOut).called("loop"));
  }

  private void view(List<Action> list) {
    list.add(
        Action.of(
                "view.space",
                "Picture or Space",
                () -> session.view().spaceShown().set(!session.view().spaceShown().get()))
            .called("3D view", "viewer")
            .on(Keys.of(KeyCode.TAB)));
    list.add(
        Action.of("view.frame", "Frame the selection", window::frameSelection)
            .called("focus", "zoom to")
            .on(Keys.of(KeyCode.F)));
    list.add(
        Action.of("view.fit", "Fit the whole picture", window.picture()::fit)
            .called("zoom", "reset view"));
    list.add(
        Action.of(
                "view.theme",
                "Dark or light",
                () -> session.view().theme().set(session.view().theme().get().other()))
            .called("theme", "colours")
            .on(Keys.ctrl(KeyCode.T)));
  }

  private Can open() {
    return Can.when(session.isOpen(), "No shot open");
  }

  private void edit(List<Action> list) {
    list.add(
        Action.of("undo", "Undo", session::undo)
            .on(Keys.ctrl(KeyCode.Z))
            .when(() -> Can.when(session.undoTitle().isPresent(), "Nothing to undo")));
    list.add(
        Action.of("redo", "Redo", session::redo)
            .on(Keys.ctrlShift(KeyCode.Z))
            .when(() -> Can.when(session.redoTitle().isPresent(), "Nothing to redo")));
    list.add(Action.of("copy", "Copy", window::copy).on(Keys.ctrl(KeyCode.C)));
    list.add(
        Action.of("copy.picture", "Copy the picture as an image", window::copyPicture)
            .called("screenshot", "clipboard"));
    list.add(
        Action.of("paste", "Paste a table or copied files", window::paste)
            .called("clipboard", "columns")
            .on(Keys.ctrl(KeyCode.V)));
    list.add(Action.of("find", "Find", window::openFinder).on(Keys.ctrl(KeyCode.K)));
    list.add(
        Action.of("selection.clear", "Clear the selection", () -> session.selection().clear())
            .called("deselect"));
  }

  private void project(List<Action> list) {
    list.add(
        Action.of("open", "Open files", files::open)
            .called("load", "import")
            .on(Keys.ctrl(KeyCode.O)));
    list.add(Action.of("open.folder", "Open a folder", files::openFolder).called("load", "import"));
    list.add(
        Action.of("shots", "Receive many shots from a folder", files::findShots)
            .called("import", "shot list", "timeline", "editorial", "show"));
    window
        .demo()
        .ifPresent(
            d ->
                list.add(
                    Action.of("open.demo", "Open the demo", d)
                        .called("example", "sample", "tutorial")));
    list.add(
        Action.of("save", "Save the project", files::save)
            .on(Keys.ctrl(KeyCode.S))
            .when(this::open));
    list.add(
        Action.of("save-as", "Save the project as", files::saveAs)
            .on(Keys.ctrlShift(KeyCode.S))
            .when(this::open));
    list.add(
        Action.of("missing", "Find missing files", files::findMissing)
            .called("relink", "locate", "offline")
            .when(() -> Can.when(!session.project().missing().isEmpty(), "No files are missing")));
    list.add(
        Action.of("outside", "Read files outside a shot's folder", this::toggleOutside)
            .called("references", "sublayers", "textures", "preferences"));
    list.add(
        Action.of(
                "watch",
                "Watch the files of every shot, or of none (a board can say otherwise)",
                this::toggleWatch)
            .called("changed", "newer", "version", "incoming", "preferences"));
    list.add(
        Action.of("version", "Receive another version of the solve", files::otherVersion)
            .called("newer", "replay", "v002", "replace")
            .when(this::open));
    list.add(
        Action.of("report", "Save a problem report", files::saveReport)
            .called("bug", "crash", "log", "support"));
    list.add(
        Action.of("diary", "Open the diary", window::openDiary)
            .called("history", "log", "notes")
            .on(Keys.ctrl(KeyCode.D))
            .when(this::open));
    list.add(Action.of("diary.copy", "Copy the diary as text", window::copyDiary).when(this::open));
    list.add(
        Action.of(
                "diary.save",
                "Save the diary as text",
                () -> files.saveText("diary", texts.diary()))
            .when(this::open));
    list.add(
        Action.of(
                "ledger.save",
                "Save the ledger as text",
                () -> files.saveText("ledger", texts.ledger()))
            .when(() -> Can.when(texts.ledger().isPresent(), "There is no ledger yet")));
  }

  private void toggleOutside() {
    Path home = UserFolder.settings();
    Preferences now = Preferences.read(home);
    try {
      now.withReadOutside(!now.readOutside()).write(home);
      session
          .message()
          .set(
              now.readOutside()
                  ? "Files outside a shot's folder are no longer read"
                  : "Files outside a shot's folder are read now; open the shot again");
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
  }

  private void toggleWatch() {
    Path home = UserFolder.settings();
    Preferences now = Preferences.read(home);
    try {
      now.withWatchFiles(!now.watchFiles()).write(home);
      session
          .message()
          .set(
              now.watchFiles()
                  ? "Files of shots are no longer watched, except where a board says so"
                  : "Files of shots that change, or get newer, are offered from now on");
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
  }

  /** Projects, shots and trackers, as they are now. */
  List<Action> objects() {
    List<Action> list = new ArrayList<>();
    for (Path p : session.project().autosave().recent().get()) {
      list.add(
          Action.of(
                  "recent." + p,
                  "Open recent " + EmptyWindow.shortName(p),
                  () -> session.project().open(List.of(p)))
              .called("project"));
    }
    for (ProjectShot s : session.project().file().map(f -> f.shots()).orElse(List.of())) {
      list.add(
          Action.of(
              "shot." + s.name(), "Shot " + s.name(), () -> session.project().openShot(s.name())));
    }
    for (TrackerSet t : session.shot().get().trackers()) {
      for (String n : t.names()) {
        list.add(Action.of("tracker." + n, "Tracker " + n, () -> select(n)));
      }
    }
    frameTyped(list);
    return list;
  }

  private void frameTyped(List<Action> list) {
    if (session.isOpen()) {
      Playhead head = session.playhead();
      for (int f = head.range().first();
          f <= head.range().last() && head.range().count() <= MOST_FRAMES;
          f++) {
        int to = f;
        list.add(Action.of("frame." + f, "Frame " + f, () -> head.goTo(to)));
      }
    }
  }

  /** A longer shot's frames are typed into the frame field. */
  private static final int MOST_FRAMES = 2000;

  private void select(String tracker) {
    session.selection().clear();
    session.choose(tracker, false);
  }

  /** The action of a key, of the shown stop before the window's. */
  static Optional<Action> of(
      javafx.scene.input.KeyEvent e, List<Action> stop, List<Action> window) {
    return java.util.stream.Stream.concat(stop.stream(), window.stream())
        .filter(a -> a.keys().isPresent() && a.keys().get().matches(e))
        .findFirst();
  }
}
