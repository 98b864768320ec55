package flarvo.desktop.session;

import flarvo.convention.Dialect;
import flarvo.convention.Dialects;
import flarvo.desktop.theme.Theme;
import flarvo.dispatch.Delivery;
import flarvo.dispatch.Dispatcher;
import flarvo.project.EditHistory;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectLoader;
import flarvo.project.ProjectShot;
import flarvo.project.ShotEdit;
import flarvo.project.ShotState;
import flarvo.proof.Proof;
import flarvo.proof.ProofReport;
import flarvo.receive.IntakeOptions;
import flarvo.receive.ShotIntake;
import flarvo.scene.PlateRole;
import flarvo.scene.Shot;
import flarvo.vet.Reprojection;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.DoubleProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleDoubleProperty;
import javafx.beans.property.SimpleObjectProperty;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableMap;
import javafx.collections.ObservableSet;

/** What all parts of the window share: the shot, the selection, the playhead, and the work. */
public final class Session {

  private final Dialects dialects = Dialects.shipped();
  private final Jobs jobs = new Jobs();
  private final Playhead playhead = new Playhead();
  private final ReadOnlyObjectWrapper<ShotState> state = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<Shot> levelled = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyObjectWrapper<Reprojection> errors = new ReadOnlyObjectWrapper<>();
  private final ObjectProperty<Stop> stop = new SimpleObjectProperty<>(Stop.RECEIVE);
  private final ObjectProperty<Theme> theme = new SimpleObjectProperty<>(Theme.DARK);
  private final ObjectProperty<PlateRole> plateRole =
      new SimpleObjectProperty<>(PlateRole.UNDISTORTED);
  private final BooleanProperty spaceShown = new SimpleBooleanProperty();
  private final DoubleProperty whiskers = new SimpleDoubleProperty(10);
  private final DoubleProperty errorLimitPx = new SimpleDoubleProperty(1);
  private final BooleanProperty trackersShown = new SimpleBooleanProperty(true);
  private final BooleanProperty platesShown = new SimpleBooleanProperty(true);
  private final ObservableSet<String> selection = FXCollections.observableSet();
  private final ObservableMap<Delivery, SendState> sendStates = FXCollections.observableHashMap();
  private final ObjectProperty<Delivery> chosen = new SimpleObjectProperty<>();
  private final StringProperty message = new SimpleStringProperty("");
  private final BooleanProperty loading = new SimpleBooleanProperty();
  private final StringProperty problem = new SimpleStringProperty("");
  private EditHistory history;
  private ProjectFile project;
  private ProjectShot entry;
  private ShotIntake intake;

  /** Opens a project file, or makes a shot out of scene files, tables and plates. */
  public void open(List<Path> files) {
    loading.set(true);
    problem.set("");
    jobs.run(
        "Opening " + files.get(0).getFileName(),
        p -> {
          if (files.size() == 1 && files.get(0).toString().endsWith(".json")) {
            ProjectFile f = ProjectFile.read(files.get(0));
            ProjectShot first = f.shots().get(0);
            return new Opened(f, first, new ProjectLoader(f, dialects).load(first, p), null);
          }
          ShotIntake in = new ShotIntake();
          files.forEach(f -> in.add(f, IntakeOptions.NONE, p));
          Shot shot = in.shot(files.get(0).getFileName().toString(), IntakeOptions.NONE);
          return new Opened(null, null, new ShotState(shot, List.of()), in);
        },
        this::show,
        why -> {
          loading.set(false);
          problem.set(why);
          message.set(why);
        });
  }

  private record Opened(
      ProjectFile project, ProjectShot entry, ShotState state, ShotIntake intake) {}

  private void show(Opened o) {
    project = o.project;
    entry = o.entry;
    intake = o.intake;
    history = new EditHistory(o.state);
    sendStates.clear();
    selection.clear();
    playhead.setRange(o.state.shot().frames(), o.state.shot().rate());
    setState(o.state);
    playhead.frame().set(o.state.shot().frames().first());
    loading.set(false);
    if (!o.state.deliveries().isEmpty()) {
      chosen.set(o.state.deliveries().get(0));
    }
    message.set(
        "Opened "
            + o.state.shot().name()
            + ": "
            + o.state.shot().frames().count()
            + " frames, "
            + o.state.shot().trackerCount()
            + " trackers");
  }

