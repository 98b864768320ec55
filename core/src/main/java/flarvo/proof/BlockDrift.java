package flarvo.proof;

import flarvo.scene.PictureSize;
import flarvo.scene.PointBlocks;
import flarvo.scene.ProjectedBlock;

/**
 * How far two cameras have the points of a block apart. Every loop asks nothing and writes arrays
 * of one length: that is what the compiler turns into vector instructions.
 */
final class BlockDrift {

  /** Smaller than any product of two coordinates in the picture that is not zero. */
  private static final double LEAST = 1e-300;

  /** Brings everything from {@link #LEAST} on above 1. */
  private static final double HUGE = 1e305;

  final ProjectedBlock sent = new ProjectedBlock();
  final ProjectedBlock found = new ProjectedBlock();

  /** Drift squared, in pixels². Where a point is behind a camera it means nothing. */
  final double[] square = new double[PointBlocks.SIZE];

  private final double[] within = new double[PointBlocks.SIZE];
  private double sum;
  private double most;

  /** Takes the points of a block from either side. */
  void load(PointBlocks sentAt, PointBlocks foundAt, int block) {
    sent.load(sentAt, block);
    found.load(foundAt, block);
  }

  /**
   * Fills {@link #square} from what both cameras see. Pixels of either side are x / depth; their
   * difference is put over one denominator, because dividing is the slowest step.
   */
  void measure() {
    squares(sent.x, sent.y, sent.depth, found.x, found.y, found.depth, square);
  }

  private static void squares(
      double[] ax, double[] ay, double[] ad, double[] bx, double[] by, double[] bd, double[] out) {
    for (int i = 0; i < PointBlocks.SIZE; i++) {
      double scale = 1 / (ad[i] * bd[i]);
      double dx = (ax[i] * bd[i] - bx[i] * ad[i]) * scale;
      double dy = (ay[i] * bd[i] - by[i] * ad[i]) * scale;
      out[i] = dx * dx + dy * dy;
    }
  }

  /**
   * Takes the points that the sent camera does not have in its picture, edges included, for points
   * without drift. All have to be in front of both cameras.
   *
   * @return how many are in the picture; -1 where that cannot be told, so far away is one
   */
  int leaveOutOutside(PictureSize picture) {
    weigh(sent.x, sent.y, sent.depth, picture.width(), picture.height(), within);
    double n = 0;
    for (int i = 0; i < PointBlocks.SIZE; i++) {
      square[i] *= within[i];
      n += within[i];
    }
    return n == Math.rint(n) ? (int) n : -1;
  }

  /** 1 where a point is in the picture, and else 0. */
  private static void weigh(
      double[] x, double[] y, double[] depth, double width, double height, double[] out) {
    for (int i = 0; i < PointBlocks.SIZE; i++) {
      double across = x[i] * (width * depth[i] - x[i]); // not below zero between both edges
      double down = y[i] * (height * depth[i] - y[i]);
      double in = Math.min(across, down) + LEAST;
      out[i] = Math.min(1, (in + Math.abs(in)) * HUGE);
    }
  }

  /** Whether a point was in the picture when the others were left out. */
  boolean isInside(int i) {
    return within[i] > 0;
  }

  /** Works out {@link #sum} and {@link #most}, four at a time. */
  void sumUp() {
    double[] d = square;
    double s0 = 0;
    double s1 = 0;
    double s2 = 0;
    double s3 = 0;
    double m0 = 0;
    double m1 = 0;
    double m2 = 0;
    double m3 = 0;
    for (int i = 0; i < PointBlocks.SIZE; i += 4) {
      s0 += d[i];
      s1 += d[i + 1];
      s2 += d[i + 2];
      s3 += d[i + 3];
      m0 = d[i] > m0 ? d[i] : m0;
      m1 = d[i + 1] > m1 ? d[i + 1] : m1;
      m2 = d[i + 2] > m2 ? d[i + 2] : m2;
      m3 = d[i + 3] > m3 ? d[i + 3] : m3;
    }
    sum = s0 + s1 + s2 + s3;
    most = Math.max(Math.max(m0, m1), Math.max(m2, m3));
  }

  /** Sum of all squares; NaN where one is no number. */
  double sum() {
    return sum;
  }

  /** Largest square. */
  double most() {
    return most;
  }
}
