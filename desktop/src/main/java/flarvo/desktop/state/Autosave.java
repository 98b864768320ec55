package flarvo.desktop.state;

import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.project.ProjectFile;
import flarvo.project.RecentProjects;
import flarvo.project.RecoveredWork;
import flarvo.project.Recovery;
import flarvo.project.UserFolder;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Duration;

/** Keeps a copy of unsaved work, offers it back after a crash, and remembers recent projects. */
public final class Autosave {

  /** From an edit to its copy; more edits meanwhile go into the same copy. */
  private static final Duration DELAY = Duration.seconds(2);

  private final ProjectStore store;
  private final Jobs jobs;
  private final Consumer<String> say;
  private final Recovery recovery = new Recovery(UserFolder.path());
  private final RecentProjects recentFile = new RecentProjects(UserFolder.path());
  private final ReadOnlyObjectWrapper<RecoveredWork> recovered = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<List<Path>> recent = new ReadOnlyObjectWrapper<>(List.of());
  private final PauseTransition soon = new PauseTransition(DELAY);
  private boolean unsaved;

  Autosave(ProjectStore store, Jobs jobs, Consumer<String> say) {
    this.store = store;
    this.jobs = jobs;
    this.say = say;
    soon.setOnFinished(e -> keep());
    jobs.run(Lane.KEEP, "Reading recent projects", p -> recentFile.list(), recent::set, say);
  }

  void edited() {
    unsaved = true;
    soon.playFromStart();
  }

  private void keep() {
    Optional<ProjectFile> now = store.stored();
    if (now.isPresent() && unsaved) {
      jobs.run(
          Lane.KEEP,
          "Autosaving",
          p -> {
            recovery.keep(now.get());
            return "";
          },
          ok -> {},
          say);
    }
  }

  private record Found(Optional<RecoveredWork> work, List<Path> recent) {}

  void opened() {
    unsaved = false;
    recovered.set(null);
    Optional<ProjectFile> p = store.file();
    if (p.isEmpty()) {
      return;
    }
    Path file = p.get().file();
    jobs.run(
        Lane.KEEP,
        "Looking for unsaved work",
        work -> {
          recentFile.add(file);
          return new Found(recovery.recovered(p.get()), recentFile.list());
        },
        found -> {
          recent.set(found.recent());
          if (store.file().map(f -> f.file().equals(file)).orElse(false)) {
            recovered.set(found.work().orElse(null));
          }
        },
        say);
  }

  void saved(Path file) {
    unsaved = false;
    recovered.set(null);
    jobs.run(
        Lane.KEEP,
        "Remembering the project",
        work -> {
          recovery.forget(file);
          recentFile.add(file);
          return recentFile.list();
        },
        recent::set,
        say);
  }

  /** Work that was not saved before the program ended; null where there is none. */
  public ReadOnlyObjectProperty<RecoveredWork> recovered() {
    return recovered.getReadOnlyProperty();
  }

  public void restore() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      store.open(l.project().file(), l::project);
      say.accept("Unsaved work restored; save to keep it");
    }
  }

  public void discard() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      recovered.set(null);
      jobs.run(
          Lane.KEEP,
          "Discarding unsaved work",
          work -> {
            recovery.forget(l.project().file());
            return "";
          },
          ok -> say.accept("Unsaved work discarded"),
          say);
    }
  }

  /** Projects that were opened lately, newest first. */
  public ReadOnlyObjectProperty<List<Path>> recent() {
    return recent.getReadOnlyProperty();
  }

  /** What is unsaved when the window closes stays kept and is offered next time. */
  void close() {
    soon.stop();
    Optional<ProjectFile> now = store.stored();
    if (unsaved && now.isPresent()) {
      recovery.keep(now.get());
    }
  }
}
