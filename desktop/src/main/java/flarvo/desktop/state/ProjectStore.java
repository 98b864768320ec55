package flarvo.desktop.state;

import flarvo.convention.Dialects;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionLog;
import flarvo.decision.Replay;
import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.folder.ShotFinder;
import flarvo.format.Reach;
import flarvo.project.BoardShelf;
import flarvo.project.Diary;
import flarvo.project.MappingShelf;
import flarvo.project.Preferences;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectLock;
import flarvo.project.ProjectShot;
import flarvo.project.Relink;
import flarvo.project.UserFolder;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import javafx.application.Platform;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;

/** The project file and its shots: opening, saving, and what is missing. */
public final class ProjectStore {

  private final Jobs jobs;
  private final Supplier<Dialects> dialects;
  private final ShotStore store;
  private final ShotDiary diary;
  private final Consumer<String> say;
  private final MappingShelf shelf = new MappingShelf(UserFolder.settings());
  private final BoardShelf boards;
  private final BooleanProperty loading = new SimpleBooleanProperty();
  private final StringProperty problem = new SimpleStringProperty("");
  private final ReadOnlyObjectWrapper<ReceivedSet> waiting = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<String> pasted = new ReadOnlyObjectWrapper<>();
  private final Autosave autosave;
  private final SeenOnDisk seen = new SeenOnDisk();
  private final HeldProject held;
  private Consumer<Snapshot> opened = s -> {};
  private BiConsumer<List<Path>, ShotFinder.Found> several = (f, s) -> {};
  private ProjectFile project;
  private ProjectShot entry;

  /** What could not be opened because files are missing; the open shot is not touched by it. */
  private Lost lost;

  private record Lost(ProjectFile project, ProjectShot entry, List<String> files) {}

  ProjectStore(
      Jobs jobs,
      Supplier<Dialects> dialects,
      ShotStore store,
      ShotDiary diary,
      Consumer<String> say,
      Consumer<Runnable> soon) {
    this.jobs = jobs;
    this.dialects = dialects;
    this.boards = new BoardShelf(UserFolder.settings(), Dialects.shipped());
    this.store = store;
    this.diary = diary;
    this.say = say;
    held = new HeldProject(jobs, say);
    autosave = new Autosave(this, jobs, say, soon);
  }

  /** Told when another shot is shown, before views are. */
  void onOpened(Consumer<Snapshot> told) {
    opened = told;
  }

  /**
   * Opens a project file, or makes a shot out of scene files, tables and plates. Folders of several
   * shots are offered.
   */
  public void open(List<Path> files) {
    open(files, false);
  }

  /** Told of folders in which several shots were found. */
  void onSeveral(BiConsumer<List<Path>, ShotFinder.Found> told) {
    several = told;
  }

  /** Makes one shot out of folders, whatever they look like. */
  void openAsOne(List<Path> folders) {
    open(folders, true);
  }

  private void open(List<Path> files, boolean one) {
    load(
        "Opening " + files.get(0).getFileName(),
        p -> {
          if (files.size() == 1 && ShotLoader.isProject(files.get(0))) {
            seen.remember(files.get(0));
            return firstShot(ProjectFile.read(files.get(0)), p);
          }
          return ShotLoader.files(files, one, shelf::suggest, reach(), p);
        },
        o -> {
          if (o.found() != null) {
            several.accept(files, o.found());
          }
        });
  }

  /** Opens a project as a copy of it says, under its own file's name. */
  void restore(ProjectFile copy, Runnable then) {
    load("Opening " + copy.name(), p -> firstShot(copy, p), o -> then.run());
  }

  private ShotLoader firstShot(ProjectFile f, Progress p) {
    if (f.shots().isEmpty()) {
      throw new InputError(f.file().toString(), "shots", "the project holds no shot", "");
    }
    return load(f, f.shots().get(0), p);
  }

  /** Opens another shot of the same project. */
  public void openShot(String name) {
    store.whenApplied(
        () -> {
          ProjectFile f = stored(project::file).orElse(project);
          ProjectShot other = shot(f, name).orElseThrow();
          load("Opening " + name, p -> load(f, other, p), o -> {});
        });
  }

  private static Optional<ProjectShot> shot(ProjectFile f, String name) {
    return f.shots().stream().filter(s -> s.name().equals(name)).findFirst();
  }

  /** Makes a shot of files that were read one by one. */
  public void receive(ReceivedSet set) {
    load("Opening", p -> ShotLoader.of(set), o -> {});
  }

