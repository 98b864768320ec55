package flarvo.desktop.session;

import flarvo.convention.Dialects;
import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.Outcome;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.dispatch.Delivery;
import flarvo.project.Diary;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.project.Relink;
import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.vet.Reprojection;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.time.Clock;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.Supplier;
import javafx.application.Platform;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableSet;

/** What all parts of the window share: the shot, the selection, the playhead, and the work. */
public final class Session {

  private final Dialects dialects = Dialects.shipped();
  private final ViewSettings view = new ViewSettings();
  private final Jobs jobs = new Jobs();
  private final Playhead playhead = new Playhead();
  private final ReadOnlyObjectWrapper<ShotState> state = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<Shot> levelled = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<Reprojection> errors = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<Stop> stop = new SimpleObjectProperty<>(Stop.RECEIVE);
  private final ObservableSet<String> selection =
      FXCollections.observableSet(new LinkedHashSet<>()); // "from here to here" has an order
  private final ObjectProperty<Delivery> chosen = new SimpleObjectProperty<>();
  private final StringProperty message = new SimpleStringProperty("");
  private final BooleanProperty loading = new SimpleBooleanProperty();
  private final StringProperty problem = new SimpleStringProperty("");
  private DecisionHistory history;
  private ProjectFile project;
  private ProjectShot entry;
  private final ReadOnlyObjectWrapper<Ledger> ledger = new ReadOnlyObjectWrapper<>();
  private final Autosave autosave = new Autosave(this);
  private final DeliveryRunner sending = new DeliveryRunner(this);
  private final TableImport tableImport = new TableImport(this);
  private final VetWork vet = new VetWork(this);
  private final LevelWork level = new LevelWork(this);
  private final BuildWork build = new BuildWork(this);
  private Diary diary = new Diary(List.of(), Clock.systemUTC());

  /** What was done and is not in the diary yet. */
  private final List<String> untold = new ArrayList<>();

  /** The shot that the errors are of; null while nothing is drawn. */
  private Shot drawnOf;

  /** What could not be opened because files are missing; the open shot is not touched by it. */
  private Lost lost;

  private record Lost(ProjectFile project, ProjectShot entry, List<String> files) {}

  /** Opens a project file, or makes a shot out of scene files, tables and plates. */
  public void open(List<Path> files) {
    if (files.size() == 1 && ShotLoader.isProject(files.get(0))) {
      open(files.get(0), () -> ProjectFile.read(files.get(0)));
      return;
    }
    begin();
    jobs.run(
        "Opening " + files.get(0).getFileName(),
        p -> ShotLoader.files(files, tableImport::suggest, p),
        this::show,
        this::failed);
  }

  /** Opens a project as a copy of it says, under its own file's name. */
  void open(Path file, Supplier<ProjectFile> read) {
    begin();
    jobs.run(
        "Opening " + file.getFileName(),
        p -> {
          ProjectFile f = read.get();
          if (f.shots().isEmpty()) {
            throw new InputError(file.toString(), "shots", "the project holds no shot", "");
          }
          return load(f, f.shots().get(0), p);
        },
        this::show,
        this::failed);
  }

  /** Opens another shot of the same project. */
  public void openShot(String name) {
    ProjectFile f = stored().orElse(project);
    ProjectShot other =
        f.shots().stream().filter(s -> s.name().equals(name)).findFirst().orElseThrow();
    begin();
    jobs.run("Opening " + name, p -> load(f, other, p), this::show, this::failed);
  }

  /** Makes a shot of files that were read one by one. */
  void receive(ReceivedSet set) {
    begin();
    jobs.run("Opening", p -> ShotLoader.of(set), this::show, this::failed);
  }

  private ShotLoader load(ProjectFile f, ProjectShot shot, Progress p) {
    return ShotLoader.shot(
        f,
        shot,
        dialects,
        tableImport::suggest,
        p,
        gone -> Platform.runLater(() -> lost = new Lost(f, shot, gone)));
  }

