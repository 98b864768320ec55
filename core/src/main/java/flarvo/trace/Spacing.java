package flarvo.trace;

import java.util.Arrays;

/** Places in a picture, asked for neighbours. Cells of a grid, each a chain of places. */
final class Spacing {

  private static final int FIRST = 64;

  private final double cell;
  private final int columns;
  private final int rows;
  private final int[] head;
  private int[] next = new int[FIRST];
  private double[] places = new double[2 * FIRST];
  private int size;

  /**
   * @param reach farthest neighbour that will be asked for
   */
  Spacing(int width, int height, double reach) {
    cell = Math.max(1, reach);
    columns = (int) (width / cell) + 1;
    rows = (int) (height / cell) + 1;
    head = new int[columns * rows];
    Arrays.fill(head, -1);
  }

  void add(double x, double y) {
    if (size == next.length) {
      next = Arrays.copyOf(next, 2 * size);
      places = Arrays.copyOf(places, 4 * size);
    }
    int at = row(y) * columns + column(x);
    places[2 * size] = x;
    places[2 * size + 1] = y;
    next[size] = head[at];
    head[at] = size++;
  }

  /** Whether any place is nearer than some pixels, at most the reach. */
  boolean near(double x, double y, double apart) {
    int c = column(x);
    int r = row(y);
    for (int j = Math.max(0, r - 1); j <= Math.min(rows - 1, r + 1); j++) {
      for (int i = Math.max(0, c - 1); i <= Math.min(columns - 1, c + 1); i++) {
        for (int k = head[j * columns + i]; k >= 0; k = next[k]) {
          double dx = places[2 * k] - x;
          double dy = places[2 * k + 1] - y;
          if (dx * dx + dy * dy < apart * apart) {
            return true;
          }
        }
      }
    }
    return false;
  }

  private int column(double x) {
    return (int) Math.max(0, Math.min(columns - 1, x / cell));
  }

  private int row(double y) {
    return (int) Math.max(0, Math.min(rows - 1, y / cell));
  }
}
