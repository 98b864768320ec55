package flarvo.decision;

import flarvo.receive.ReceivedSet;
import flarvo.report.InputError;
import flarvo.scene.Shot;
import flarvo.scene.Similarity;
import flarvo.stage.SolveOnSolve;
import flarvo.work.Progress;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * A log's decisions made again on a shot: on the same files, on another solve of the shot, or on
 * another shot. Everything is worked out again. What cannot be applied stays in the list, with the
 * reason.
 *
 * @param start where the shot stood before the first decision
 * @param aligned how the new solve was aligned to the old one; empty where it was not
 * @param history the decisions on the new shot
 */
public record Replay(ShotState start, Optional<SolveOnSolve> aligned, DecisionHistory history) {

  /** What became of one decision. */
  public record Line(long id, String code, String title, boolean applied, List<String> why) {
    public Line {
      why = List.copyOf(why);
    }

    /** Nothing of it was left out. */
    public boolean whole() {
      return applied && why.isEmpty();
    }
  }

  /** Makes every decision that counts again on the files that it was made on. */
  public static Replay same(ShotState base, DecisionLog log, Progress progress) {
    return new Replay(base, Optional.empty(), run(base, base, log, progress));
  }

  /**
   * Makes every decision that counts on another solve of the shot, or on another shot. A solve that
   * shares trackers with the old one is first aligned to it, so that what was done by hand means
   * the same.
   *
   * @param old the shot that the decisions were made on, with nothing decided
   */
  public static Replay onto(ShotState old, DecisionLog log, ReceivedSet files, Progress progress) {
    ShotState fresh = ShotState.of(old.name(), files);
    Optional<SolveOnSolve> fit = align(old, log, fresh, progress);
    ShotState start = fit.map(f -> fresh.withLevel(f.onto())).orElse(fresh);
    return new Replay(start, fit, run(old, start, log, progress));
  }

  /**
   * Makes decisions on a shot that they were not made on. Nothing is aligned: they are those of a
   * recipe, which mean any shot.
   */
  public static Replay of(ShotState start, List<Decision> decisions, Progress progress) {
    DecisionHistory h = new DecisionHistory(start);
    int done = 0;
    for (Decision d : decisions) {
      progress.step(done++, decisions.size());
      h.add(made(h.present(), d, progress));
    }
    return new Replay(start, Optional.empty(), h);
  }

  /** Both solves are read as they are ruled in the end, so that units and axes agree. */
  private static Optional<SolveOnSolve> align(
      ShotState old, DecisionLog log, ShotState fresh, Progress progress) {
    ShotState a = old;
    ShotState b = fresh;
    for (DecisionEntry e : log.counting()) {
      a = a.withRulings(ReceiveDecision.ruled(e.decision(), e.outcome(), a.rulings()));
      b = b.withRulings(a.rulings());
    }
    try {
      Shot first = a.shot();
      Shot second = b.shot();
      return Optional.of(SolveOnSolve.of(first, second, progress));
    } catch (InputError e) {
      return Optional.empty(); // another shot, or no tracker in common: said with each decision
    }
  }

  private static DecisionHistory run(
      ShotState old, ShotState start, DecisionLog log, Progress progress) {
    DecisionHistory h = new DecisionHistory(start);
    boolean same = h.log().base().equals(log.base()) && start.level().equals(old.level());
    int done = 0;
    for (DecisionEntry e : log.counting()) {
      progress.step(done++, log.at());
      h.add(again(h.present(), e, same, progress));
    }
    return h;
  }

  private static Decided again(ShotState s, DecisionEntry e, boolean same, Progress progress) {
    if (e.decision() instanceof AsItStood a) {
      return asItStood(s, a, e, same);
    }
    return made(s, e.decision(), progress);
  }

  private static Decided made(ShotState s, Decision d, Progress progress) {
    try {
      return Decided.of(s, d, progress);
    } catch (InputError x) {
      return Decided.failed(s, d, x.reason());
    }
  }

  /** What an older project worked out cannot be worked out again: nobody wrote down how. */
  private static Decided asItStood(ShotState s, AsItStood a, DecisionEntry e, boolean same) {
    try {
      Applied done = a.on(s, same ? e.outcome() : Optional.empty());
      List<String> missed = new ArrayList<>(done.missed());
      ShotState next = done.state();
      if (same) {
        next = e.level().map(next::withLevel).orElse(next);
      } else {
        a.missing(next).forEach(t -> missed.add(Applied.notFound(t)));
        if (e.outcome().isPresent()) {
          missed.add("the refined solve was made for other files; refine again");
        }
        if (next.isStated()) {
          next = next.withLevel(next.statedLevel());
        } else if (e.level().isPresent()) {
          missed.add("the level was set on another solve; level again");
        }
      }
      Optional<Similarity> level =
          next.level().equals(s.level()) ? Optional.empty() : Optional.of(next.level());
      next.shot();
      return new Decided(
          a, s, next, same ? e.outcome() : Optional.empty(), level, Optional.empty(), missed);
    } catch (InputError x) {
      return Decided.failed(s, a, x.reason());
    }
  }

  /** One line for each decision, in their order. */
  public List<Line> lines() {
    List<Line> out = new ArrayList<>();
    for (DecisionEntry e : history.log().entries()) {
      List<String> why = new ArrayList<>(e.missed());
      e.problem().ifPresent(why::add);
      out.add(new Line(e.id(), e.decision().code(), e.title(), e.problem().isEmpty(), why));
    }
    return out;
  }

  /**
   * Whether the new solve's trackers are known to bear other names than the old one's: what names a
   * tracker may then mean another one.
   */
  public boolean otherNames() {
    return aligned
        .map(a -> a.pairs().entrySet().stream().anyMatch(e -> !e.getKey().equals(e.getValue())))
        .orElse(false);
  }

  /** Whether every decision was applied with nothing left out. */
  public boolean complete() {
    return lines().stream().allMatch(Line::whole);
  }
}
