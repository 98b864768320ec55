package flarvo.desktop.state;

import flarvo.convention.Dialects;
import flarvo.decision.Outcome;
import flarvo.decision.ReceiveDecision;
import flarvo.decision.ShotState;
import flarvo.desktop.work.Jobs;
import flarvo.dispatch.Delivery;
import flarvo.lens.ShotLens;
import flarvo.project.StudioDialects;
import flarvo.receive.Ledger;
import flarvo.receive.ReceivedSet;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.scene.WorldShot;
import flarvo.vet.Reprojection;
import java.nio.file.Path;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import javafx.animation.PauseTransition;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.SimpleStringProperty;
import javafx.beans.property.StringProperty;
import javafx.collections.FXCollections;
import javafx.collections.ObservableList;
import javafx.collections.ObservableSet;
import javafx.util.Duration;

/** What all parts of the window share: the project, the open shot, the view and the work. */
public final class Session {

  /** From an edit to its copy; more edits meanwhile go into the same copy. */
  private static final Duration AUTOSAVE_DELAY = Duration.seconds(2);

  private final ReadOnlyObjectWrapper<Dialects> dialects =
      new ReadOnlyObjectWrapper<>(StudioDialects.known());
  private final ViewSettings view = new ViewSettings();
  private final Jobs jobs = new Jobs();
  private final Playhead playhead = new Playhead();
  private final StringProperty stop = new SimpleStringProperty("");
  private final ObservableSet<String> selection =
      FXCollections.observableSet(new LinkedHashSet<>()); // "from here to here" has an order
  private final DeliveryChoice chosen = new DeliveryChoice();
  private final StringProperty message = new SimpleStringProperty("");
  private final ReadOnlyBooleanWrapper open = new ReadOnlyBooleanWrapper();
  private final ShotStore store =
      new ShotStore(jobs, List.of(LedgerSlot.SLOT), message::set, this::decided);
  private final ShotDiary diary = new ShotDiary(store);
  private final ProjectStore project =
      new ProjectStore(jobs, dialects::get, store, diary, message::set, Session::soon);
  private final DeliveryRunner sending = new DeliveryRunner(this);
  private final Incoming incoming = new Incoming(this);
  private final NewShots newShots = new NewShots(this);
  private final SnapshotProperty<ShotState> state;
  private final SnapshotProperty<WorldShot> shot;
  private final SnapshotProperty<Reprojection> errors;
  private final SnapshotProperty<Ledger> ledger;
  private final SnapshotProperty<ShotLens> lens;
  private final ShownTrackers shownTrackers = new ShownTrackers();

  public Session() {
    // Told before any view: what views ask for is in step with the snapshot.
    project.onOpened(this::opened);
    project.onSeveral(newShots::found);
    store.now().addListener((o, a, b) -> follow(a, b));
    state = new SnapshotProperty<>(store.now(), Snapshot::state);
    shot = new SnapshotProperty<>(store.now(), s -> s.get(DerivedShot.SLOT).value().levelled());
    errors = new SnapshotProperty<>(store.now(), s -> s.get(DerivedShot.SLOT).value().errors());
    lens = new SnapshotProperty<>(store.now(), s -> s.state().lens());
    ledger = new SnapshotProperty<>(store.now(), s -> s.get(LedgerSlot.SLOT).value());
  }

  private static void soon(Runnable work) {
    PauseTransition wait = new PauseTransition(AUTOSAVE_DELAY);
    wait.setOnFinished(e -> work.run());
    wait.play();
  }

  private void opened(Snapshot s) {
    Shot first = s.state().shot(); // made by whoever read it
    sending.forget();
    selection.clear();
    view.tried().set(null);
    playhead.setRange(first.frames(), first.rate());
    playhead.frame().set(first.frames().first());
    List<Delivery> all = s.state().deliveries();
    chosen.one().set(all.isEmpty() ? null : all.get(0));
  }

  private void follow(Snapshot before, Snapshot now) {
    open.set(now.isOpen());
    ShotState a = before.state();
    ShotState b = now.state();
    if (before.revision() == now.revision()) {
      return;
    }
    view.tried().set(null); // what was tried is decided, or given up
    sending.follow(a, b);
    incoming.follow(b);
    if (b.isMade()) {
      playhead.setRange(b.shot().frames(), b.shot().rate());
    }
    chosen.follow(b.deliveries());
  }

  /** Something was done: it is said, written into the diary, and kept against a crash. */
  private void decided(String what) {
    message.set(what);
    diary.done(what);
    project.edited();
  }

