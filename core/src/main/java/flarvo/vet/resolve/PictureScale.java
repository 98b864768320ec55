package flarvo.vet.resolve;

import flarvo.vet.adjust.Tracks;
import java.util.Arrays;

/**
 * By how much the picture of each frame is larger than that of the first: from one frame to the
 * next the median ratio of distances between tracks, chained. That is a zoom where the camera only
 * turns; a move along the view adds to it.
 */
final class PictureScale {

  /** Nearer tracks say little: noise is a larger part of their distance. */
  private static final double LEAST_PX = 40;

  private PictureScale() {}

  /** One factor a camera, 1 for the first; a frame that shares too little has its neighbour's. */
  static double[] of(Tracks t) {
    double[] out = new double[t.cameras()];
    out[0] = 1;
    int[][] shared = new int[t.cameras()][2 * t.points()];
    int[] n = new int[t.cameras()];
    for (int j = 0; j < t.points(); j++) {
      for (int row = t.firstRow(j) + 1; row < t.firstRow(j) + t.seen(j); row++) {
        int i = t.camera(row);
        if (t.camera(row - 1) == i - 1) {
          shared[i][n[i]++] = row - 1;
          shared[i][n[i]++] = row;
        }
      }
    }
    for (int i = 1; i < out.length; i++) {
      out[i] = out[i - 1] * ratio(t, shared[i], n[i] / 2);
    }
    return out;
  }

  private static double ratio(Tracks t, int[] rows, int count) {
    double[] all = new double[count * 3];
    int n = 0;
    for (int a = 0; a < count; a++) {
      // Three partners each, far apart in the list: every pair would be quadratic.
      for (int k = 1; k <= 3; k++) {
        int b = (a + k * count / 4) % count;
        double before = distance(t, rows[2 * a], rows[2 * b]);
        if (before > LEAST_PX) {
          all[n++] = distance(t, rows[2 * a + 1], rows[2 * b + 1]) / before;
        }
      }
    }
    Arrays.sort(all, 0, n);
    return n < 5 || !(all[n / 2] > 0) ? 1 : all[n / 2];
  }

  private static double distance(Tracks t, int a, int b) {
    return Math.hypot(t.x(a) - t.x(b), t.y(a) - t.y(b));
  }
}
