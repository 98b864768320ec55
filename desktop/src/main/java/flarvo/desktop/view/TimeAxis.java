package flarvo.desktop.view;

import flarvo.scene.FrameRange;

/** Where frames stand in the ladder, and in every graph over it. */
public final class TimeAxis {

  /** Where time begins, right of the names. */
  public static final double LEFT = 150;

  public static final double RIGHT = 16;

  private TimeAxis() {}

  /** Horizontal place of a frame's middle in a view of some width. */
  public static double xOf(int frame, FrameRange r, double width) {
    return LEFT + (frame - r.first() + 0.5) / r.count() * span(width);
  }

  /** The frame at a place; may lie outside of the range. */
  public static int frameAt(double x, FrameRange r, double width) {
    return r.first() + (int) Math.floor((x - LEFT) / span(width) * r.count());
  }

  /** Pixels from the first frame's left to the last one's right. */
  public static double span(double width) {
    return width - LEFT - RIGHT;
  }
}
