package flarvo.project;

import flarvo.decision.ShotState;
import flarvo.folder.FoundShot;
import flarvo.receive.IntakeOptions;
import flarvo.receive.Ledger;
import flarvo.receive.LedgerMaker;
import flarvo.receive.ReceivedSet;
import flarvo.receive.Rulings;
import flarvo.report.InputError;
import flarvo.report.Note;
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
   * @param said why there is no entry, or empty
   * @param notes what the search and the readers left out or assumed
   */
  public record Arrival(
      String name,
      Optional<ProjectShot> entry,
      Optional<Ledger> ledger,
      Optional<ReceivedSet> received,
      String said,
      List<Note> notes) {
    public Arrival {
      notes = List.copyOf(notes);
    }
  }

  private ShotArrivals() {}

  /**
   * Reads shots and opens their ledgers. A shot that cannot be read holds no other up.
   *
   * @param project file that paths of the entries are relative to
   * @param jobs shots at once
   * @return in the order of the shots
   * @throws flarvo.work.Cancelled when the user stopped
   */
  public static List<Arrival> of(
      Path project, List<FoundShot> shots, IntakeOptions options, int jobs, Progress progress) {
    AtomicInteger done = new AtomicInteger();
    List<Callable<Arrival>> tasks = new ArrayList<>();
    for (FoundShot s : shots) {
      tasks.add(
          () -> {
            Arrival a = one(project, s, options, progress.part(done.get(), shots.size()));
            progress.step(done.incrementAndGet(), shots.size());
            return a;
          });
    }
    return Workers.all(jobs, "shot reader", tasks);
  }

  private static Arrival one(Path project, FoundShot s, IntakeOptions options, Progress progress) {
    List<Note> notes = new ArrayList<>(s.notes());
    ReceivedSet received = null;
    try {
      received = s.received(options, progress);
      notes.addAll(received.notes());
      Ledger ledger = LedgerMaker.of(received, Rulings.NONE, progress);
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
          "",
          notes);
    } catch (InputError e) {
      return arrival(
          s, received, e.reason() + (e.advice().isEmpty() ? "" : ". " + e.advice()), notes);
    }
  }

  private static Arrival arrival(FoundShot s, ReceivedSet received, String said, List<Note> notes) {
    return new Arrival(
        s.name(), Optional.empty(), Optional.empty(), Optional.ofNullable(received), said, notes);
  }
}
