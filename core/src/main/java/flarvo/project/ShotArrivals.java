package flarvo.project;

import flarvo.convention.Dialects;
import flarvo.decision.ShotState;
import flarvo.folder.FoundShot;
import flarvo.receive.Conflict;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.report.Note;
import flarvo.scene.Observations;
import flarvo.work.Progress;
import flarvo.work.Workers;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.atomic.AtomicInteger;

/** Many shots into a project at once, each with its ledger. */
public final class ShotArrivals {

  /**
   * One shot that was found.
   *
   * @param entry for the project; empty where the shot cannot be opened yet
   * @param ledger of what its files claim
   * @param known whether the project has a shot of that name already, which stays as it is
   * @param said why there is no entry, or empty
   * @param notes what the search and the readers left out or assumed
   */
  public record Arrival(
      String name,
      Optional<ProjectShot> entry,
      Optional<Ledger> ledger,
      Optional<ReceivedSet> received,
      boolean known,
      String said,
      List<Note> notes) {
    public Arrival {
      notes = List.copyOf(notes);
    }

    /** What the ledger does not know; empty without one. */
    public List<Conflict> open() {
      return ledger.map(Ledger::open).orElse(List.of());
    }
  }

  private ShotArrivals() {}

  /**
   * Reads shots and opens their ledgers. A shot that cannot be read holds no other up; one that the
   * project has already is not read.
   *
   * @param project that they are for
   * @param jobs shots at once
   * @return the new ones in the order of the shots, then those that the project has
   * @throws flarvo.work.Cancelled when the user stopped
   */
  public static List<Arrival> of(
      ProjectFile project,
      List<FoundShot> shots,
      IntakeOptions options,
      int jobs,
      Progress progress) {
    List<FoundShot> fresh = new ArrayList<>(shots);
    List<Arrival> known = new ArrayList<>();
    for (ProjectShot s : project.shots()) {
      if (fresh.removeIf(f -> f.name().equalsIgnoreCase(s.name()))) {
        known.add(
            new Arrival(
                s.name(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                true,
                "in the project already",
                List.of()));
      }
    }
    AtomicInteger done = new AtomicInteger();
    List<Callable<Arrival>> tasks = new ArrayList<>();
    for (FoundShot s : fresh) {
      tasks.add(
          () -> {
            Arrival a = one(project.file(), s, options, progress.part(done.get(), fresh.size()));
            progress.step(done.incrementAndGet(), fresh.size());
            return a;
          });
    }
    List<Arrival> all = new ArrayList<>(Workers.all(jobs, "shot reader", tasks));
    all.addAll(known);
    return all;
  }

  /** The entries of those that can be added, with the deliveries they begin with. */
  public static List<ProjectShot> added(List<Arrival> all, StartBoard board, Dialects dialects) {
    return all.stream()
        .flatMap(a -> a.entry().map(e -> board.on(e, a, dialects)).stream())
        .toList();
  }

  /**
   * Saves a project with more shots; nobody else may be writing it meanwhile.
   *
   * @throws InputError when it is open elsewhere, or the disk refuses
   */
  public static void save(ProjectFile before, List<ProjectShot> added) {
    Path file = before.file();
    Optional<ProjectLock> lock = ProjectLock.take(file);
    if (lock.isEmpty()) {
      throw new InputError(
          file.toString(),
          "",
          "the project is open"
              + ProjectLock.holder(file)
                  .map(h -> " on " + h.host() + " since " + h.since())
                  .orElse(""),
          "Close it there first");
    }
    try {
      before.withMore(added).save();
    } finally {
      lock.get().release();
    }
  }

  private static Arrival one(Path project, FoundShot s, IntakeOptions options, Progress progress) {
    List<Note> notes = new ArrayList<>(s.notes());
    ReceivedSet received = null;
    try {
      received = s.received(options, progress);
      notes.addAll(received.notes());
      Ledger ledger = LedgerMaker.of(received, Rulings.NONE, Observations.NONE, progress);
      Optional<Note> broken = received.unreadable();
      if (broken.isPresent()) {
        return arrival(s, received, broken.get().where() + ": " + broken.get().text(), notes);
      }
      if (received.unmapped().isEmpty()) {
        ShotState.of(s.name(), received).shot(); // what cannot be opened does not go in
      }
      return new Arrival(
          s.name(),
          Optional.of(ProjectLoader.entryOf(project, s.name(), received)),
          Optional.of(ledger),
          Optional.of(received),
          false,
          "",
          notes);
    } catch (InputError e) {
      return arrival(
          s, received, e.reason() + (e.advice().isEmpty() ? "" : ". " + e.advice()), notes);
    }
  }

  private static Arrival arrival(FoundShot s, ReceivedSet received, String said, List<Note> notes) {
    return new Arrival(
        s.name(),
        Optional.empty(),
        Optional.empty(),
        Optional.ofNullable(received),
        false,
        said,
        notes);
  }
}
