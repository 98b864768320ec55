package flarvo.desktop.state;

import flarvo.desktop.work.Jobs;
import flarvo.desktop.work.Lane;
import flarvo.work.Progress;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiFunction;
import java.util.function.Consumer;

/** Works out what slots hold, beside the window. */
final class SlotValues {

  /** Values kept for each slot, so that undo shows at once. */
  private static final int KEPT = 4;

  private record Kept(Object key, Object value) {}

  private final Jobs jobs;
  private final Runnable arrived;
  private final Consumer<String> say;
  private final Map<Slot<?, ?>, Deque<Kept>> kept = new HashMap<>();
  private final Map<Slot<?, ?>, Object> pending = new HashMap<>();
  private final Map<Slot<?, ?>, Map<Object, String>> failed = new HashMap<>();

  /**
   * @param arrived told when a value is there that was not
   */
  SlotValues(Jobs jobs, Runnable arrived, Consumer<String> say) {
    this.jobs = jobs;
    this.arrived = arrived;
    this.say = say;
  }

  boolean isBusy() {
    return !pending.isEmpty();
  }

  /** Values of another shot are nobody's old values. */
  void forget() {
    pending.keySet().forEach(jobs::drop);
    pending.clear();
    kept.clear();
    failed.clear();
  }

  /**
   * What makes a slot's values in another thread, from what is known now.
   *
   * @param before its last value
   */
  @SuppressWarnings("unchecked") // kept under its own slot
  <K, T> BiFunction<K, Progress, T> maker(Slot<K, T> slot, T before) {
    List<Kept> there = List.copyOf(kept.getOrDefault(slot, new ArrayDeque<>()));
    return (key, progress) -> {
      for (Kept k : there) {
        if (k.key().equals(key)) {
          return (T) k.value();
        }
      }
      return slot.work(key, before, progress);
    };
  }

  /** A value that is known already. */
  <K, T> void know(Slot<K, T> slot, K key, T value) {
    keep(slot, key, value);
  }

  /** Fills in what is there, and starts what is not. Slots may ask for those before them. */
  Snapshot fill(Snapshot bare, List<Slot<?, ?>> wanted, Snapshot before) {
    Map<Slot<?, ?>, Worked<?>> values = new HashMap<>();
    Snapshot s = new Snapshot(bare.revision(), bare.isOpen(), bare.log(), bare.state(), values);
    for (Slot<?, ?> slot : wanted) {
      values.put(slot, value(slot, s, before));
    }
    pending.keySet().removeIf(slot -> gone(slot, wanted));
    return s;
  }

  private boolean gone(Slot<?, ?> slot, List<Slot<?, ?>> wanted) {
    boolean gone = !wanted.contains(slot);
    if (gone) {
      jobs.drop(slot);
    }
    return gone;
  }

  private <K, T> Worked<T> value(Slot<K, T> slot, Snapshot s, Snapshot before) {
    Optional<K> key = slot.input(s);
    if (key.isEmpty()) {
      stop(slot);
      return Worked.none();
    }
    Kept known = known(slot, key.get());
    if (known != null) {
      stop(slot);
      return current(known);
    }
    String why = failed.getOrDefault(slot, Map.of()).get(key.get());
    if (why != null) {
      return new Worked<>(before.get(slot).value(), true, why);
    }
    T old = before.get(slot).value();
    start(slot, key.get(), old);
    return new Worked<>(old, false, "");
  }

  @SuppressWarnings("unchecked") // kept under its own slot
  private static <T> Worked<T> current(Kept k) {
    return new Worked<>((T) k.value(), true, "");
  }

  private void stop(Slot<?, ?> slot) {
    if (pending.remove(slot) != null) {
      jobs.drop(slot);
    }
  }

  private <K, T> void start(Slot<K, T> slot, K key, T before) {
    if (key.equals(pending.get(slot))) {
      return;
    }
    pending.put(slot, key);
    jobs.newest(
        slot,
        Lane.MEASURE,
        slot.title(),
        p -> slot.work(key, before, p),
        made -> {
          pending.remove(slot);
          keep(slot, key, made);
          arrived.run();
        },
        why -> {
          pending.remove(slot);
          failed.computeIfAbsent(slot, x -> new HashMap<>()).put(key, why);
          say.accept(why);
          arrived.run();
        });
  }

  private Kept known(Slot<?, ?> slot, Object key) {
    Deque<Kept> all = kept.get(slot);
    if (all != null) {
      for (Kept k : all) {
        if (k.key().equals(key)) {
          return k;
        }
      }
    }
    return null;
  }

  private void keep(Slot<?, ?> slot, Object key, Object value) {
    Deque<Kept> all = kept.computeIfAbsent(slot, x -> new ArrayDeque<>());
    all.removeIf(k -> k.key().equals(key));
    all.addFirst(new Kept(key, value));
    while (all.size() > KEPT) {
      all.removeLast();
    }
  }
}
