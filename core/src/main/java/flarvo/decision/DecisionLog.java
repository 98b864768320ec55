package flarvo.decision;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.UnaryOperator;

/**
 * Every decision about a shot in its order, and how many of them count: those after are undone and
 * can be redone until another decision takes their place.
 *
 * @param base identity of what came in; empty where it was never read
 * @param at number of entries that count
 * @param nextId the id that the next entry gets
 */
public record DecisionLog(String base, List<DecisionEntry> entries, int at, long nextId) {

  /** Nothing decided on nothing known. */
  public static final DecisionLog EMPTY = new DecisionLog("", List.of(), 0, 1);

  public DecisionLog {
    entries = List.copyOf(entries);
    if (at < 0 || at > entries.size()) {
      throw new IllegalArgumentException(
          at + " of " + entries.size() + " decisions cannot be the ones that count");
    }
    long last = 0;
    for (DecisionEntry e : entries) {
      if (e.id() <= last) {
        throw new IllegalArgumentException("decision " + e.id() + " follows decision " + last);
      }
      last = e.id();
    }
    if (nextId <= last) {
      throw new IllegalArgumentException("id " + nextId + " is used already");
    }
  }

  /** Nothing decided. */
  public static DecisionLog on(String base) {
    return new DecisionLog(base, List.of(), 0, 1);
  }

  /**
   * Decisions that work nothing out, on files that nobody read yet.
   *
   * @throws IllegalArgumentException when one of them needs an outcome
   */
  public static DecisionLog of(List<Decision> decisions) {
    List<DecisionEntry> all = new ArrayList<>();
    for (Decision d : decisions) {
      if (d.worksOut()) {
        throw new IllegalArgumentException("'" + d.title() + "' needs an outcome");
      }
      all.add(
          new DecisionEntry(
              all.size() + 1L,
              d,
              "",
              Optional.empty(),
              Optional.empty(),
              Optional.empty(),
              List.of()));
    }
    return new DecisionLog("", all, all.size(), all.size() + 1L);
  }

  /** Some entries alone, with ids from 1: for comparing what two histories came to. */
  public static DecisionLog renumbered(String base, List<DecisionEntry> entries) {
    List<DecisionEntry> all = new ArrayList<>();
    for (DecisionEntry e : entries) {
      all.add(
          new DecisionEntry(
              all.size() + 1L,
              e.decision(),
              e.input(),
              e.outcome(),
              e.level(),
              e.problem(),
              e.missed()));
    }
    return new DecisionLog(base, all, all.size(), all.size() + 1L);
  }

  /** With a decision more; what was undone is forgotten. */
  public DecisionLog with(Decided d) {
    List<DecisionEntry> all = new ArrayList<>(entries.subList(0, at));
    all.add(
        new DecisionEntry(
            nextId, d.decision(), identity(), d.outcome(), d.level(), d.problem(), d.missed()));
    return new DecisionLog(base, all, all.size(), nextId + 1);
  }

  /** One step back; the same where there is none. */
  public DecisionLog undone() {
    return at == 0 ? this : new DecisionLog(base, entries, at - 1, nextId);
  }

  /** One step ahead; the same where there is none. */
  public DecisionLog redone() {
    return at == entries.size() ? this : new DecisionLog(base, entries, at + 1, nextId);
  }

  /** Tells states of a history apart: the id of the last decision that counts, 0 for none. */
  public long position() {
    return at == 0 ? 0 : entries.get(at - 1).id();
  }

  /** Identity of the state that the decisions that count lead to. */
  public String identity() {
    return at == 0 ? base : entries.get(at - 1).next();
  }

  /** The decisions that count. */
  public List<DecisionEntry> counting() {
    return entries.subList(0, at);
  }

  /** The same with files elsewhere. */
  public DecisionLog withPaths(UnaryOperator<Path> moved) {
    return new DecisionLog(
        base,
        entries.stream().map(e -> e.withDecision(e.decision().withPaths(moved))).toList(),
        at,
        nextId);
  }

  /** What undo would take back; empty where nothing counts. */
  public Optional<String> undoTitle() {
    return at == 0 ? Optional.empty() : Optional.of(entries.get(at - 1).title());
  }

  /** What redo would bring back. */
  public Optional<String> redoTitle() {
    return at == entries.size() ? Optional.empty() : Optional.of(entries.get(at).title());
  }
}
