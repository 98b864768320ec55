package flarvo.scene;

import java.util.Arrays;
import java.util.SplittableRandom;

/**
 * Points in blocks of near neighbours, each with a ball around it, so that what a camera cannot see
 * is passed over a block at a time. Made by halving the points along their widest axis until a
 * block is left; however they lie, that takes n log n steps. Immutable.
 */
public final class PointBlocks {

  /** Points in a block; the last block may have fewer. */
  public static final int SIZE = 64;

  /** Blocks in a row with one wide ball around them; the last may be fewer. */
  static final int WIDE = 16;

  /** Balls are larger than their points need by this share, to allow for rounding. */
  private static final double SLACK = 1e-9;

  /** After this many bad pivots, the rest is sorted. */
  private static final int UNLUCKY = 64;

  private final double[][] x; // block by block, each of SIZE
  private final double[][] y;
  private final double[][] z;
  private final int[] order;
  private final double[] balls; // centre and radius
  private final double[] wide; // of WIDE blocks each, the same
  private final double[] amid; // three a block

  private PointBlocks(double[] xyz, int[] order) {
    int blocks = (order.length + SIZE - 1) / SIZE;
    x = new double[blocks][SIZE];
    y = new double[blocks][SIZE];
    z = new double[blocks][SIZE];
    this.order = order;
    for (int i = 0; i < order.length; i++) {
      x[i / SIZE][i % SIZE] = xyz[3 * order[i]];
      y[i / SIZE][i % SIZE] = xyz[3 * order[i] + 1];
      z[i / SIZE][i % SIZE] = xyz[3 * order[i] + 2];
    }
    balls = new double[4 * blocks];
    amid = new double[3 * blocks];
    for (int b = 0; b < blocks; b++) {
      ball(b);
      amid[3 * b] = median(x[b], size(b));
      amid[3 * b + 1] = median(y[b], size(b));
      amid[3 * b + 2] = median(z[b], size(b));
    }
    wide = new double[4 * ((blocks + WIDE - 1) / WIDE)];
    for (int w = 0; 4 * w < wide.length; w++) {
      wide(w);
    }
  }

  /**
   * Gathers points into blocks. A point with a coordinate that is no number is in a block whose
   * ball is none either, and that is never passed over.
   *
   * @param xyz three numbers each, in any unit; not changed
   */
  public static PointBlocks of(double[] xyz) {
    return new PointBlocks(xyz, new Halves(xyz).order());
  }

  /**
   * Other points in the same blocks and the same order, wherever they are.
   *
   * @param xyz three numbers each, as many and in the same order as those that this was made of
   */
  public PointBlocks like(double[] xyz) {
    return new PointBlocks(xyz, order);
  }

  /** How many blocks there are. */
  public int count() {
    return balls.length / 4;
  }

  /** How many points are in a block. */
  public int size(int block) {
    return Math.min(SIZE, order.length - block * SIZE);
  }

  /** Where a point of a block stood before they were gathered. */
  public int original(int block, int point) {
    return order[block * SIZE + point];
  }

  /** First coordinates of a block's points, and as many zeros as it has free places. */
  double[] x(int block) {
    return x[block];
  }

  double[] y(int block) {
    return y[block];
  }

  double[] z(int block) {
    return z[block];
  }

  /**
   * A place amid most of a block's points from {@code 3 * block}, however far off the others are.
   */
  double[] amid() {
    return amid;
  }

  /** Centre and radius of a block's ball from {@code 4 * block}. */
  double[] balls() {
    return balls;
  }

  /** Centres and radii of balls around {@link #WIDE} blocks each. */
  double[] wide() {
    return wide;
  }

  /** Half of them are not below it; zero where that is no number or infinite. */
  private static double median(double[] of, int n) {
    double[] sorted = Arrays.copyOf(of, n);
    Arrays.sort(sorted);
    double m = sorted[n / 2];
    return Math.abs(m) <= Double.MAX_VALUE ? m : 0;
  }

  private void wide(int w) {
    int first = WIDE * w;
    int n = Math.min(WIDE, count() - first);
    for (int k = 0; k < 3; k++) {
      double low = balls[4 * first + k];
      double high = low;
      for (int b = 1; b < n; b++) {
        low = Math.min(low, balls[4 * (first + b) + k]);
        high = Math.max(high, balls[4 * (first + b) + k]);
      }
      wide[4 * w + k] = low / 2 + high / 2;
    }
    double radius = 0;
    for (int at = 4 * first; at < 4 * (first + n); at += 4) {
      double dx = balls[at] - wide[4 * w];
      double dy = balls[at + 1] - wide[4 * w + 1];
      double dz = balls[at + 2] - wide[4 * w + 2];
      double to = Math.sqrt(dx * dx + dy * dy + dz * dz) * (1 + SLACK);
      radius = Math.max(radius, to + balls[at + 3]); // NaN stays
    }
    double from = Math.abs(wide[4 * w]) + Math.abs(wide[4 * w + 1]) + Math.abs(wide[4 * w + 2]);
    wide[4 * w + 3] = radius * (1 + SLACK) + SLACK * (1 + from);
  }