  /** Looks for everything that is missing under one folder, then opens the shot. */
  public void relink(Path folder) {
    if (lost == null) {
      message.set("No files are missing");
      return;
    }
    ProjectFile f = lost.project();
    String shot = lost.entry().name();
    List<String> gone = lost.files();
    begin();
    jobs.run(
        "Finding missing files",
        p -> {
          Relink.Result r = Relink.under(f, gone, folder, p);
          ProjectShot again =
              r.project().shots().stream().filter(s -> s.name().equals(shot)).findFirst().get();
          return load(r.project(), again, p);
        },
        o -> {
          show(o);
          diary.add(gone.size() + " missing files were found under " + folder.getFileName());
          autosave.edited();
          message.set("Found " + gone.size() + " missing files; save to keep their places");
        },
        this::failed);
  }

  private void begin() {
    loading.set(true);
    problem.set("");
    lost = null;
  }

  private void failed(String why) {
    loading.set(false);
    problem.set(why);
    message.set(why);
  }

  private void show(ShotLoader o) {
    if (o.state() == null) {
      loading.set(false);
      message.set("There is no camera yet; say what the columns of this table are");
      tableImport.openWaiting(o.waiting());
      return;
    }
    tableImport.close();
    project = o.project();
    entry = o.entry();
    diary = new Diary(entry == null ? List.of() : entry.diary(), Clock.systemUTC());
    history = o.history();
    untold.clear();
    ledger.set(null);
    sending.states().clear();
    selection.clear();
    playhead.setRange(o.state().shot().frames(), o.state().shot().rate());
    setState(o.state(), o.drawn());
    playhead.frame().set(o.state().shot().frames().first());
    loading.set(false);
    if (!o.state().deliveries().isEmpty()) {
      chosen.set(o.state().deliveries().get(0));
    }
    message.set(
        "Opened "
            + o.state().shot().name()
            + ": "
            + o.state().shot().frames().count()
            + " frames, "
            + o.state().shot().trackerCount()
            + " trackers");
    if (o.history().filesChanged()) {
      message.set(
          "The files of "
              + o.state().name()
              + " changed since its decisions were made; what they worked out is from before");
    }
    autosave.opened();
  }

  /** Claims are weighed anew beside everything else; only the newest answer counts. */
  @SuppressWarnings("ReferenceEquality") // an answer for another shot's files is not this one's
  private void weigh(ShotState s) {
    if (s.received().isEmpty()) {
      ledger.set(null);
      return;
    }
    jobs.run(
        "Weighing claims",
        p -> LedgerMaker.of(s.received().get(), s.rulings(), p),
        made -> {
          boolean current =
              state.get() != null
                  && state.get().rulings().equals(s.rulings())
                  && state.get().received().orElse(null) == s.received().get();
          if (current) {
            ledger.set(made);
          }
        },
        message::set);
  }

  private void setState(ShotState next) {
    setState(next, null);
  }

  /**
   * Shots are values that edits replace: another reference is another shot.
   *
   * @param drawn of the next shot, where it is worked out already; else null
   */
  @SuppressWarnings("ReferenceEquality")
  private void setState(ShotState next, DerivedShot drawn) {
    ShotState before = state.get();
    boolean weighs =
        before != null && !before.vetting().uncounted().equals(next.vetting().uncounted());
    if (before == null || before.shot() != next.shot() || weighs) {
      if (drawn != null || DerivedShot.isQuick(next.shot())) {
        draw(drawn != null ? drawn : DerivedShot.of(next));
      } else {
        jobs.run(
            "Working out errors",
            p -> DerivedShot.of(next),
            d -> {
              if (state.get().shot() == d.shot()) {
                draw(d);
              }
            },
            message::set);
      }
    }
    boolean other =
        before != null
            && (before.shot() != next.shot() || !before.staging().equals(next.staging()));
    if (other) {
      sending.states().clear(); // what was sent no longer is what stands here
    }
    playhead.setRange(next.shot().frames(), next.shot().rate());
    boolean weighed =
        before != null
            && before.rulings().equals(next.rulings())
            && before.received().equals(next.received())
            && ledger.get() != null;
    state.set(next);
    if (!weighed) {
      weigh(next);
    }
    if (chosen.get() != null && !next.deliveries().contains(chosen.get())) {
      chosen.set(next.deliveries().isEmpty() ? null : next.deliveries().get(0));
    }
  }

