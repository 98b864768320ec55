package flarvo.desktop.state;

import flarvo.desktop.work.Lane;
import flarvo.folder.ShotFinder;
import flarvo.project.ProjectFile;
import flarvo.project.ProjectShot;
import flarvo.project.ShotArrivals;
import flarvo.project.ShotArrivals.Arrival;
import flarvo.project.StartBoard;
import flarvo.receive.IntakeOptions;
import flarvo.shotlist.ShotList;
import flarvo.work.Progress;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.ReadOnlyBooleanProperty;
import javafx.beans.property.ReadOnlyBooleanWrapper;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/** Shots that were found in folders, until they are in a project or not wanted. */
public final class NewShots {

  /**
   * What was found, and what became of it.
   *
   * @param list that names the shots, if there is one
   * @param arrivals as they were received; empty before
   * @param project that they were received into; empty before
   */
  public record Offer(
      List<Path> folders,
      Optional<Path> list,
      ShotFinder.Found found,
      List<Arrival> arrivals,
      Optional<Path> project) {
    public Offer {
      folders = List.copyOf(folders);
      arrivals = List.copyOf(arrivals);
    }

    /** Whether they are in the project. */
    public boolean isReceived() {
      return project.isPresent();
    }
  }

  /** Shots, and the entries of them that the project lacks. */
  private record Read(ProjectFile before, List<Arrival> arrivals, List<ProjectShot> added) {}

  private final Session session;
  private final ReadOnlyObjectWrapper<Offer> offer = new ReadOnlyObjectWrapper<>();
  private final ReadOnlyBooleanWrapper working = new ReadOnlyBooleanWrapper();
  private final ReadOnlyStringWrapper problem = new ReadOnlyStringWrapper("");

  NewShots(Session session) {
    this.session = session;
    // Another opening takes the place of a search, and nothing more is heard of it.
    session
        .project()
        .loading()
        .addListener(
            (o, a, loading) -> {
              if (loading && working.get()) {
                failed("Another file was opened meanwhile; receive the shots again");
              }
            });
  }

  /** What waits for an answer; null where nothing does. */
  public ReadOnlyObjectProperty<Offer> offer() {
    return offer.getReadOnlyProperty();
  }

  /** Whether shots are searched for, or read. */
  public ReadOnlyBooleanProperty working() {
    return working.getReadOnlyProperty();
  }

  /** Why the last step failed; empty otherwise. */
  public ReadOnlyStringProperty problem() {
    return problem.getReadOnlyProperty();
  }

  /** Several shots were found. */
  void found(List<Path> folders, ShotFinder.Found found) {
    problem.set("");
    offer.set(new Offer(folders, Optional.empty(), found, List.of(), Optional.empty()));
  }

  /** Searches folders, also where there may be one shot alone. */
  public void search(List<Path> folders, Optional<Path> list) {
    begin();
    session
        .jobs()
        .run(
            Lane.LOAD,
            "Searching for shots",
            p -> ShotFinder.find(folders, list.map(ShotList::read), p),
            f -> {
              working.set(false);
              offer.set(new Offer(folders, list, f, List.of(), Optional.empty()));
            },
            this::failed);
  }

  private void begin() {
    working.set(true);
    problem.set("");
  }

  private void failed(String why) {
    working.set(false);
    problem.set(why);
    session.message().set(why);
  }

  /** Where a project of these shots would lie: the open one, or beside them. */
  public Path usualProject() {
    return session
        .project()
        .file()
        .map(ProjectFile::file)
        .orElseGet(() -> offer.get().folders().get(0).toAbsolutePath().resolve("project.json"));
  }

  /**
   * Reads the shots and adds them to a project, which is made where it does not exist. Into the
   * open project, which is saved with them; another one is opened.
   *
   * @param board of {@link StartBoard#of}: the deliveries that each begins with
   */
  public void receive(Path project, String board) {
    Offer o = offer.get();
    Path file = project.toAbsolutePath().normalize();
    Optional<ProjectFile> open =
        session.project().file().filter(f -> f.file().toAbsolutePath().normalize().equals(file));
    begin();
    session
        .jobs()
        .run(
            Lane.LOAD,
            "Receiving " + o.found().shots().size() + " shots",
            p -> read(o, open, file, board, p),
            r -> received(o, r, open.isPresent()),
            this::failed);
  }

  private Read read(Offer o, Optional<ProjectFile> open, Path file, String board, Progress p) {
    ProjectFile before = open.orElseGet(() -> ProjectFile.readOrNew(file));
    StartBoard start = StartBoard.of(board, session.project().boards());
    List<Arrival> all =
        ShotArrivals.of(
            before,
            o.found().shots(),
            IntakeOptions.NONE.withReach(ProjectStore.reach()),
            Runtime.getRuntime().availableProcessors(),
            p);
    List<ProjectShot> added = ShotArrivals.added(all, start, session.dialects());
    if (open.isEmpty() && !added.isEmpty()) {
      ShotArrivals.save(before, added);
    }
    return new Read(before, all, added);
  }

  private void received(Offer o, Read r, boolean open) {
    Path file = r.before().file();
    Runnable done =
        () -> {
          working.set(false);
          offer.set(new Offer(o.folders(), o.list(), o.found(), r.arrivals(), Optional.of(file)));
          int n = r.added().size();
          session
              .message()
              .set(
                  n == 0
                      ? "No shot was added"
                      : (n == 1 ? "1 shot" : n + " shots") + " added to " + file.getFileName());
        };
    if (open && !r.added().isEmpty()) {
      session.project().add(r.added(), done, this::failed);
      return;
    }
    done.run();
    boolean there = !r.added().isEmpty() || !r.before().shots().isEmpty();
    if (!open && there) {
      session.project().open(List.of(file));
    }
  }

  /** The folders hold one shot, whatever it looks like. */
  public void openAsOne() {
    List<Path> folders = offer.get().folders();
    dismiss();
    session.project().openAsOne(folders);
  }

  /** Nothing more is wanted of them; a search, or what reads them, stops. */
  public void dismiss() {
    if (working.get()) {
      session.jobs().drop(Lane.LOAD);
      working.set(false);
    }
    problem.set("");
    offer.set(null);
  }
}
