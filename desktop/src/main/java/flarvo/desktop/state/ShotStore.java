package flarvo.desktop.state;

import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionLog;
import flarvo.decision.Outcome;
import flarvo.decision.ShotState;
import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.report.InputError;
import flarvo.work.Progress;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/**
 * The open shot. Decisions go in, snapshots come out; the window's thread only. A small shot takes
 * a decision at once; a large one beside the window, in the order in which they were made.
 */
public final class ShotStore {

  private final Jobs jobs;
  private final Consumer<String> say;
  private final Consumer<String> decided;
  private final SlotValues values;
  private final ReadOnlyObjectWrapper<Snapshot> now = new ReadOnlyObjectWrapper<>(Snapshot.empty());
  private final List<Slot<?, ?>> always;
  private final Deque<Pending> queue = new ArrayDeque<>();
  private List<Slot<?, ?>> wanted;
  private DecisionHistory history;

  /** A step that waits for the one before it. */
  private record Pending(
      String title, Supplier<Function<Progress, Decided>> begin, Consumer<Decided> done) {}

  /**
   * @param always slots that are worked out whatever is shown
   * @param decided told of every step in words, undo and redo included, when it is done
   */
  ShotStore(Jobs jobs, List<Slot<?, ?>> always, Consumer<String> say, Consumer<String> decided) {
    this.jobs = jobs;
    this.always = List.copyOf(always);
    this.say = say;
    this.decided = decided;
    wanted = this.always;
    values = new SlotValues(jobs, () -> publish(now.get()), say);
    publish(now.get());
  }

  /** The newest snapshot; never null. */
  public ReadOnlyObjectProperty<Snapshot> now() {
    return now.getReadOnlyProperty();
  }

  /** The shot as it was decided so far; null while none is open. */
  DecisionHistory history() {
    return history;
  }

  /** Whether nothing is being worked out or decided. */
  public boolean isSettled() {
    return !isDeciding() && !values.isBusy();
  }

  /** Whether a decision waits, or is being worked out. */
  boolean isDeciding() {
    return !queue.isEmpty() || jobs.isBusy(Lane.DECIDE);
  }

  /** Slots that what is shown now asks for, each after those that it rests on. */
  public void want(Collection<Slot<?, ?>> more) {
    List<Slot<?, ?>> all = new ArrayList<>(always);
    more.stream().filter(s -> !all.contains(s)).forEach(all::add);
    if (!all.equals(wanted)) {
      wanted = all;
      publish(now.get());
    }
  }

  /**
   * Shows another shot, with what is known of it.
   *
   * @param before told of it before anybody else is
   */
  <K, T> void open(DecisionHistory h, Slot<K, T> slot, K key, T value, Consumer<Snapshot> before) {
    queue.clear();
    jobs.drop(Lane.APPLY);
    jobs.drop(Lane.DECIDE);
    values.forget();
    history = h;
    values.know(slot, key, value);
    before.accept(new Snapshot(0, true, h.log(), h.present(), new HashMap<>()));
    publish(h.log(), h.present());
  }

  private void publish(DecisionLog log, ShotState state) {
    publish(new Snapshot(now.get().revision() + 1, true, log, state, new HashMap<>()));
  }

  private void publish(Snapshot bare) {
    now.set(values.fill(bare, wanted, now.get()));
  }

  /** Whether a step on this state takes less than a pulse. */
  private static boolean isSmall(ShotState s) {
    return s.isMade() && DerivedShot.isQuick(s.shot());
  }

  /** Decides here and now; what cannot be applied is said, and nothing is changed. */
  public void decide(Decision d) {
    decide(d, (s, p) -> Decided.of(s, d, p), () -> {});
  }

  /**
   * @param then told when it was applied
   */
  public void decide(Decision d, Runnable then) {
    decide(d, (s, p) -> Decided.of(s, d, p), then);
  }

  /** Decides what was worked out already, on the present state. */
  public void decide(Decision d, Outcome outcome) {
    decide(d, (s, p) -> Decided.of(s, d, Optional.of(outcome)), () -> {});
  }