  private void draw(DerivedShot d) {
    drawnOf = d.shot();
    levelled.set(d.levelled());
    errors.set(d.errors());
    if (!untold.isEmpty() && state.get() != null) {
      tellDiary();
    }
  }

  /** Decides here and now; what cannot be applied is said, and nothing is changed. */
  public void apply(Decision d) {
    if (history == null) {
      message.set("No shot open");
      return;
    }
    try {
      add(Decided.of(history.present(), d, Progress.NONE));
    } catch (InputError e) {
      message.set(e.getMessage()); // nothing was changed
    }
  }

  /** Decides what was worked out already, on the present state. */
  public void apply(Decision d, Outcome outcome) {
    try {
      add(Decided.of(history.present(), d, Optional.of(outcome)));
    } catch (InputError e) {
      message.set(e.getMessage()); // nothing was changed
    }
  }

  /** Adds what was decided on the present state. */
  void add(Decided d) {
    setState(history.add(d));
    String missed = d.missed().isEmpty() ? "" : " (" + String.join("; ", d.missed()) + ")";
    done(capital(d.title()) + missed);
  }

  /** Takes every open proposal of the ledger in one step. */
  public void takeProposals() {
    Ledger l = ledger.get();
    if (l == null || l.proposals().equals(l.rulings())) {
      message.set("There is no proposal to take");
      return;
    }
    apply(new ReceiveDecision.AcceptProposals(), new Outcome.Ruled(l.proposals()));
  }

  /** Something was done: it is said, written into the diary, and kept against a crash. */
  private void done(String what) {
    message.set(what);
    untold.add(what);
    tellDiary();
    autosave.edited();
  }

  /** The diary has the error of the shot as it is afterwards, so it waits until that is known. */
  @SuppressWarnings("ReferenceEquality")
  private void tellDiary() {
    if (drawnOf != state.get().shot()) {
      return;
    }
    Reprojection e = errors.get();
    String error = e == null ? "" : String.format(Locale.ROOT, " · %.2f px", e.rmsPx());
    untold.forEach(what -> diary.add(what + error));
    untold.clear();
  }

  public void undo() {
    if (history == null || history.undoTitle().isEmpty()) {
      message.set("Nothing to undo");
      return;
    }
    String title = history.undoTitle().get();
    setState(history.undo());
    done("Undone: " + title);
  }

  public void redo() {
    if (history == null || history.redoTitle().isEmpty()) {
      message.set("Nothing to redo");
      return;
    }
    String title = history.redoTitle().get();
    setState(history.redo());
    done("Redone: " + title);
  }

  public Optional<String> undoTitle() {
    return history == null ? Optional.empty() : history.undoTitle();
  }

  public Optional<String> redoTitle() {
    return history == null ? Optional.empty() : history.redoTitle();
  }

  /** The project as it would be saved now; empty where there is no project file. */
  Optional<ProjectFile> stored() {
    if (project == null || entry == null || state.get() == null) {
      return Optional.empty();
    }
    ProjectShot shot = new ProjectLoader(project, dialects).store(entry, history, diary.entries());
    return Optional.of(
        project.withShots(
            project.shots().stream().map(s -> s.name().equals(shot.name()) ? shot : s).toList()));
  }

  public boolean hasProject() {
    return project != null && entry != null;
  }

  public void save() {
    Optional<ProjectFile> next = stored();
    if (next.isEmpty()) {
      message.set("There is no project file yet; save under a name with Ctrl+Shift+S");
      return;
    }
    save(next.get());
  }

  /** Makes a project of what came in, or saves the project under another name. */
  public void saveAs(Path file) {
    if (state.get() == null || state.get().received().isEmpty()) {
      message.set("There is nothing to save yet");
      return;
    }
    String name = state.get().name();
    ProjectFile there =
        stored()
            .map(p -> p.at(file))
            .orElseGet(
                () ->
                    new ProjectFile(
                        file,
                        ShotLoader.name(file),
                        List.of(
                            ProjectLoader.entryOf(
                                file, name, history.base().received().orElseThrow()))));
    ProjectShot was =
        there.shots().stream().filter(x -> x.name().equals(name)).findFirst().orElseThrow();
    ProjectShot full = new ProjectLoader(there, dialects).store(was, history, diary.entries());
    entry = full;
    save(
        there.withShots(
            there.shots().stream().map(x -> x.name().equals(name) ? full : x).toList()));
  }

