package flarvo.desktop.state;

import flarvo.decision.Decided;
import flarvo.decision.Decision;
import flarvo.decision.DecisionHistory;
import flarvo.decision.DecisionLog;
import flarvo.decision.Outcome;
import flarvo.decision.ShotState;
import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.work.Progress;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;

/**
 * The open shot. Decisions go in, snapshots come out; the window's thread only. Decisions are
 * applied beside the window, in the order in which they were made.
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

  private final List<Runnable> afterwards = new ArrayList<>();

  /** A step that waits for the one before it. */
  private record Pending(
      String title, Supplier<Function<Progress, Step>> begin, Consumer<Step> done) {}

  /**
   * What a step leads to, with what is drawn of it.
   *
   * @param decided null for undo and redo
   */
  private record Step(Decided decided, DerivedShot.Input state, DerivedShot drawn) {}

  /**
   * @param more slots that are worked out whatever is shown, besides what is drawn
   * @param decided told of every step in words, undo and redo included, when it is done
   */
  ShotStore(Jobs jobs, List<Slot<?, ?>> more, Consumer<String> say, Consumer<String> decided) {
    this.jobs = jobs;
    always = Stream.concat(Stream.of(DerivedShot.SLOT), more.stream()).toList();
    this.say = say;
    this.decided = decided;
    wanted = this.always;
    values = new SlotValues(jobs, () -> publish(now.get()), say);
    draw(ShotState.NONE, DerivedShot.of(ShotState.NONE));
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
   * Shows another shot.
   *
   * @param drawn of its present state
   * @param before told of it before anybody else is
   */
  void open(DecisionHistory h, DerivedShot drawn, Consumer<Snapshot> before) {
    queue.clear();
    jobs.drop(Lane.APPLY);
    jobs.drop(Lane.DECIDE);
    values.forget();
    history = h;
    draw(h.present(), drawn);
    before.accept(new Snapshot(0, true, h.log(), h.present(), new HashMap<>()));
    publish(h.log(), h.present());
    applied();
  }

  private void draw(ShotState s, DerivedShot drawn) {
    values.know(DerivedShot.SLOT, new DerivedShot.Input(s), drawn);
  }

  /** What makes a step out of the state that it leads to, in another thread. */
  private StepMaker stepMaker() {
    BiFunction<DerivedShot.Input, Progress, DerivedShot> made =
        values.maker(DerivedShot.SLOT, now.get().get(DerivedShot.SLOT).value());
    return (decided, s, progress) -> {
      DerivedShot.Input in = new DerivedShot.Input(s);
      return new Step(decided, in, made.apply(in, progress));
    };
  }

  private interface StepMaker {
    Step of(Decided decided, ShotState after, Progress progress);
  }

  /** Whether a decision waits to be applied. */
  public boolean isApplying() {
    return !queue.isEmpty();
  }

  /** Runs something when every decision made so far is applied: at once where none waits. */
  public void whenApplied(Runnable then) {
    afterwards.add(then);
    applied();
  }

  private void applied() {
    if (queue.isEmpty()) {
      List<Runnable> all = List.copyOf(afterwards);
      afterwards.clear();
      all.forEach(Runnable::run);
    }
  }

  private void publish(DecisionLog log, ShotState state) {
    publish(new Snapshot(now.get().revision() + 1, true, log, state, new HashMap<>()));
  }

  private void publish(Snapshot bare) {
    now.set(values.fill(bare, wanted, now.get()));
  }

  /** Decides; what cannot be applied is said, and nothing is changed. */
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
    enqueue(
        new Pending(
            capital(d.title()),
            () -> {
              ShotState s = history.present();
              StepMaker step = stepMaker();
              return p -> {
                Decided made = work.apply(s, p);
                return step.of(made, made.after(), p);
              };
            },
            made -> {
              add(made);
              then.run();
            }));
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
      applied();
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
    StepMaker step = stepMaker();
    jobs.newest(
        Lane.DECIDE,
        Lane.DECIDE,
        title,
        p -> {
          T made = work.apply(s, p);
          Decided d = of.apply(made);
          return Map.entry(made, step.of(d, d.after(), p));
        },
        made -> {
          if (isPresent(s)) {
            add(made.getValue());
            done.accept(made.getKey());
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

  private void add(Step made) {
    Decided d = made.decided();
    history.add(d);
    values.know(DerivedShot.SLOT, made.state(), made.drawn());
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
    enqueue(
        new Pending(
            what,
            () -> {
              ShotState to = target(back);
              StepMaker step = stepMaker();
              return p -> step.of(null, to, p);
            },
            made -> go(done, back, made)));
  }

  private ShotState target(boolean back) {
    return back ? history.beforeLast() : history.afterNext();
  }

  private void go(String done, boolean back, Step made) {
    Optional<String> title = back ? history.undoTitle() : history.redoTitle();
    if (title.isEmpty()) {
      return;
    }
    if (back) {
      history.undo();
    } else {
      history.redo();
    }
    values.know(DerivedShot.SLOT, made.state(), made.drawn());
    publish(history.log(), history.present());
    decided.accept(done + title.get());
  }

  private static String capital(String s) {
    return s.substring(0, 1).toUpperCase(Locale.ROOT) + s.substring(1);
  }
}
