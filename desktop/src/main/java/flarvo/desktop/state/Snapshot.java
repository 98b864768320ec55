package flarvo.desktop.state;

import flarvo.decision.DecisionLog;
import flarvo.decision.ShotState;
import java.util.HashMap;
import java.util.Map;

/**
 * The open shot at one moment, with everything that was worked out of it so far. What belongs
 * together is read from one snapshot. Immutable.
 */
public final class Snapshot {

  private final long revision;
  private final boolean open;
  private final DecisionLog log;
  private final ShotState state;
  private final Map<Slot<?, ?>, Worked<?>> values;

  /** The map is filled while the snapshot is made, and never after it was published. */
  Snapshot(
      long revision,
      boolean open,
      DecisionLog log,
      ShotState state,
      Map<Slot<?, ?>, Worked<?>> values) {
    this.revision = revision;
    this.open = open;
    this.log = log;
    this.state = state;
    this.values = values;
  }

  static Snapshot empty() {
    return new Snapshot(0, false, DecisionLog.EMPTY, ShotState.NONE, new HashMap<>());
  }

  /** One more with every decision, undo, redo and opening. */
  public long revision() {
    return revision;
  }

  /** Whether this is a shot that somebody opened; else it is the empty one. */
  public boolean isOpen() {
    return open;
  }

  public DecisionLog log() {
    return log;
  }

  public ShotState state() {
    return state;
  }

  /** What a slot holds; nothing for one that nobody asked for. */
  @SuppressWarnings("unchecked") // a slot's value is only ever put in under its own slot
  public <T> Worked<T> get(Slot<?, T> slot) {
    return (Worked<T>) values.getOrDefault(slot, Worked.none());
  }

  /** Whether everything that was asked for is of this revision. */
  public boolean isSettled() {
    return values.values().stream().allMatch(Worked::current);
  }
}