  private void save(ProjectFile next) {
    jobs.run(
        "Saving",
        p -> {
          next.save();
          return next;
        },
        saved -> {
          project = saved;
          entry =
              saved.shots().stream()
                  .filter(s -> s.name().equals(entry.name()))
                  .findFirst()
                  .orElse(entry);
          autosave.saved(saved.file());
          message.set("Saved " + saved.file().getFileName());
        },
        message::set);
  }

  /**
   * Selects a tracker; a selected one is let go.
   *
   * @param tracker may be null, for a click beside all of them
   * @param more keeps the others selected
   */
  public void choose(String tracker, boolean more) {
    boolean was = tracker != null && selection.contains(tracker);
    if (!more) {
      selection.clear();
    }
    if (was) {
      selection.remove(tracker);
    } else if (tracker != null) {
      selection.add(tracker);
    }
  }

  public void close() {
    autosave.close();
    playhead.stop();
    jobs.close();
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(Locale.ROOT) + s.substring(1);
  }

  /** What is done at Vet. */
  public VetWork vet() {
    return vet;
  }

  /** What is done at Level. */
  public LevelWork level() {
    return level;
  }

  /** What is built on the level. */
  public BuildWork build() {
    return build;
  }

  /** Deliveries on their way out. */
  public DeliveryRunner sending() {
    return sending;
  }

  /** What is shown, and how. */
  public ViewSettings view() {
    return view;
  }

  public Dialects dialects() {
    return dialects;
  }

  public Jobs jobs() {
    return jobs;
  }

  public Playhead playhead() {
    return playhead;
  }

  /** Null while nothing is open. */
  public ReadOnlyObjectProperty<ShotState> state() {
    return state.getReadOnlyProperty();
  }

  /** The shot with its level applied, for everything that is drawn; null while nothing is open. */
  public ReadOnlyObjectProperty<Shot> shot() {
    return levelled.getReadOnlyProperty();
  }

  /** Null where nothing was observed. */
  public ReadOnlyObjectProperty<Reprojection> errors() {
    return errors.getReadOnlyProperty();
  }

  public Optional<ProjectShot> entry() {
    return Optional.ofNullable(entry);
  }

  public Optional<ProjectFile> project() {
    return Optional.ofNullable(project);
  }

  /** Claims side by side; null until they are weighed, and for a shot that came from no files. */
  public ReadOnlyObjectProperty<Ledger> ledger() {
    return ledger.getReadOnlyProperty();
  }

  /** Writes the user's own words into the diary. */
  public void note(String text) {
    diary.note(text);
    autosave.edited();
    message.set("Noted in the diary");
  }

  /** What happened goes into the diary, without a word to the user. */
  void happened(String what) {
    diary.add(what);
    autosave.edited();
  }

  public Diary diary() {
    return diary;
  }

  /** Files of the project that were not found when it was opened last. */
  public List<String> missing() {
    return lost == null ? List.of() : lost.files();
  }

  /** Tables of the shot that are read by a mapping, or wait for one. */
  public List<Path> tables() {
    return state.get() == null
        ? List.of()
        : state.get().received().map(ReceivedSet::tables).orElse(List.of());
  }

  /** The table whose columns are being named. */
  public TableImport tableImport() {
    return tableImport;
  }

  /** What is kept between sessions: recent projects, and work that was not saved. */
  public Autosave autosave() {
    return autosave;
  }

  public ObjectProperty<Stop> stop() {
    return stop;
  }

  /** Names of selected trackers, one and the same everywhere. */
  public ObservableSet<String> selection() {
    return selection;
  }

  /** The delivery that desk and proof are about; may be null. */
  public ObjectProperty<Delivery> chosen() {
    return chosen;
  }

  public StringProperty message() {
    return message;
  }

  public BooleanProperty loading() {
    return loading;
  }

  /** Why the last opening failed; empty otherwise. */
  public StringProperty problem() {
    return problem;
  }
}
