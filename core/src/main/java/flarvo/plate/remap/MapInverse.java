package flarvo.plate.remap;

import java.util.Arrays;

/**
 * A grid of positions the other way round. For each pixel, Newton's method over the moves of the
 * grid, which between pixels go bicubically; it starts where the pixel beside it ended.
 */
final class MapInverse {

  /** Further off than this after all turns, and the grid does not reach the pixel. */
  private static final double CLOSE_PX = 1e-3;

  private static final int TURNS = 20;

  /** A step further than this leaves the part where the grid is nearly linear. */
  private static final double LONGEST_STEP_PX = 64;

  /** How far the outermost pixels are taken to go on as they end. */
  private static final double BEYOND_PX = 2;

  private final PositionGrid grid;

  /** Where the grid leads from a point, and how it stretches there. */
  private double toX;

  private double toY;
  private double xx;
  private double xy;
  private double yx;
  private double yy;

  private final float[] wx = new float[4];
  private final float[] wy = new float[4];
  private final double[] at = new double[2];

  private MapInverse(PositionGrid grid) {
    this.grid = grid;
  }

  /**
   * The grid that undoes one.
   *
   * @param width of the picture that is had of {@code grid}, which is made here
   * @param height of the same
   */
  static PositionGrid of(PositionGrid grid, int width, int height) {
    return new MapInverse(grid).inverse(width, height);
  }

  private PositionGrid inverse(int width, int height) {
    PositionGrid out = PositionGrid.empty(width, height);
    double shiftX = (grid.width() - width) / 2.0;
    double shiftY = (grid.height() - height) / 2.0;
    double[] above = new double[2 * width];
    Arrays.fill(above, Double.NaN);
    double[] p = new double[2];
    for (int y = 0; y < height; y++) {
      double beforeX = Double.NaN;
      double beforeY = Double.NaN;
      for (int x = 0; x < width; x++) {
        boolean beside = !Double.isNaN(beforeX);
        boolean under = !Double.isNaN(above[2 * x]);
        p[0] = beside ? beforeX + 1 : under ? above[2 * x] : x + 0.5 + shiftX;
        p[1] = beside ? beforeY : under ? above[2 * x + 1] + 1 : y + 0.5 + shiftY;
        boolean found = solve(x + 0.5, y + 0.5, p);
        beforeX = found ? p[0] : Double.NaN;
        beforeY = found ? p[1] : Double.NaN;
        above[2 * x] = beforeX;
        above[2 * x + 1] = beforeY;
        out.set(x, y, beforeX, beforeY);
      }
    }
    return out;
  }

  private boolean solve(double x, double y, double[] p) {
    for (int turn = 0; turn < TURNS; turn++) {
      // Back to the grid, from where its slope leads on; a point beyond it stays too far off.
      p[0] = Math.max(-BEYOND_PX, Math.min(grid.width() + BEYOND_PX, p[0]));
      p[1] = Math.max(-BEYOND_PX, Math.min(grid.height() + BEYOND_PX, p[1]));
      if (!follow(p[0], p[1])) {
        return false;
      }
      double ex = x - toX;
      double ey = y - toY;
      double off = Math.hypot(ex, ey);
      if (off < 1e-6) {
        return true;
      }
      double det = xx * yy - xy * yx;
      if (!(Math.abs(det) > 1e-6)) {
        return false;
      }
      double dx = (yy * ex - xy * ey) / det;
      double dy = (xx * ey - yx * ex) / det;
      double most = Math.max(1, Math.hypot(dx, dy) / LONGEST_STEP_PX);
      p[0] += dx / most;
      p[1] += dy / most;
    }
    return follow(p[0], p[1]) && Math.hypot(x - toX, y - toY) < CLOSE_PX;
  }

  /** Follows the grid from a point of the picture that it makes; false where it says nothing. */
  private boolean follow(double x, double y) {
    int w = grid.width();
    int h = grid.height();
    int px = Math.max(0, Math.min(w - 2, (int) Math.floor(x - 0.5)));
    int py = Math.max(0, Math.min(h - 2, (int) Math.floor(y - 0.5)));
    double tx = x - 0.5 - px;
    double ty = y - 0.5 - py;
    if (!corners(px, py, tx, ty)) {
      return false;
    }
    if (px >= 1 && py >= 1 && px + 2 < w && py + 2 < h) {
      cubic(px, py, tx, ty);
    }
    return true;
  }

  /** From the four pixels around: how it stretches, and where it leads to, linearly. */
  private boolean corners(int px, int py, double tx, double ty) {
    grid.at(px, py, at);
    double ax = at[0];
    double ay = at[1];
    grid.at(px + 1, py, at);
    double bx = at[0];
    double by = at[1];
    grid.at(px, py + 1, at);
    double cx = at[0];
    double cy = at[1];
    grid.at(px + 1, py + 1, at);
    double ux = 1 - tx;
    double uy = 1 - ty;
    xx = uy * (bx - ax) + ty * (at[0] - cx);
    yx = uy * (by - ay) + ty * (at[1] - cy);
    xy = ux * (cx - ax) + tx * (at[0] - bx);
    yy = ux * (cy - ay) + tx * (at[1] - by);
    toX = uy * (ux * ax + tx * bx) + ty * (ux * cx + tx * at[0]);
    toY = uy * (ux * ay + tx * by) + ty * (ux * cy + tx * at[1]);
    return !Double.isNaN(toX);
  }

  private void cubic(int px, int py, double tx, double ty) {
    Filter.BICUBIC.weights(tx, wx);
    Filter.BICUBIC.weights(ty, wy);
    double sumX = 0;
    double sumY = 0;
    for (int j = 0; j < 4; j++) {
      for (int i = 0; i < 4; i++) {
        grid.at(px - 1 + i, py - 1 + j, at);
        // Less the pixel's own place: sums of moves keep digits that sums of places lose.
        double w = (double) wx[i] * wy[j];
        sumX += w * (at[0] - (px - 1 + i));
        sumY += w * (at[1] - (py - 1 + j));
      }
    }
    if (!Double.isNaN(sumX)) {
      toX = sumX + px + tx;
      toY = sumY + py + ty;
    }
  }
}
