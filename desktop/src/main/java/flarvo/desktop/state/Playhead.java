package flarvo.desktop.state;

import flarvo.scene.FrameRange;
import flarvo.scene.Rate;
import javafx.animation.AnimationTimer;
import javafx.beans.property.BooleanProperty;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleBooleanProperty;
import javafx.beans.property.SimpleIntegerProperty;
import javafx.beans.property.SimpleObjectProperty;

/**
 * The current plate frame, and playback at the true rate: which frame shows follows from the clock
 * alone, so a late picture is skipped and never delays the next.
 */
public final class Playhead {

  private final IntegerProperty frame = new SimpleIntegerProperty();
  private final BooleanProperty playing = new SimpleBooleanProperty();
  private final ObjectProperty<FrameRange> inOut = new SimpleObjectProperty<>();
  private FrameRange range = new FrameRange(0, 0);
  private Rate rate = Rate.FPS_24;
  private long startNanos;
  private int startFrame;
  private long shownFrames;
  private long skippedFrames;

  private final AnimationTimer timer =
      new AnimationTimer() {
        @Override
        public void handle(long now) {
          tick(now);
        }
      };

  Playhead() {
    playing.addListener(
        (o, a, b) -> {
          if (b) {
            startNanos = System.nanoTime();
            startFrame = frame.get() >= inOut.get().last() ? inOut.get().first() : frame.get();
            shownFrames = 0;
            skippedFrames = 0;
            timer.start();
          } else {
            timer.stop();
          }
        });
  }

  void setRange(FrameRange r, Rate fps) {
    if (!r.equals(range) || inOut.get() == null) {
      range = r;
      inOut.set(r);
      frame.set(r.clamp(frame.get()));
    }
    rate = fps;
  }

  private void tick(long now) {
    long elapsed = Math.max(0, now - startNanos);
    FrameRange loop = inOut.get();
    long steps = framesAfter(elapsed, rate);
    int next = loop.first() + Math.floorMod(startFrame - loop.first() + steps, loop.count());
    int before = frame.get();
    if (next != before) {
      int step = Math.floorMod(next - before, loop.count());
      shownFrames++;
      skippedFrames += Math.max(0, step - 1);
      frame.set(next);
    }
  }

  /** Whole frames that have passed, from exact integers. */
  static long framesAfter(long nanos, Rate rate) {
    return Math.multiplyHigh(nanos, rate.num()) == 0
        ? nanos * rate.num() / (rate.den() * 1_000_000_000L)
        : (long) (nanos / 1e9 * rate.num() / rate.den());
  }

  void stop() {
    timer.stop();
  }

  public void step(int by) {
    playing.set(false);
    frame.set(range.clamp(frame.get() + by));
  }

  public void goTo(int f) {
    frame.set(range.clamp(f));
    if (playing.get()) {
      startNanos = System.nanoTime();
      startFrame = frame.get();
    }
  }

  public void setIn() {
    inOut.set(new FrameRange(frame.get(), Math.max(frame.get(), inOut.get().last())));
  }

  public void setOut() {
    inOut.set(new FrameRange(Math.min(inOut.get().first(), frame.get()), frame.get()));
  }

  public void clearInOut() {
    inOut.set(range);
  }

  public FrameRange range() {
    return range;
  }

  public Rate rate() {
    return rate;
  }

  public IntegerProperty frame() {
    return frame;
  }

  public BooleanProperty playing() {
    return playing;
  }

  public ObjectProperty<FrameRange> inOut() {
    return inOut;
  }

  /** Frames that came up since play was last pressed. */
  public long shownFrames() {
    return shownFrames;
  }

  public long skippedFrames() {
    return skippedFrames;
  }
}
