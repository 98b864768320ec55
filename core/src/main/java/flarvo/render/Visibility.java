package flarvo.render;

import java.util.Arrays;

/**
 * Which triangle is seen at each sample of some rows of the picture, and how deep. Samples lie in
 * the middles of a grid of so many a pixel each way; with one a pixel they are the pixels' middles.
 * A sample on an edge that two triangles share belongs to one of them (the top-left rule).
 */
final class Visibility {

  static final int NOTHING = -1;

  private final int width;
  private final int samples;
  private int top;
  private int rows;
  private final int[] from; // of each row of samples, what was drawn into
  private final int[] to;
  private final int[] seen;
  private final double[] inverse;

  /**
   * @param width pixels; {@code most} rows at once, in pixels
   * @param samples a pixel and direction
   */
  Visibility(int width, int most, int samples) {
    this.width = width;
    this.samples = samples;
    int n = Math.multiplyExact(Math.multiplyExact(width, samples), most * samples);
    seen = new int[n];
    inverse = new double[n];
    Arrays.fill(seen, NOTHING);
    from = new int[most * samples];
    to = new int[most * samples];
    Arrays.fill(from, Integer.MAX_VALUE);
    Arrays.fill(to, -1);
  }

  /** Draws the rows from {@code top} on. */
  void draw(Projected p, int top, int rows) {
    this.top = top;
    this.rows = rows;
    for (int sy = 0; sy < from.length; sy++) {
      if (to[sy] >= 0) {
        int row = sy * width * samples;
        Arrays.fill(seen, row + from[sy], row + to[sy] + 1, NOTHING);
        Arrays.fill(inverse, row + from[sy], row + to[sy] + 1, 0);
        from[sy] = Integer.MAX_VALUE;
        to[sy] = -1;
      }
    }
    for (int i = 0; i < p.count(); i++) {
      triangle(p, i);
    }
  }

  /** Whether anything may be seen in a pixel; false where surely nothing is. */
  boolean touches(int x, int y) {
    for (int sy = y * samples; sy < (y + 1) * samples; sy++) {
      if (from[sy] < (x + 1) * samples && to[sy] >= x * samples) {
        return true;
      }
    }
    return false;
  }

  /** Number of the triangle that is seen; sample places count from the left and the rows' top. */
  int seen(int sx, int sy) {
    return seen[sy * width * samples + sx];
  }

  /** Depth along the view in metres; infinite where there is nothing. */
  double depth(int sx, int sy) {
    return 1 / inverse[sy * width * samples + sx];
  }

  private void triangle(Projected p, int i) {
    int b = 1;
    int c = 2;
    double ax = p.x(i, 0);
    double ay = p.y(i, 0);
    double area = (p.x(i, 1) - ax) * (p.y(i, 2) - ay) - (p.y(i, 1) - ay) * (p.x(i, 2) - ax);
    if (area < 0) {
      b = 2; // both sides are seen
      c = 1;
      area = -area;
    }
    if (!(area > 0)) {
      return;
    }
    double bx = p.x(i, b);
    double by = p.y(i, b);
    double cx = p.x(i, c);
    double cy = p.y(i, c);
    if (Math.max(ay, Math.max(by, cy)) < top || Math.min(ay, Math.min(by, cy)) > top + rows) {
      return;
    }
    int across = width * samples;
    int fromX = place(Math.min(ax, Math.min(bx, cx)), across);
    int toX = place(Math.max(ax, Math.max(bx, cx)), across);
    int fromY = place(Math.min(ay, Math.min(by, cy)) - top, rows * samples);
    int toY = place(Math.max(ay, Math.max(by, cy)) - top, rows * samples);
    boolean openA = !topLeft(bx, by, cx, cy);
    boolean openB = !topLeft(cx, cy, ax, ay);
    boolean openC = !topLeft(ax, ay, bx, by);
    double ia = p.inverseDepth(i, 0) / area;
    double ib = p.inverseDepth(i, b) / area;
    double ic = p.inverseDepth(i, c) / area;
    for (int sy = fromY; sy <= toY; sy++) {
      double y = top + (sy + 0.5) / samples;
      int at = sy * across + fromX;
      from[sy] = Math.min(from[sy], fromX);
      to[sy] = Math.max(to[sy], toX);
      for (int sx = fromX; sx <= toX; sx++, at++) {
        double x = (sx + 0.5) / samples;
        double wa = (cx - bx) * (y - by) - (cy - by) * (x - bx);
        double wb = (ax - cx) * (y - cy) - (ay - cy) * (x - cx);
        double wc = (bx - ax) * (y - ay) - (by - ay) * (x - ax);
        if (wa < 0 || wb < 0 || wc < 0) {
          continue;
        }
        if (wa == 0 && openA || wb == 0 && openB || wc == 0 && openC) {
          continue;
        }
        double near = wa * ia + wb * ib + wc * ic;
        if (near > inverse[at]) {
          inverse[at] = near;
          seen[at] = p.of(i);
        }
      }
    }
  }

  /** The sample at or next to a place in pixels, within the grid. */
  private int place(double pixels, int most) {
    double s = Math.floor(pixels * samples);
    return (int) Math.max(0, Math.min(most - 1, s));
  }

  /** With y down and corners clockwise on the screen. */
  private static boolean topLeft(double x0, double y0, double x1, double y1) {
    return y1 < y0 || y1 == y0 && x1 > x0;
  }
}
