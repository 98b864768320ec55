package flarvo.plate.match;

import flarvo.scene.Luma;
import java.util.Arrays;

/**
 * Finds a small square of one picture in another by normalised cross-correlation, near where it is
 * expected: first in pictures so small that the way there is a few pixels, then in ever larger
 * ones. What looks alike along an edge is only found across it: of an error there, the part across
 * the edge counts. Not for use by several threads.
 */
final class PatchMatch {

  /** Pixels of the square to each side of its centre. */
  static final int RADIUS = 7;

  private static final int SIDE = 2 * RADIUS + 1;

  /** Standard deviation of brightness, of 255, below which there is nothing to recognise. */
  private static final double FLAT = 6;

  /** Correlation from which two squares are taken for the same. */
  private static final double ALIKE = 0.85;

  /**
   * Smaller over larger eigenvalue of the structure tensor from which a pattern is a corner. Below
   * it, it is an edge.
   */
  private static final double CORNER = 0.12;

  /** Pixels that are searched to each side in the smallest pictures, and in the others. */
  private static final int WIDE = 6;

  private static final int NARROW = 3;

  /** Columns of a table of sums over all that is searched. */
  private static final int TABLE = 2 * (WIDE + RADIUS) + 2;

  private final int levels;
  private double acrossX;
  private double acrossY;
  private boolean corner;
  private final float[] pattern = new float[SIDE * SIDE];
  private final double[] scores = new double[(2 * WIDE + 1) * (2 * WIDE + 1)];
  private final double[] found = new double[2];
  private final double[] vertex = new double[2];
  private final double[] sums = new double[TABLE * TABLE];
  private final double[] squareSums = new double[TABLE * TABLE];

  /**
   * @param reach how far from the expected place is searched, in pixels
   */
  PatchMatch(double reach) {
    levels = 1 + Math.max(0, (int) Math.ceil(Math.log(reach / WIDE) / Math.log(2)));
  }

  /** A picture as {@link #error} takes it. */
  Pyramid of(Luma l) {
    return new Pyramid(l, levels);
  }

  /**
   * Looks for what is round a place of one picture in another.
   *
   * @param x place in the first picture, in canonical pixels
   * @param ex where it is expected in the second
   * @return how far from there it is, in pixels; NaN where there is no pattern, or none like it
   *     near
   */
  double error(Pyramid a, double x, double y, Pyramid b, double ex, double ey) {
    double[] at = find(a, x, y, b, ex, ey);
    if (at == null) {
      return Double.NaN;
    }
    double dx = at[0] - ex;
    double dy = at[1] - ey;
    // Half of all directions are more than 45° from the edge's: the same median as of corners.
    return corner ? Math.hypot(dx, dy) : Math.sqrt(2) * Math.abs(dx * acrossX + dy * acrossY);
  }

  /** Where it is in the second, in canonical pixels; null where it is not found. */
  private double[] find(Pyramid a, double x, double y, Pyramid b, double ex, double ey) {
    found[0] = ex;
    found[1] = ey;
    for (int level = levels - 1; level >= 0; level--) {
      double k = 1 << level;
      boolean there = search(a.at(level), x / k, y / k, b.at(level), level);
      if (level == 0 && !there) {
        return null;
      }
    }
    return found;
  }

  /** Moves what was found to the best place near it; false where none is good enough. */
  private boolean search(Luma a, double x, double y, Luma b, int level) {
    double k = 1 << level;
    int px = (int) Math.floor(x);
    int py = (int) Math.floor(y);
    int qx = (int) Math.floor(found[0] / k);
    int qy = (int) Math.floor(found[1] / k);
    if (!take(a, px, py)) {
      return false;
    }
    int r = level == levels - 1 ? WIDE : NARROW;
    int n = 2 * r + 1;
    int best = 0;
    int left = qx - r - RADIUS;
    int top = qy - r - RADIUS;
    sum(b, left, top, n + 2 * RADIUS);
    for (int i = 0; i < n * n; i++) {
      scores[i] = score(b, qx + i % n - r, qy + Math.floorDiv(i, n) - r, left, top, n + 2 * RADIUS);
      best = scores[i] > scores[best] ? i : best;
    }
    int bx = best % n;
    int by = Math.floorDiv(best, n);
    if (scores[best] < ALIKE || bx == 0 || by == 0 || bx == n - 1 || by == n - 1) {
      return false;
    }
    vertex(best, n);
    // The square was taken round whole pixels: its centre is as far from there as x is.
    found[0] = k * (x - px + qx + bx - r + vertex[0]);
    found[1] = k * (y - py + qy + by - r + vertex[1]);
    return true;
  }

  /**
   * Top of the quadric with the slopes and bends of the best score and its eight neighbours; along
   * a slanting edge two parabolas by themselves would be off by half a pixel. Within a pixel of the
   * best.
   */
  private void vertex(int i, int n) {
    double dx = (scores[i + 1] - scores[i - 1]) / 2;
    double dy = (scores[i + n] - scores[i - n]) / 2;
    double xx = scores[i + 1] - 2 * scores[i] + scores[i - 1];
    double yy = scores[i + n] - 2 * scores[i] + scores[i - n];
    double xy = (scores[i + n + 1] + scores[i - n - 1] - scores[i - n + 1] - scores[i + n - 1]) / 4;
    double det = xx * yy - xy * xy;
    boolean top = xx < 0 && det > 0;
    vertex[0] = top ? within((xy * dy - yy * dx) / det) : 0;
    vertex[1] = top ? within((xy * dx - xx * dy) / det) : 0;
  }

