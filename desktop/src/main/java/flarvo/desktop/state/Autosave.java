package flarvo.desktop.state;

import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.project.ProjectFile;
import flarvo.project.RecentProjects;
import flarvo.project.RecoveredWork;
import flarvo.project.Recovery;
import flarvo.project.UserFolder;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/**
 * Keeps a copy of unsaved work, offers it back after a crash, and remembers recent projects.
 *
 * <p>Edits are counted. What was saved or kept is known by the number of the newest edit that is in
 * it, so that an edit made meanwhile stays unsaved. The first edit that is not kept starts a wait;
 * edits that follow do not prolong it.
 */
public final class Autosave {

  private final ProjectStore store;
  private final Jobs jobs;
  private final Consumer<String> say;
  private final Consumer<Runnable> soon;
  private final Recovery recovery = new Recovery(UserFolder.data());
  private final RecentProjects recentFile = new RecentProjects(UserFolder.data());
  private final ReadOnlyObjectWrapper<RecoveredWork> recovered = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<List<RecoveredWork>> unnamed =
      new ReadOnlyObjectWrapper<>(List.of());
  private final ReadOnlyObjectWrapper<List<Path>> recent = new ReadOnlyObjectWrapper<>(List.of());
  private final List<RecoveredWork> offered = new ArrayList<>();

  /** Copies that were taken back and not saved since; they stay until that. */
  private final List<RecoveredWork> taken = new ArrayList<>();

  private Path place; // where the open shot is kept while it has no project; null otherwise
  private long edits;
  private long saved;
  private long kept;
  private boolean waiting;

  /**
   * @param soon runs something on the window's thread a little later
   */
  Autosave(ProjectStore store, Jobs jobs, Consumer<String> say, Consumer<Runnable> soon) {
    this.store = store;
    this.jobs = jobs;
    this.say = say;
    this.soon = soon;
    jobs.run(Lane.LOOK, "Reading recent projects", p -> recentFile.list(), recent::set, say);
    jobs.run(
        Lane.LOOK,
        "Looking for unsaved shots",
        p -> recovery.recoveredUnnamed(),
        unnamed::set,
        say);
  }

  /** Number of the newest edit. */
  long edits() {
    return edits;
  }

  public boolean isUnsaved() {
    return edits != saved;
  }

  void edited() {
    edits++;
    if (!waiting) {
      waiting = true;
      soon.accept(
          () -> {
            waiting = false;
            flush();
          });
    }
  }

  /** Has unsaved work written now, before something else takes its place. */
  void flush() {
    if (edits == saved || edits == kept) {
      return;
    }
    Optional<ProjectFile> now = store.stored(this::place);
    long edit = edits;
    kept = edit;
    now.ifPresent(
        p ->
            jobs.run(
                Lane.KEEP,
                "Autosaving",
                work -> {
                  recovery.keep(p, edit);
                  return "";
                },
                ok -> {},
                why -> {
                  kept = Math.min(kept, edit - 1); // tried again with the next edit
                  say.accept(why);
                }));
  }

  /** Where a shot without a project is kept. */
  private Path place() {
    if (place == null) {
      place = recovery.unnamed();
    }
    return place;
  }

  /** Whether a project is a shot that never had one. */
  boolean isUnnamed(Path project) {
    return recovery.isUnnamed(project);
  }

  private record Found(List<RecoveredWork> work, List<Path> recent) {}

  /**
   * Another shot is shown.
   *
   * @param same whether it is of the project that was open, whose edits are not saved by that
   */
  void opened(boolean same) {
    if (!same) {
      saved = edits;
      kept = edits;
      place = null;
      taken.clear();
      offer(List.of());
    }
    Optional<ProjectFile> p = store.file();
    if (p.isEmpty() || same) {
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
            offer(found.work().stream().filter(w -> !taken.contains(w)).toList());
          }
        },
        say);
  }

  private void offer(List<RecoveredWork> work) {
    offered.clear();
    offered.addAll(work);
    recovered.set(work.isEmpty() ? null : work.get(0));
  }

  /** What is to be removed once edits are saved; for the thread that saves. */
  Runnable savedUpTo(Path file, long edit) {
    List<RecoveredWork> done = List.copyOf(taken);
    Path was = place;
    return () -> {
      recovery.forget(file, edit);
      if (was != null) {
        recovery.forget(was, edit);
      }
      done.forEach(recovery::discard);
    };
  }

  void saved(Path file, long edit) {
    saved = edit;
    kept = Math.max(kept, edit);
    taken.clear();
    place = null;
    if (isUnsaved()) {
      kept = saved; // the copy of what came after lies under the old name, or nowhere
      flush();
    }
    jobs.run(
        Lane.LOOK,
        "Remembering the project",
        work -> {
          recentFile.add(file);
          return recentFile.list();
        },
        recent::set,
        say);
  }

  /** Work that was not saved before the program ended, the newest of it; null where none is. */
  public ReadOnlyObjectProperty<RecoveredWork> recovered() {
    return recovered.getReadOnlyProperty();
  }

  /** How many copies wait for an answer. */
  public int offers() {
    return offered.size();
  }

  /** Shots that never were in a project, left by earlier runs. */
  public ReadOnlyObjectProperty<List<RecoveredWork>> unnamed() {
    return unnamed.getReadOnlyProperty();
  }

  public void restore() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      restore(l);
    }
  }

  /** Opens work that was left behind; its copy stays until it is saved or discarded. */
  public void restore(RecoveredWork work) {
    store.restore(
        work.project(),
        () -> {
          taken.add(work);
          edits++; // what is shown is saved nowhere
          flush();
          unnamed.set(unnamed.get().stream().filter(w -> !w.equals(work)).toList());
          say.accept("Unsaved work restored; save to keep it");
        });
  }

  public void discard() {
    RecoveredWork l = recovered.get();
    if (l != null) {
      discard(l);
    }
  }

  /** Deletes the copy of work that was left behind. */
  public void discard(RecoveredWork work) {
    offer(offered.stream().filter(w -> !w.equals(work)).toList());
    unnamed.set(unnamed.get().stream().filter(w -> !w.equals(work)).toList());
    jobs.run(
        Lane.KEEP,
        "Discarding unsaved work",
        p -> {
          recovery.discard(work);
          return "";
        },
        ok -> say.accept("Unsaved work discarded"),
        say);
  }

  /** Drops what is not saved, on the user's word. */
  public void drop() {
    long edit = edits;
    saved = edit;
    Optional<Path> file = store.stored(this::place).map(ProjectFile::file);
    List<RecoveredWork> done = List.copyOf(taken);
    jobs.run(
        Lane.KEEP,
        "Discarding unsaved work",
        p -> {
          file.ifPresent(f -> recovery.forget(f, edit));
          done.forEach(recovery::discard);
          return "";
        },
        ok -> {},
        say);
  }

  /** Projects that were opened lately, newest first. */
  public ReadOnlyObjectProperty<List<Path>> recent() {
    return recent.getReadOnlyProperty();
  }

  /** What is unsaved when the window closes stays kept and is offered next time. */
  void close() {
    flush();
  }

  /** Nothing is written any more. */
  void closed() {
    recovery.close();
  }
}
