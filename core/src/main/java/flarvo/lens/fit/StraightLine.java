package flarvo.lens.fit;

import java.util.Arrays;
import java.util.Objects;

/**
 * Points of one line that is straight in the world, as the original picture of a frame shows it.
 */
public final class StraightLine {

  private final String name;
  private final int frame;
  private final double[] xy;

  /**
   * @param xy x and y of each point in turn; copied
   */
  public StraightLine(String name, int frame, double... xy) {
    if (xy.length % 2 != 0) {
      throw new IllegalArgumentException("x and y of each point");
    }
    this.name = name;
    this.frame = frame;
    this.xy = xy.clone();
  }

  public String name() {
    return name;
  }

  public int frame() {
    return frame;
  }

  /** Number of points. */
  public int size() {
    return xy.length / 2;
  }

  /** Pixels from the left edge of the original. */
  public double x(int i) {
    return xy[2 * i];
  }

  /** Pixels from the top edge of the original. */
  public double y(int i) {
    return xy[2 * i + 1];
  }

  /** x and y of each point in turn; a copy. */
  public double[] points() {
    return xy.clone();
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof StraightLine l
        && name.equals(l.name)
        && frame == l.frame
        && Arrays.equals(xy, l.xy);
  }

  @Override
  public int hashCode() {
    return Objects.hash(name, frame, Arrays.hashCode(xy));
  }
}
