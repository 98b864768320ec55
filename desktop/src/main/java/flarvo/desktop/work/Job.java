package flarvo.desktop.work;

import flarvo.work.Progress;
import java.util.concurrent.Executor;
import javafx.beans.property.ReadOnlyDoubleProperty;
import javafx.beans.property.ReadOnlyDoubleWrapper;

/** One piece of background work as the status line shows it. */
public final class Job implements Progress {

  /** How often the window hears of progress, in nanoseconds. */
  private static final long EVERY = 50_000_000L;

  private final String title;
  private final ReadOnlyDoubleWrapper fraction = new ReadOnlyDoubleWrapper(-1);
  private final long started = System.nanoTime();
  private final Lane lane;
  private final Executor window;
  private volatile boolean cancelled;
  private volatile boolean replaced;
  private long told;

  /**
   * @param window runs what belongs to the window's thread
   */
  Job(String title, Lane lane, Executor window) {
    this.title = title;
    this.lane = lane;
    this.window = window;
  }

  public Lane lane() {
    return lane;
  }

  /** Newer work took its place: nobody waits for it any more. */
  void replace() {
    replaced = true;
    cancelled = true;
  }

  boolean isReplaced() {
    return replaced;
  }

  public String title() {
    return title;
  }

  /** 0 to 1, or −1 while the end is not known. */
  public ReadOnlyDoubleProperty fraction() {
    return fraction.getReadOnlyProperty();
  }

  /** Seconds that remain at the pace so far; −1 while that is not known. */
  public double secondsLeft() {
    double f = fraction.get();
    double gone = (System.nanoTime() - started) / 1e9;
    return f > 0.02 && gone > 0.5 ? gone * (1 - f) / f : -1;
  }

  public void cancel() {
    cancelled = true;
  }

  @Override
  public void at(long done, long total) {
    long now = System.nanoTime();
    if (now - told < EVERY) {
      return;
    }
    told = now;
    double f = total > 0 ? (double) done / total : -1;
    window.execute(() -> fraction.set(f));
  }

  @Override
  public boolean isCancelled() {
    return cancelled;
  }
}