  private void ball(int block) {
    int at = 4 * block;
    int n = size(block);
    balls[at] = middle(x[block], n);
    balls[at + 1] = middle(y[block], n);
    balls[at + 2] = middle(z[block], n);
    double square = 0;
    for (int i = 0; i < n; i++) {
      double dx = x[block][i] - balls[at];
      double dy = y[block][i] - balls[at + 1];
      double dz = z[block][i] - balls[at + 2];
      square = Math.max(square, dx * dx + dy * dy + dz * dz); // NaN stays
    }
    double from = Math.abs(balls[at]) + Math.abs(balls[at + 1]) + Math.abs(balls[at + 2]);
    balls[at + 3] = Math.sqrt(square) * (1 + SLACK) + SLACK * (1 + from);
  }

  private static double middle(double[] of, int n) {
    double low = of[0];
    double high = of[0];
    for (int i = 1; i < n; i++) {
      low = Math.min(low, of[i]);
      high = Math.max(high, of[i]);
    }
    return low / 2 + high / 2;
  }

  /** Halves points until blocks are left. */
  private static final class Halves {
    private final double[] xyz;
    private final int[] order;
    private final long[] keys; // a coordinate that sorts as a number, and the point
    private final SplittableRandom random = new SplittableRandom(1); // the same blocks every time
    private final double[] low = new double[3];
    private final double[] high = new double[3];

    Halves(double[] xyz) {
      this.xyz = xyz;
      order = new int[xyz.length / 3];
      keys = new long[order.length];
      Arrays.setAll(order, i -> i);
    }

    int[] order() {
      // Ends of what is still to be halved, the nearest on top: a loop is compiled once, where a
      // method that calls itself is compiled into itself again.
      int[] ends = new int[Integer.SIZE + 1];
      int waiting = 0;
      ends[waiting] = order.length;
      int from = 0;
      while (waiting >= 0) {
        int to = ends[waiting];
        int blocks = (to - from + SIZE - 1) / SIZE;
        if (blocks < 2) {
          from = to;
          waiting--;
        } else {
          int middle = from + SIZE * (blocks / 2);
          halve(from, to, middle);
          ends[++waiting] = middle;
        }
      }
      return order;
    }

    private void halve(int from, int to, int middle) {
      int axis = widest(from, to);
      for (int i = from; i < to; i++) {
        keys[i] = (long) sortable((float) xyz[3 * order[i] + axis]) << 32 | order[i];
      }
      select(from, to, middle);
      for (int i = from; i < to; i++) {
        order[i] = (int) keys[i];
      }
    }

    private int widest(int from, int to) {
      Arrays.fill(low, Double.POSITIVE_INFINITY);
      Arrays.fill(high, Double.NEGATIVE_INFINITY);
      for (int i = from; i < to; i++) {
        for (int k = 0; k < 3; k++) {
          low[k] = Math.min(low[k], xyz[3 * order[i] + k]);
          high[k] = Math.max(high[k], xyz[3 * order[i] + k]);
        }
      }
      int axis = 0;
      for (int k = 1; k < 3; k++) {
        axis = high[k] - low[k] > high[axis] - low[axis] ? k : axis;
      }
      return axis;
    }

    private static int sortable(float f) {
      int bits = Float.floatToIntBits(f);
      return bits ^ (bits >> 31 & 0x7fffffff);
    }

    /** Brings the least keys before {@code middle}; no two are equal. */
    private void select(int begin, int finish, int middle) {
      int from = begin;
      int to = finish;
      for (int tries = 0; to - from > 1; tries++) {
        if (tries == UNLUCKY) {
          Arrays.sort(keys, from, to);
          return;
        }
        long pivot = keys[random.nextInt(from, to)];
        int i = from;
        int j = to - 1;
        while (i <= j) {
          while (keys[i] < pivot) {
            i++;
          }
          while (keys[j] > pivot) {
            j--;
          }
          if (i <= j) {
            long k = keys[i];
            keys[i++] = keys[j];
            keys[j--] = k;
          }
        }
        if (middle <= j) {
          to = j + 1;
        } else if (middle >= i) {
          from = i;
        } else {
          return;
        }
      }
    }
  }
}
