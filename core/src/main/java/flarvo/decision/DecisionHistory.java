package flarvo.decision;

import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A log and the states that its decisions lead to, so that undo shows at once. States share their
 * data, so keeping them is cheap.
 */
public final class DecisionHistory {

  private final ShotState base;
  private final List<ShotState> states = new ArrayList<>(); // after each entry
  private DecisionLog log;
  private boolean changed;

  /** Nothing decided on a shot as it came in. */
  public DecisionHistory(ShotState base) {
    this(base, DecisionLog.on(InputIdentity.of(base)));
  }

  private DecisionHistory(ShotState base, DecisionLog log) {
    this.base = base;
    this.log = log;
  }

  /**
   * The history that a project file holds. Nothing is worked out again: outcomes and levels are
   * taken as they were stored.
   *
   * @param progress reading the files that decisions name may take long
   * @throws InputError when a decision cannot be applied to what its outcome was made for, with its
   *     number as the place
   */
  public static DecisionHistory restored(ShotState base, DecisionLog log, Progress progress) {
    List<DecisionEntry> entries = new ArrayList<>();
    DecisionHistory h = new DecisionHistory(base, log);
    ShotState s = base;
    String came = InputIdentity.of(base);
    String next = came;
    for (DecisionEntry e : log.entries()) {
      String input = e.input().isEmpty() ? next : e.input();
      progress.step(entries.size(), log.entries().size());
      ShotState before = s;
      Optional<Outcome> outcome = e.outcome().map(o -> e.decision().reread(o, before, progress));
      if (e.problem().isEmpty()) {
        if (e.decision().worksOut() && outcome.isEmpty()) {
          throw new IllegalArgumentException(
              "decision " + e.id() + " (" + e.decision().code() + "): its outcome is missing");
        }
        s = e.decision().on(s, outcome).state();
        s = e.level().map(s::withLevel).orElse(s);
      }
      h.states.add(s);
      DecisionEntry there =
          new DecisionEntry(
              e.id(),
              e.decision(),
              input,
              outcome,
              s.level().equals(before.level()) ? Optional.empty() : Optional.of(s.level()),
              e.problem(),
              e.missed());
      entries.add(there);
      next = there.next();
    }
    h.changed = !log.base().isEmpty() && !log.base().equals(came);
    h.log =
        new DecisionLog(log.base().isEmpty() ? came : log.base(), entries, log.at(), log.nextId());
    return h;
  }

  /** The shot with nothing decided. */
  public ShotState base() {
    return base;
  }

  public DecisionLog log() {
    return log;
  }

  /**
   * Whether the files hold something else now than when the decisions were made: their outcomes
   * were worked out on what is no longer there.
   */
  public boolean filesChanged() {
    return changed;
  }

  /** The state after every decision that counts. */
  public ShotState present() {
    return state(log);
  }

  private ShotState state(DecisionLog l) {
    return l.at() == 0 ? base : states.get(l.at() - 1);
  }

  /**
   * Works a decision out here and now, and adds it.
   *
   * @throws InputError when it cannot be applied; nothing was changed then
   */
  public ShotState apply(Decision d) {
    return add(Decided.of(present(), d, Progress.NONE));
  }

  /**
   * Adds a decision that was made on the present state.
   *
   * @throws IllegalArgumentException when it was made on another one
   */
  @SuppressWarnings("ReferenceEquality") // states are values; an equal one is another moment
  public ShotState add(Decided d) {
    if (d.before() != present()) {
      throw new IllegalArgumentException("'" + d.title() + "' was decided on another state");
    }
    while (states.size() > log.at()) {
      states.remove(states.size() - 1);
    }
    log = log.with(d);
    states.add(d.after());
    return d.after();
  }

  /** What undo would take back. */
  public Optional<String> undoTitle() {
    return log.undoTitle();
  }

  /** What redo would bring back. */
  public Optional<String> redoTitle() {
    return log.redoTitle();
  }

  /** The state that {@link #undo} would lead to. */
  public ShotState beforeLast() {
    return state(log.undone());
  }

  /** The state that {@link #redo} would lead to. */
  public ShotState afterNext() {
    return state(log.redone());
  }

  /** One step back; the present state where there is none. */
  public ShotState undo() {
    log = log.undone();
    return present();
  }

  /** One step ahead; the present state where there is none. */
  public ShotState redo() {
    log = log.redone();
    return present();
  }
}
