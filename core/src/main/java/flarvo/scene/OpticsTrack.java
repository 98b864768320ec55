package flarvo.scene;

import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;

/** Optics for each frame of a range, or one that holds for all. Immutable. */
public final class OpticsTrack {

  private final FrameRange frames;
  private final List<Optics> values; // one value means constant

  private OpticsTrack(FrameRange frames, List<Optics> values) {
    this.frames = frames;
    this.values = values;
  }

  /** The same lens on every frame. */
  public static OpticsTrack constant(FrameRange frames, Optics optics) {
    return new OpticsTrack(frames, List.of(optics));
  }

  /** One lens per frame. */
  public static OpticsTrack of(FrameRange frames, IntFunction<Optics> at) {
    List<Optics> list = new ArrayList<>(frames.count());
    boolean same = true;
    for (int f = frames.first(); f <= frames.last(); f++) {
      Optics o = at.apply(f);
      list.add(o);
      same &= o.equals(list.get(0));
    }
    return same ? constant(frames, list.get(0)) : new OpticsTrack(frames, List.copyOf(list));
  }

  public FrameRange frames() {
    return frames;
  }

  /** Whether every frame has the same lens. */
  public boolean isConstant() {
    return values.size() == 1;
  }

  /** The lens at a frame of the range. */
  public Optics at(int frame) {
    if (!frames.contains(frame)) {
      throw new IndexOutOfBoundsException("frame " + frame + " is outside " + frames);
    }
    return isConstant() ? values.get(0) : values.get(frame - frames.first());
  }

  /** Every lens changed alike. */
  public OpticsTrack map(UnaryOperator<Optics> change) {
    return isConstant()
        ? constant(frames, change.apply(values.get(0)))
        : of(frames, f -> change.apply(at(f)));
  }

  /** The same under frame numbers that are {@code by} higher. */
  public OpticsTrack shifted(int by) {
    return new OpticsTrack(frames.shifted(by), values);
  }

  /** Smallest and largest focal length in millimetres. */
  public double[] focalLengthRangeMm() {
    double lo = Double.POSITIVE_INFINITY;
    double hi = Double.NEGATIVE_INFINITY;
    for (Optics o : values) {
      lo = Math.min(lo, o.focalLengthMm());
      hi = Math.max(hi, o.focalLengthMm());
    }
    return new double[] {lo, hi};
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof OpticsTrack t && frames.equals(t.frames) && values.equals(t.values);
  }

  @Override
  public int hashCode() {
    return 31 * frames.hashCode() + values.hashCode();
  }
}
