package flarvo.desktop.session;

import flarvo.project.ProjectFile;
import flarvo.project.RecentProjects;
import flarvo.project.RecoveredWork;
import flarvo.project.Recovery;
import flarvo.project.UserFolder;
import flarvo.report.InputError;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.animation.PauseTransition;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Duration;

/** Keeps a copy of unsaved work, offers it back after a crash, and remembers recent projects. */
public final class Autosave {

  /** From an edit to its copy; more edits meanwhile go into the same copy. */
  private static final Duration DELAY = Duration.seconds(2);

  private final Session session;
  private final Recovery recovery = new Recovery(UserFolder.path());
  private final RecentProjects recent = new RecentProjects(UserFolder.path());
  private final ReadOnlyObjectWrapper<RecoveredWork> recovered = new ReadOnlyObjectWrapper<>();
  private final PauseTransition soon = new PauseTransition(DELAY);
  private boolean unsaved;

  Autosave(Session session) {
    this.session = session;
    soon.setOnFinished(e -> keep());
  }

  void edited() {
    unsaved = true;
    soon.playFromStart();
  }

  private void keep() {
    Optional<ProjectFile> now = session.stored();
    if (now.isPresent() && unsaved) {
      session
          .jobs()
          .run(
              "Keeping unsaved work",
              p -> {
                recovery.keep(now.get());
                return "";
              },
              ok -> {},
              why -> session.message().set(why));
    }
  }

  void opened() {
    unsaved = false;
    recovered.set(null);
    Optional<ProjectFile> p = session.project();
    if (p.isEmpty()) {
      return;
    }
    Path file = p.get().file();
    session
        .jobs()
        .run(
            "Looking for unsaved work",
            work -> {
              recent.add(file);
              return recovery.recovered(p.get());
            },
            found -> recovered.set(found.orElse(null)),
            why -> session.message().set(why));
  }

  void saved(Path file) {
    unsaved = false;
    recovered.set(null);
    forget(file);
    session
        .jobs()
        .run(
            "Remembering",
            work -> {
              recent.add(file);
              return "";
            },
            ok -> {},
            why -> session.message().set(why));
  }

  private void forget(Path file) {
    try {
      recovery.forget(file);
    } catch (InputError e) {
      session.message().set(e.getMessage());
    }
  }

  /** Work that a crash recovered behind; null where there is none. */
  public ReadOnlyObjectProperty<RecoveredWork> recovered() {
    return recovered.getReadOnlyProperty();
  }

  public void bringBack() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      session.open(l.project().file(), l::project);
      session.message().set("Unsaved work is back; save to keep it");
    }
  }

  public void throwAway() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      forget(l.project().file());
      recovered.set(null);
      session.message().set("The unsaved work was thrown away");
    }
  }

  public List<Path> recent() {
    return recent.list();
  }

  /** What is unsaved when the window closes stays kept and is offered next time. */
  void close() {
    soon.stop();
    Optional<ProjectFile> now = session.stored();
    if (unsaved && now.isPresent()) {
      recovery.keep(now.get());
    }
  }
}