  /** Shots are values that edits replace: another reference is another shot. */
  @SuppressWarnings("ReferenceEquality")
  private void setState(ShotState next) {
    ShotState before = state.get();
    if (before == null || before.shot() != next.shot()) {
      levelled.set(next.shot().levelled());
      errors.set(Reprojection.of(next.shot()).orElse(null));
      if (before != null) {
        sendStates.clear(); // what was sent no longer is what stands here
      }
    }
    playhead.setRange(next.shot().frames(), next.shot().rate());
    state.set(next);
    if (chosen.get() != null && !next.deliveries().contains(chosen.get())) {
      chosen.set(next.deliveries().isEmpty() ? null : next.deliveries().get(0));
    }
  }

  public void apply(ShotEdit edit) {
    setState(history.apply(edit));
    message.set(capital(edit.title()));
  }

  public void undo() {
    if (history == null || history.undoTitle().isEmpty()) {
      message.set("Nothing to undo");
      return;
    }
    String title = history.undoTitle().get();
    setState(history.undo());
    message.set("Undone: " + title);
  }

  public void redo() {
    if (history == null || history.redoTitle().isEmpty()) {
      message.set("Nothing to redo");
      return;
    }
    String title = history.redoTitle().get();
    setState(history.redo());
    message.set("Redone: " + title);
  }

  public Optional<String> undoTitle() {
    return history == null ? Optional.empty() : history.undoTitle();
  }

  public Optional<String> redoTitle() {
    return history == null ? Optional.empty() : history.redoTitle();
  }

  public void save() {
    if (project == null || entry == null) {
      message.set("There is no project file yet to save into");
      return;
    }
    ProjectShot stored = new ProjectLoader(project, dialects).store(entry, state.get());
    ProjectFile next =
        project.withShots(
            project.shots().stream()
                .map(s -> s.name().equals(stored.name()) ? stored : s)
                .toList());
    jobs.run(
        "Saving",
        p -> {
          next.save();
          return next;
        },
        saved -> {
          project = saved;
          entry = stored;
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

  /** Folder that deliveries are written into. */
  public Path deliveryFolder() {
    Path base = project == null ? Path.of("").toAbsolutePath() : project.folder();
    return base.resolve("deliveries");
  }

  public void sendAll() {
    if (state.get() != null) {
      state.get().deliveries().forEach(this::send);
    }
  }

  /** Writes a delivery in the background, reads it back and proves it. */
  @SuppressWarnings("ReferenceEquality")
  public void send(Delivery delivery) {
    SendState now = sendStates.get(delivery);
    if (now != null && now.stage() == SendState.Stage.SENDING) {
      return;
    }
    Shot shot = state.get().shot();
    Path file = deliveryFolder().resolve(delivery.fileName());
    sendStates.put(delivery, SendState.sending());
    jobs.run(
        "Sending " + delivery.name(),
        p -> {
          Dispatcher.Sent sent = Dispatcher.send(shot, delivery, file, p);
          Dialect to = delivery.dialect();
          ProofReport proof = Proof.of(shot, file, to, ProofReport.USUAL_LIMIT_PX, p);
          return new SendState(
              SendState.Stage.SENT,
              proof.sentence(),
              Optional.of(sent),
              Optional.of(proof),
              Proof.seenByRecipient(shot, file, to, p));
        },
        done -> {
          // A change of the shot meanwhile makes this result one of the past.
          if (state.get().shot() == shot) {
            sendStates.put(delivery, done);
          }
          message.set(delivery.name() + " " + done.message());
        },
        why -> {
          sendStates.put(delivery, SendState.failed(why));
          message.set(why);
        });
  }

  public void close() {
    playhead.stop();
    jobs.close();
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(java.util.Locale.ROOT) + s.substring(1);
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

  public Optional<ShotIntake> intake() {
    return Optional.ofNullable(intake);
  }

  public ObjectProperty<Stop> stop() {
    return stop;
  }

  public ObjectProperty<Theme> theme() {
    return theme;
  }

  public ObjectProperty<PlateRole> plateRole() {
    return plateRole;
  }

  public BooleanProperty spaceShown() {
    return spaceShown;
  }

  /** How much longer whiskers are drawn than they are, 1 to 50. */
  public DoubleProperty whiskers() {
    return whiskers;
  }

  public DoubleProperty errorLimitPx() {
    return errorLimitPx;
  }

  public BooleanProperty trackersShown() {
    return trackersShown;
  }

  public BooleanProperty platesShown() {
    return platesShown;
  }

  /** Names of selected trackers, one and the same everywhere. */
  public ObservableSet<String> selection() {
    return selection;
  }

  public ObservableMap<Delivery, SendState> sendStates() {
    return sendStates;
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
