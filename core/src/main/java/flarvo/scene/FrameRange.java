package flarvo.scene;

/** Whole frames from first to last, both included. */
public record FrameRange(int first, int last) {

  public FrameRange {
    if (last < first) {
      throw new IllegalArgumentException(
          "a frame range cannot end before it starts: " + first + "-" + last);
    }
    if ((long) last - first >= 10_000_000L) {
      throw new IllegalArgumentException("no shot has " + ((long) last - first + 1) + " frames");
    }
  }

  /** Number of frames, first and last included. */
  public int count() {
    return last - first + 1;
  }

  /** Whether a frame lies in the range. */
  public boolean contains(int frame) {
    return frame >= first && frame <= last;
  }

  /** The frame of the range nearest to one. */
  public int clamp(int frame) {
    return Math.max(first, Math.min(last, frame));
  }

  /** From the first frame of either to the last of either. */
  public FrameRange covering(FrameRange other) {
    return new FrameRange(Math.min(first, other.first), Math.max(last, other.last));
  }

  /** The range {@code by} frames later. */
  public FrameRange shifted(int by) {
    return new FrameRange(Math.addExact(first, by), Math.addExact(last, by));
  }

  /** Reads {@code 1001-1096} or a single frame; negative frames are allowed. */
  public static FrameRange parse(String text) {
    String t = text.trim();
    int dash = t.indexOf('-', 1);
    try {
      if (dash < 0) {
        int frame = Integer.parseInt(t);
        return new FrameRange(frame, frame);
      }
      return new FrameRange(
          Integer.parseInt(t.substring(0, dash).trim()),
          Integer.parseInt(t.substring(dash + 1).trim()));
    } catch (NumberFormatException e) {
      throw new IllegalArgumentException("'" + t + "' is not a frame range; write 1001-1096", e);
    }
  }

  @Override
  public String toString() {
    return first + "-" + last;
  }
}