  private void decide(Decision d, BiFunction<ShotState, Progress, Decided> work, Runnable then) {
    if (history == null) {
      say.accept("No shot open");
      return;
    }
    Consumer<Decided> done =
        made -> {
          add(made);
          then.run();
        };
    if (queue.isEmpty() && isSmall(history.present())) {
      try {
        done.accept(work.apply(history.present(), Progress.NONE));
      } catch (InputError e) {
        say.accept(e.getMessage()); // nothing was changed
      }
      return;
    }
    enqueue(
        new Pending(
            capital(d.title()),
            () -> {
              ShotState s = history.present();
              return p -> work.apply(s, p);
            },
            done));
  }

  private void enqueue(Pending p) {
    queue.add(p);
    if (queue.size() == 1) {
      next();
    }
  }

  private void next() {
    Pending p = queue.peek();
    if (p == null) {
      return;
    }
    ShotState s = history.present();
    jobs.newest(
        Lane.APPLY,
        Lane.APPLY,
        p.title(),
        p.begin().get(),
        made -> {
          if (!isPresent(s)) {
            next(); // something was decided meanwhile: once more, on that
            return;
          }
          queue.poll();
          p.done().accept(made);
          next();
        },
        why -> {
          queue.poll();
          say.accept(why); // nothing was changed
          next();
        });
  }

  /**
   * Works a long decision out on the present state. It is added where that still stands; else it is
   * said that something overtook it.
   *
   * @param title as the status line has it
   * @param of the decision in what was worked out
   */
  public <T> void work(
      String title,
      BiFunction<ShotState, Progress, T> work,
      Function<T, Decided> of,
      Consumer<T> done,
      Consumer<String> failed) {
    work(title, work, of, done, failed, false);
  }

  /**
   * The same for work that costs little when it is repeated, as where files that stand are left
   * alone: where something overtakes it, it is done once more on that.
   */
  public <T> void workAgain(
      String title,
      BiFunction<ShotState, Progress, T> work,
      Function<T, Decided> of,
      Consumer<T> done,
      Consumer<String> failed) {
    work(title, work, of, done, failed, true);
  }

  private <T> void work(
      String title,
      BiFunction<ShotState, Progress, T> work,
      Function<T, Decided> of,
      Consumer<T> done,
      Consumer<String> failed,
      boolean again) {
    if (history == null) {
      say.accept("No shot open");
      return;
    }
    ShotState s = history.present();
    jobs.newest(
        Lane.DECIDE,
        Lane.DECIDE,
        title,
        p -> work.apply(s, p),
        made -> {
          if (isPresent(s)) {
            add(of.apply(made));
            done.accept(made);
          } else if (again) {
            work(title, work, of, done, failed, true);
          } else {
            failed.accept(title + " was overtaken by another change; run it again");
          }
        },
        failed);
  }

  @SuppressWarnings("ReferenceEquality") // an equal state is another moment
  private boolean isPresent(ShotState s) {
    return history != null && history.present() == s;
  }

  private void add(Decided d) {
    history.add(d);
    publish(history.log(), history.present());
    String missed = d.missed().isEmpty() ? "" : " (" + String.join("; ", d.missed()) + ")";
    decided.accept(capital(d.title()) + missed);
  }

  public void undo() {
    step("Undo", "Undone: ", now.get().log().undoTitle(), true);
  }

  public void redo() {
    step("Redo", "Redone: ", now.get().log().redoTitle(), false);
  }

  private void step(String what, String done, Optional<String> title, boolean back) {
    if (history == null || title.isEmpty() && queue.isEmpty()) {
      say.accept("Nothing to " + what.toLowerCase(Locale.ROOT));
      return;
    }
    if (queue.isEmpty() && isSmall(target(back))) {
      go(done, back);
      return;
    }
    enqueue(
        new Pending(
            what,
            () -> {
              ShotState to = target(back);
              return p -> {
                to.shot(); // made here, and not when a view asks for it
                return null;
              };
            },
            x -> go(done, back)));
  }

  private ShotState target(boolean back) {
    return back ? history.beforeLast() : history.afterNext();
  }

  private void go(String done, boolean back) {
    Optional<String> title = back ? history.undoTitle() : history.redoTitle();
    if (title.isEmpty()) {
      return;
    }
    if (back) {
      history.undo();
    } else {
      history.redo();
    }
    publish(history.log(), history.present());
    decided.accept(done + title.get());
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(Locale.ROOT) + s.substring(1);
  }
}