  /**
   * Reads other files for the shot, and makes every decision again on them.
   *
   * @param read makes what came now out of what came before
   */
  void replay(
      String files, BiFunction<ReceivedSet, Progress, ReceivedSet> read, Consumer<Replay> then) {
    DecisionHistory was = store.history();
    if (was == null || was.base().received().isEmpty() || store.isDeciding()) {
      say.accept("Wait for what is being worked out, then receive it");
      return;
    }
    ReceivedSet received = was.base().received().get();
    DecisionLog log = was.log();
    autosave.flush();
    loading.set(true);
    problem.set("");
    jobs.run(
        Lane.LOAD,
        "Replaying the decisions on " + files,
        p -> {
          Replay r = Replay.onto(was.base(), log, read.apply(received, p), p);
          return Map.entry(r, DerivedShot.of(r.history().present()));
        },
        made -> {
          loading.set(false);
          if (store.history() != was || !store.history().log().equals(log)) {
            say.accept("The shot was changed while its decisions were replayed; receive it again");
            return;
          }
          DecisionHistory h = made.getKey().history();
          store.open(h, made.getValue(), opened);
          then.accept(made.getKey());
        },
        this::failed);
  }

  /** Another opening takes the place of one that runs, so that they cannot overtake each other. */
  private void load(String title, Function<Progress, ShotLoader> read, Consumer<ShotLoader> then) {
    autosave.flush();
    loading.set(true);
    problem.set("");
    lost = null;
    jobs.run(
        Lane.LOAD,
        title,
        read,
        o ->
            store.whenApplied(
                () -> {
                  show(o);
                  then.accept(o);
                }),
        this::failed);
  }

  /** Where files that scenes refer to may lie, as the user prefers. */
  static Reach reach() {
    return Preferences.read(UserFolder.settings()).reach();
  }

  private ShotLoader load(ProjectFile f, ProjectShot shot, Progress p) {
    return ShotLoader.shot(
        f,
        shot,
        dialects.get(),
        shelf::suggest,
        reach(),
        p,
        gone ->
            Platform.runLater(
                () -> {
                  if (!p.isCancelled()) { // else another opening took its place
                    lost = new Lost(f, shot, gone);
                  }
                }));
  }

  /** Looks for everything that is missing under one folder, then opens the shot. */
  public void relink(Path folder) {
    if (lost == null) {
      say.accept("No files are missing");
      return;
    }
    ProjectFile f = lost.project();
    String shot = lost.entry().name();
    List<String> gone = lost.files();
    load(
        "Finding missing files",
        p -> {
          Relink.Result r = Relink.under(f, gone, folder, p);
          return load(r.project(), shot(r.project(), shot).orElseThrow(), p);
        },
        o -> {
          happened(gone.size() + " missing files were found under " + folder.getFileName());
          say.accept("Found " + gone.size() + " missing files; save to keep their places");
        });
  }

  private void failed(String why) {
    loading.set(false);
    problem.set(why);
    say.accept(why);
  }

  private void show(ShotLoader o) {
    loading.set(false);
    if (o.found() != null) {
      return;
    }
    if (o.state() == null) {
      say.accept("No camera yet; assign the columns of this table");
      waiting.set(null);
      waiting.set(o.waiting());
      return;
    }
    waiting.set(null);
    boolean same =
        project != null && o.project() != null && o.project().equals(stored(project::file).get());
    autosave.flush(); // what was decided while it was read
    project = o.project();
    entry = o.entry();
    diary.open(new Diary(entry == null ? List.of() : entry.diary(), Clock.systemUTC()));
    store.open(o.history(), o.drawn(), opened);
    say.accept(o.sentence());
    autosave.opened(same);
    if (hasProject()) {
      held.hold(project.file());
    } else {
      held.letGo();
    }
  }

  /** Who else has the open project, so that it cannot be saved; null where nobody has. */
  public ReadOnlyObjectProperty<ProjectLock.Holder> holder() {
    return held.holder();
  }

  /** Nothing is saved any more. */
  void closed() {
    autosave.closed();
    held.release();
  }

  /**
   * The project as it would be saved now; empty where there is nothing to save.
   *
   * @param unnamed where it lies if it has no project file yet
   */
  Optional<ProjectFile> stored(Supplier<Path> unnamed) {
    DecisionHistory history = store.history();
    if (history == null) {
      return Optional.empty();
    }
    if (project == null || entry == null) {
      return history.present().received().isEmpty()
          ? Optional.empty()
          : Optional.of(named(unnamed.get(), history));
    }
    ProjectShot shot =
        new ProjectLoader(project, dialects.get())
            .store(entry, store.history(), diary.diary().entries());
    return Optional.of(
        project.withShots(
            project.shots().stream().map(s -> s.name().equals(shot.name()) ? shot : s).toList()));
  }