  private static double within(double step) {
    return Math.max(-1, Math.min(1, step));
  }

  /** Takes the pattern, less its mean and of length one; false where it is flat or cut off. */
  private boolean take(Luma l, int x, int y) {
    if (x < RADIUS || y < RADIUS || x >= l.width() - RADIUS || y >= l.height() - RADIUS) {
      return false;
    }
    double sum = 0;
    int i = 0;
    for (int dy = -RADIUS; dy <= RADIUS; dy++) {
      for (int dx = -RADIUS; dx <= RADIUS; dx++) {
        pattern[i] = l.at(x + dx, y + dy);
        sum += pattern[i++];
      }
    }
    float mean = (float) (sum / i);
    double squares = 0;
    for (i = 0; i < pattern.length; i++) {
      pattern[i] -= mean;
      squares += pattern[i] * pattern[i];
    }
    if (squares < FLAT * FLAT * pattern.length) {
      return false;
    }
    shape();
    float size = (float) Math.sqrt(squares);
    for (i = 0; i < pattern.length; i++) {
      pattern[i] /= size;
    }
    return true;
  }

  /** Eigenvectors of the pattern's structure tensor, by central differences. */
  private void shape() {
    double xx = 0;
    double xy = 0;
    double yy = 0;
    for (int j = 1; j < SIDE - 1; j++) {
      for (int i = 1; i < SIDE - 1; i++) {
        int k = j * SIDE + i;
        double gx = pattern[k + 1] - pattern[k - 1];
        double gy = pattern[k + SIDE] - pattern[k - SIDE];
        xx += gx * gx;
        xy += gx * gy;
        yy += gy * gy;
      }
    }
    double root = Math.hypot((xx - yy) / 2, xy);
    double mean = (xx + yy) / 2;
    corner = mean - root > CORNER * (mean + root);
    double angle = Math.atan2(2 * xy, xx - yy) / 2;
    acrossX = Math.cos(angle);
    acrossY = Math.sin(angle);
  }

  /**
   * Sums of brightness and of its squares from a corner of the searched region to each pixel of it
   * (Crow, "Summed-area tables for texture mapping", 1984), so that those of any square take four
   * numbers. What lies outside the picture counts as nothing: no square that reaches there is asked
   * for.
   */
  private void sum(Luma l, int x0, int y0, int side) {
    int n = side + 1;
    float middle = middle(l, x0, y0, side);
    Arrays.fill(sums, 0, n, 0);
    Arrays.fill(squareSums, 0, n, 0);
    for (int j = 1; j < n; j++) {
      sums[j * n] = 0;
      squareSums[j * n] = 0;
      int y = y0 + j - 1;
      double own = 0;
      double ownSquares = 0;
      for (int i = 1; i < n; i++) {
        int x = x0 + i - 1;
        boolean inside = x >= 0 && y >= 0 && x < l.width() && y < l.height();
        double v = inside ? l.luma()[y * l.width() + x] - middle : 0;
        own += v;
        ownSquares += v * v;
        sums[j * n + i] = sums[(j - 1) * n + i] + own;
        squareSums[j * n + i] = squareSums[(j - 1) * n + i] + ownSquares;
      }
    }
  }

  /** A brightness that others are taken relative to, so that sums stay small. */
  private static float middle(Luma l, int x0, int y0, int side) {
    int x = Math.max(0, Math.min(l.width() - 1, x0 + side / 2));
    int y = Math.max(0, Math.min(l.height() - 1, y0 + side / 2));
    return l.luma()[y * l.width() + x];
  }

  /**
   * @param x0 first column of the region that was summed; {@code y0} its first row
   */
  private double score(Luma l, int x, int y, int x0, int y0, int side) {
    if (x < RADIUS || y < RADIUS || x >= l.width() - RADIUS || y >= l.height() - RADIUS) {
      return -1;
    }
    int n = side + 1;
    int low = (y - RADIUS - y0) * n + x - RADIUS - x0;
    double sum = box(sums, low, n);
    double spread = box(squareSums, low, n) - sum * sum / pattern.length;
    return spread < FLAT * FLAT ? -1 : cross(l, x, y, middle(l, x0, y0, side)) / Math.sqrt(spread);
  }

  private static double box(double[] table, int low, int n) {
    int high = low + SIDE * n;
    return table[high + SIDE] - table[high] - table[low + SIDE] + table[low];
  }

  /** Three sums, since each must wait for its own last addition. */
  private float cross(Luma l, int x, int y, float middle) {
    float[] luma = l.luma();
    float a = 0;
    float b = 0;
    float c = 0;
    int i = 0;
    for (int dy = -RADIUS; dy <= RADIUS; dy++) {
      int row = (y + dy) * l.width() + x - RADIUS;
      for (int dx = 0; dx < SIDE; dx += 3) {
        a = Math.fma(luma[row + dx] - middle, pattern[i], a);
        b = Math.fma(luma[row + dx + 1] - middle, pattern[i + 1], b);
        c = Math.fma(luma[row + dx + 2] - middle, pattern[i + 2], c);
        i += 3;
      }
    }
    return a + b + c;
  }
}
