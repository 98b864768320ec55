package flarvo.desktop.window;

import flarvo.desktop.state.Session;
import java.io.File;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.scene.Node;
import javafx.stage.DirectoryChooser;
import javafx.stage.FileChooser;
import javafx.stage.Window;

/** Asks for files and folders, and does what they were asked for. */
final class FileDialogs {

  private final Session session;
  private final Node owner;
  private final TextFiles texts;

  FileDialogs(Session session, Node owner, TextFiles texts) {
    this.session = session;
    this.owner = owner;
    this.texts = texts;
  }

  private Window window() {
    return owner.getScene().getWindow();
  }

  void open() {
    FileChooser c = new FileChooser();
    c.setTitle("Open a project, or the files of a shot");
    List<File> files = c.showOpenMultipleDialog(window());
    if (files != null && !files.isEmpty()) {
      session.project().open(files.stream().map(File::toPath).toList());
    }
  }

  void openFolder() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle("Open the folder of a shot");
    File f = c.showDialog(window());
    if (f != null) {
      session.project().open(List.of(f.toPath()));
    }
  }

  void findShots() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle("Folder that holds the shots");
    File f = c.showDialog(window());
    if (f != null) {
      session.newShots().search(List.of(f.toPath()), Optional.empty());
    }
  }

  void save() {
    if (session.project().hasProject()) {
      session.project().save();
    } else {
      saveAs();
    }
  }

  /** Saves, where nothing fails and the user names a file, and then does something. */
  void save(Runnable then) {
    if (session.project().hasProject()) {
      session.project().save(then);
    } else {
      saveAs(then);
    }
  }

  void saveAs() {
    saveAs(() -> {});
  }

  private void saveAs(Runnable then) {
    FileChooser c = new FileChooser();
    c.setTitle("Save the project as");
    c.setInitialFileName("project.json");
    File f = c.showSaveDialog(window());
    if (f != null) {
      session.project().saveAs(f.toPath(), then);
    }
  }

  void otherVersion() {
    FileChooser c = new FileChooser();
    c.setTitle("Another version of the solve; the decisions are replayed on it");
    File f = c.showOpenDialog(window());
    if (f != null) {
      session.incoming().receive(f.toPath());
    }
  }

  void findMissing() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle("Folder that holds the missing files");
    File f = c.showDialog(window());
    if (f != null) {
      session.project().relink(f.toPath());
    }
  }

  /** Asks where to, then saves what helps to find a fault. */
  void saveReport() {
    FileChooser c = new FileChooser();
    c.setTitle("Save a problem report");
    c.setInitialFileName("flarvo_problem_report.txt");
    File f = c.showSaveDialog(window());
    if (f != null) {
      texts.save("problem report", new ProblemReport(session).text(), f.toPath());
    }
  }

  /** Asks where to, then saves it as text. */
  void saveText(String what, Optional<String> text) {
    if (text.isEmpty()) {
      session.message().set("There is no " + what + " yet");
      return;
    }
    FileChooser c = new FileChooser();
    c.setTitle("Save the " + what + " as text");
    c.setInitialFileName(session.state().get().name() + "_" + what + ".txt");
    File f = c.showSaveDialog(window());
    if (f != null) {
      Path to = f.toPath();
      texts.save(what, text.get(), to);
    }
  }
}