  /** Takes every open proposal of the ledger in one step. */
  public void takeProposals() {
    Worked<Ledger> weighed = store.now().get().get(LedgerSlot.SLOT);
    Ledger l = weighed.value();
    if (!weighed.current()) {
      message.set("Still weighing claims");
    } else if (l == null || l.proposals().equals(l.rulings())) {
      message.set("No proposals to accept");
    } else {
      store.decide(new ReceiveDecision.AcceptProposals(), new Outcome.Ruled(l.proposals()));
    }
  }

  public void undo() {
    store.undo();
  }

  public void redo() {
    store.redo();
  }

  public Optional<String> undoTitle() {
    return store.now().get().log().undoTitle();
  }

  public Optional<String> redoTitle() {
    return store.now().get().log().redoTitle();
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
    playhead.stop();
    incoming.close();
    project.autosave().close();
    jobs.close();
    project.closed();
  }

  /** The open shot: decisions go in, snapshots come out. */
  public ShotStore store() {
    return store;
  }

  /** The project file and its shots. */
  public ProjectStore project() {
    return project;
  }

  /** Deliveries on their way out. */
  public DeliveryRunner sending() {
    return sending;
  }

  /** Files of the open shot that changed on disk since, or got newer. */
  public Incoming incoming() {
    return incoming;
  }

  /** Shots that were found in folders. */
  public NewShots newShots() {
    return newShots;
  }

  /** What is shown, and how. */
  public ViewSettings view() {
    return view;
  }

  /** The shipped dialects and the studio's own. */
  public Dialects dialects() {
    return dialects.get();
  }

  /** The same, to follow: one may be kept meanwhile. */
  public ReadOnlyObjectProperty<Dialects> knownDialects() {
    return dialects.getReadOnlyProperty();
  }

  /** Reads the studio's own anew. */
  public void readDialects() {
    dialects.set(StudioDialects.known());
  }

  public Jobs jobs() {
    return jobs;
  }

  public Playhead playhead() {
    return playhead;
  }

  /** Whether somebody opened a shot; else the empty one is shown. */
  public ReadOnlyBooleanProperty open() {
    return open.getReadOnlyProperty();
  }

  public boolean isOpen() {
    return store.now().get().isOpen();
  }

  /** Never null; the empty shot's while nothing is open. */
  public ReadOnlyObjectProperty<ShotState> state() {
    return state;
  }

  /** The trackers that are shown, those that move where they are at a frame. */
  public ShownTrackers shownTrackers(int frame) {
    return shownTrackers
        .of(shot.get(), errors.get(), state.get().vetting().groups(), view.hidden())
        .at(frame);
  }

  /** The shot with its level applied, for everything that is drawn; never null. */
  public ReadOnlyObjectProperty<WorldShot> shot() {
    return shot;
  }

  /** The same in solve space. */
  public Shot solved() {
    return store.now().get().get(DerivedShot.SLOT).value().shot();
  }

  /** Null where nothing was observed. */
  public ReadOnlyObjectProperty<Reprojection> errors() {
    return errors;
  }

  /** The lens of the open shot's original plates. */
  public ReadOnlyObjectProperty<ShotLens> lens() {
    return lens;
  }

  /** Claims side by side; null until they are weighed, and for a shot that came from no files. */
  public ReadOnlyObjectProperty<Ledger> ledger() {
    return ledger;
  }

  /** Whether claims are not settled, so that errors say nothing of the solve yet. */
  public boolean hasOpenClaims() {
    Ledger l = ledger.get();
    return l != null && !l.open().isEmpty();
  }

  /** The level as it is drawn: the one that is tried, or the one that stands. */
  public Similarity shownLevel() {
    return view.tried().get() != null ? view.tried().get() : state.get().level();
  }

  /** Trackers that have no weight, or are left out. */
  public Set<String> uncounted() {
    return state.get().vetting().uncounted();
  }

  /** Tables of the shot that are read by a mapping, or wait for one. */
  public List<Path> tables() {
    return state.get().received().map(ReceivedSet::tables).orElse(List.of());
  }

  /** Id of the stop that is shown. */
  public StringProperty stop() {
    return stop;
  }

  /** Names of selected trackers, one and the same everywhere. */
  public ObservableSet<String> selection() {
    return selection;
  }

  /** The delivery that desk and proof are about; null where there is none. */
  public ObjectProperty<Delivery> chosen() {
    return chosen.one();
  }

  /** All deliveries that are selected, with {@link #chosen} among them. */
  public ObservableList<Delivery> chosenRows() {
    return chosen.rows();
  }

  /** Selects several deliveries; desk and proof are about one of them. */
  public void choose(Delivery of, List<Delivery> all) {
    chosen.choose(of, all);
  }

  public StringProperty message() {
    return message;
  }
}
