package flarvo.trace;

import java.util.Arrays;

/**
 * Which parts of a plane are seen in a frame: a grid of cells over its pattern, each judged
 * together with those round it. The cells are small, so that what passes before the plane is left
 * out up to its edge, and a cell beside that edge, where the two mix, does not pass for the plane.
 */
final class PlaneCells {

  private static final int FEWEST_TO_A_SIDE = 8;
  private static final int MOST_TO_A_SIDE = 40;

  /** Samples of the pattern in a cell, about. */
  private static final int IN_A_CELL = 12;

  /** Samples by which a cell and those round it can be judged. */
  private static final int FEWEST = 12;

  /** Standard deviation of brightness from which a pattern can be told from grain. */
  private static final double TELLING = 4;

  /** Correlation of a cell with its pattern from which it is seen. */
  private static final double SEEN = 0.5;

  /** A cell is also seen only when it is so much like its pattern as the better ones are. */
  private static final double SHARE = 0.8;

  /** Nor is it seen where it differs by more than the middle one of those that are, this often. */
  private static final double OFF = 2;

  private static final int SUMS = 6;

  private final double left;
  private final double top;
  private final double width;
  private final double height;
  private final int side;

  /**
   * @param samples of the pattern
   */
  PlaneCells(double left, double right, double top, double bottom, double samples) {
    this.left = left;
    this.top = top;
    width = right - left;
    height = bottom - top;
    side =
        (int)
            Math.max(
                FEWEST_TO_A_SIDE,
                Math.min(MOST_TO_A_SIDE, Math.rint(Math.sqrt(samples / IN_A_CELL))));
  }

  int count() {
    return side * side;
  }

  /** The cell of a place in the frame that the pattern was taken from. */
  int at(double x, double y) {
    int i = (int) ((x - left) / width * side);
    int j = (int) ((y - top) / height * side);
    return Math.min(side - 1, j) * side + Math.min(side - 1, i);
  }

  /**
   * Which cells show the pattern.
   *
   * @param cell of each sample
   * @param value of each sample of the pattern
   * @param now the same places in a frame, NaN for those outside it
   * @param seen set to true for cells that show the pattern or have none of their own
   * @return their share of the cells that have a pattern, and its correlation
   */
  double[] look(int[] cell, float[] value, float[] now, boolean[] seen) {
    double[][] own = new double[count()][SUMS];
    for (int i = 0; i < now.length; i++) {
      if (!Float.isNaN(now[i])) {
        add(own[cell[i]], value[i], now[i]);
      }
    }
    double[][] sums = withNeighbours(own);
    double[] alike = new double[sums.length];
    double[] sorted = new double[sums.length];
    int known = 0;
    for (int b = 0; b < sums.length; b++) {
      double[] s = sums[b];
      boolean tells = s[0] >= FEWEST && s[3] / s[0] - s[1] / s[0] * s[1] / s[0] > TELLING * TELLING;
      alike[b] = tells ? correlation(s) : Double.NaN;
      if (tells) {
        sorted[known++] = alike[b];
      }
    }
    Arrays.sort(sorted, 0, known);
    double enough = known == 0 ? SEEN : Math.max(SEEN, SHARE * sorted[3 * known / 4]);
    int there = 0;
    double sum = 0;
    double[] all = new double[SUMS];
    for (int b = 0; b < sums.length; b++) {
      if (alike[b] > enough) {
        there++;
        sum += alike[b];
        for (int i = 0; i < SUMS; i++) {
          all[i] += sums[b][i];
        }
      }
    }
    judge(sums, alike, enough, all, seen);
    return new double[] {known == 0 ? 0 : (double) there / known, there == 0 ? 0 : sum / there};
  }

  private double[][] withNeighbours(double[][] cells) {
    double[][] out = new double[cells.length][SUMS];
    for (int y = 0; y < side; y++) {
      for (int x = 0; x < side; x++) {
        for (int j = Math.max(0, y - 1); j <= Math.min(side - 1, y + 1); j++) {
          for (int i = Math.max(0, x - 1); i <= Math.min(side - 1, x + 1); i++) {
            for (int k = 0; k < SUMS; k++) {
              out[y * side + x][k] += cells[j * side + i][k];
            }
          }
        }
      }
    }
    return out;
  }

  /** What has no pattern of its own is seen where it is about as bright as it should be. */
  private static void judge(
      double[][] sums, double[] alike, double enough, double[] all, boolean[] seen) {
    double spread = all[0] * all[3] - all[1] * all[1];
    double gain = spread > 0 ? (all[0] * all[5] - all[1] * all[2]) / spread : 1;
    double lift = all[0] > 0 ? (all[2] - gain * all[1]) / all[0] : 0;
    double[] off = new double[sums.length];
    double[] sorted = new double[sums.length];
    int n = 0;
    for (int b = 0; b < off.length; b++) {
      double[] s = sums[b];
      double squares =
          s[4]
              + gain * gain * s[3]
              + s[0] * lift * lift
              - 2 * gain * s[5]
              - 2 * lift * s[2]
              + 2 * gain * lift * s[1];
      off[b] = s[0] > 0 ? Math.sqrt(Math.max(0, squares / s[0])) : 0;
      if (alike[b] > enough) {
        sorted[n++] = off[b];
      }
    }
    Arrays.sort(sorted, 0, n);
    double most = n == 0 ? Double.POSITIVE_INFINITY : OFF * sorted[n / 2];
    for (int b = 0; b < off.length; b++) {
      seen[b] = (Double.isNaN(alike[b]) || alike[b] > enough) && off[b] < most;
    }
  }

  /** Number, sums of the pattern and of the frame, of their squares, and of their product. */
  private static void add(double[] s, double a, double b) {
    s[0]++;
    s[1] += a;
    s[2] += b;
    s[3] += a * a;
    s[4] += b * b;
    s[5] += a * b;
  }

  private static double correlation(double[] s) {
    double a = s[3] - s[1] * s[1] / s[0];
    double b = s[4] - s[2] * s[2] / s[0];
    return a > 0 && b > 0 ? (s[5] - s[1] * s[2] / s[0]) / Math.sqrt(a * b) : 0;
  }
}