  /** A project of the open shot alone. */
  private ProjectFile named(Path file, DecisionHistory history) {
    String name = history.present().name();
    ProjectShot bare = ProjectLoader.entryOf(file, name, history.base().received().orElseThrow());
    ProjectFile made = new ProjectFile(file, ShotLoader.name(file), List.of(bare));
    return made.withShots(
        List.of(
            new ProjectLoader(made, dialects.get()).store(bare, history, diary.diary().entries())));
  }

  public boolean hasProject() {
    return project != null && entry != null && !autosave.isUnnamed(project.file());
  }

  public void save() {
    if (hasProject()) {
      save(() -> {});
    } else {
      say.accept("There is no project file yet; save it under a name with Ctrl+Shift+S");
    }
  }

  /** Saves, and then does something; nothing is done where saving failed. */
  public void save(Runnable then) {
    save(p -> p, then, say);
  }

  /** Adds shots to the open project and saves it. */
  void add(List<ProjectShot> more, Runnable then, Consumer<String> failed) {
    save(p -> p.withMore(more), then, failed);
  }

  private void save(UnaryOperator<ProjectFile> how, Runnable then, Consumer<String> failed) {
    Runnable now =
        () -> stored(project::file).ifPresent(p -> save(how.apply(p), false, then, failed));
    store.whenApplied(() -> held.unlessHeld(failed, now));
  }

  /** Makes a project of what came in, or saves the project under another name. */
  public void saveAs(Path file) {
    saveAs(file, () -> {});
  }

  /** The same, and then does something; nothing is done where saving failed. */
  public void saveAs(Path file, Runnable then) {
    store.whenApplied(() -> saveAsNow(file, then));
  }

  private void saveAsNow(Path file, Runnable then) {
    DecisionHistory history = store.history();
    if (history == null || history.present().received().isEmpty()) {
      say.accept("There is nothing to save yet");
      return;
    }
    ProjectFile made = stored(() -> file).orElseThrow().at(file);
    if (autosave.isUnnamed(made.file()) || project == null || !hasProject()) {
      made = new ProjectFile(file, ShotLoader.name(file), made.shots());
    }
    String name = history.present().name();
    entry = shot(made, name).orElseThrow();
    save(made, true, then, say);
  }

  /**
   * @param chosen whether the user named the file just now, and so knows what it replaces
   */
  private void save(ProjectFile next, boolean chosen, Runnable then, Consumer<String> failed) {
    long edit = autosave.edits();
    Runnable kept = autosave.savedUpTo(next.file(), edit);
    jobs.run(
        Lane.KEEP,
        "Saving",
        p -> {
          if (!chosen) {
            seen.check(next.file());
          }
          next.save();
          seen.remember(next.file());
          kept.run();
          return next;
        },
        saved -> {
          project = saved;
          entry = shot(saved, entry.name()).orElse(entry);
          autosave.saved(saved.file(), edit);
          held.hold(saved.file());
          say.accept("Saved " + saved.file().getFileName());
          then.run();
        },
        failed);
  }

  /** Hands text from elsewhere to whoever reads tables. */
  public void paste(String text) {
    pasted.set(null);
    pasted.set(text);
  }

  /** Text that was pasted last; null before. */
  public ReadOnlyObjectProperty<String> pasted() {
    return pasted.getReadOnlyProperty();
  }

  /** A decision was made; it is kept against a crash. */
  void edited() {
    autosave.edited();
  }

  /** What happened goes into the diary, without a word to the user. */
  void happened(String what) {
    diary.diary().add(what);
    autosave.edited();
  }

  /** Writes the user's own words into the diary. */
  public void note(String text) {
    diary.diary().note(text);
    autosave.edited();
    say.accept("Noted in the diary");
  }

  public Diary diary() {
    return diary.diary();
  }

  public Optional<ProjectShot> entry() {
    return Optional.ofNullable(entry);
  }

  public Optional<ProjectFile> file() {
    return Optional.ofNullable(project).filter(p -> !autosave.isUnnamed(p.file()));
  }

  /** Files of the project that were not found when it was opened last. */
  public List<String> missing() {
    return lost == null ? List.of() : lost.files();
  }

  /** Files that make no shot before the user says what a table holds; else null. */
  public ReadOnlyObjectProperty<ReceivedSet> waiting() {
    return waiting.getReadOnlyProperty();
  }

  /** Mappings of tables that were saved under a name. */
  public MappingShelf shelf() {
    return shelf;
  }

  /** Boards of deliveries that were saved under a name. */
  public BoardShelf boards() {
    return boards;
  }

  /** What is kept between sessions: recent projects, and work that was not saved. */
  public Autosave autosave() {
    return autosave;
  }

  public BooleanProperty loading() {
    return loading;
  }

  /** Why the last opening failed; empty otherwise. */
  public StringProperty problem() {
    return problem;
  }
}
