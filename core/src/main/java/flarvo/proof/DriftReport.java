package flarvo.proof;

import flarvo.scene.FrameRange;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.IntStream;

/**
 * Drift in pixels of the plate, for each frame. Frames on which no tracker could be compared hold
 * NaN.
 */
public final class DriftReport {

  private final FrameRange frames;
  private final double[] maxPx;
  private final double[] rmsPx;
  private final double max;
  private final double rms;
  private final int worstFrame;
  private final String worstTracker;
  private final IntFunction<String> worstOf;
  private final long compared;

  DriftReport(
      FrameRange frames,
      double[] maxPx,
      double[] rmsPx,
      double rms,
      int worstFrame,
      String worstTracker,
      IntFunction<String> worstOf,
      long compared) {
    this.frames = frames;
    this.maxPx = maxPx;
    this.rmsPx = rmsPx;
    this.rms = rms;
    this.worstFrame = worstFrame;
    this.worstTracker = worstTracker;
    this.worstOf = worstOf;
    this.compared = compared;
    this.max = Arrays.stream(maxPx).filter(d -> !Double.isNaN(d)).max().orElse(Double.NaN);
  }

  public FrameRange frames() {
    return frames;
  }

  /** Largest drift in pixels of the shot's picture; NaN where nothing was compared. */
  public double maxPx() {
    return max;
  }

  /** RMS drift in pixels of the shot's picture; NaN where nothing was compared. */
  public double rmsPx() {
    return rms;
  }

  /** Largest drift in pixels of the shot's picture; NaN where nothing was compared. */
  public double maxPx(int frame) {
    return maxPx[frame - frames.first()];
  }

  /** RMS drift in pixels of the shot's picture; NaN where nothing was compared. */
  public double rmsPx(int frame) {
    return rmsPx[frame - frames.first()];
  }

  /** Plate frame of the largest drift; the first frame when nothing was compared. */
  public int worstFrame() {
    return worstFrame;
  }

  /** Tracker of the largest drift; empty when nothing was compared. */
  public String worstTracker() {
    return worstTracker;
  }

  /** Tracker of the largest drift at a frame; empty when none was compared there. */
  public String worstTracker(int frame) {
    return Double.isNaN(maxPx(frame)) ? "" : worstOf.apply(frame - frames.first());
  }

  /** The frames with the largest drift, the worst first; at most so many. */
  public List<Integer> worstFrames(int most) {
    return IntStream.rangeClosed(frames.first(), frames.last())
        .filter(f -> !Double.isNaN(maxPx(f)))
        .boxed()
        .sorted(Comparator.comparingDouble((Integer f) -> -maxPx(f)).thenComparing(f -> f))
        .limit(most)
        .toList();
  }

  /** Number of projections compared. */
  public long compared() {
    return compared;
  }
}
