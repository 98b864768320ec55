package flarvo.demo;

/**
 * For each of some boxes the rectangle of a plane that a ray goes through if it meets the box. Rays
 * that miss it need no closer look, which is what most of a hundred million rays are spared.
 */
final class RayBounds {

  /** Against rounding; far more than it takes, and far less than a pixel. */
  private static final double SPARE = 1e-4;

  /** Nearer to the eye than this, or behind it, a box may be seen anywhere. */
  private static final double NEAR = 0.05;

  private final double[] rects; // x0 y0 x1 y1 of each

  private RayBounds(int boxes) {
    rects = new double[4 * boxes];
    for (int i = 0; i < boxes; i++) {
      set(i, Double.POSITIVE_INFINITY, Double.NEGATIVE_INFINITY);
    }
  }

  private void set(int i, double lo, double hi) {
    rects[4 * i] = lo;
    rects[4 * i + 1] = lo;
    rects[4 * i + 2] = hi;
    rects[4 * i + 3] = hi;
  }

  private void grow(int i, double x, double y, double by) {
    rects[4 * i] = Math.min(rects[4 * i], x - by);
    rects[4 * i + 1] = Math.min(rects[4 * i + 1], y - by);
    rects[4 * i + 2] = Math.max(rects[4 * i + 2], x + by);
    rects[4 * i + 3] = Math.max(rects[4 * i + 3], y + by);
  }

  /** Of rays about which nothing is known: they may meet any box. */
  static RayBounds unknown(int boxes) {
    RayBounds out = new RayBounds(boxes);
    for (int i = 0; i < boxes; i++) {
      out.set(i, Double.NEGATIVE_INFINITY, Double.POSITIVE_INFINITY);
    }
    return out;
  }

  /**
   * Of rays from an eye, in the plane one unit in front of it.
   *
   * @param eye in the world
   * @param m rows of the rotation from the camera, which looks along −z, to the world
   * @param boxes x0 y0 z0 x1 y1 z1 in the world
   */
  static RayBounds seenFrom(double[] eye, double[] m, double[][] boxes) {
    RayBounds out = new RayBounds(boxes.length);
    for (int i = 0; i < boxes.length; i++) {
      double[] b = boxes[i];
      for (int corner = 0; corner < 8; corner++) {
        double x = ((corner & 1) == 0 ? b[0] : b[3]) - eye[0];
        double y = ((corner & 2) == 0 ? b[1] : b[4]) - eye[1];
        double z = ((corner & 4) == 0 ? b[2] : b[5]) - eye[2];
        double depth = -(m[2] * x + m[5] * y + m[8] * z);
        if (depth < NEAR) {
          out.set(i, Double.NEGATIVE_INFINITY, Double.POSITIVE_INFINITY);
          break;
        }
        double lx = (m[0] * x + m[3] * y + m[6] * z) / depth;
        double ly = (m[1] * x + m[4] * y + m[7] * z) / depth;
        out.grow(i, lx, ly, SPARE);
      }
    }
    return out;
  }

  /**
   * Of rays that go up from the ground or from above it, where they would come from the ground.
   *
   * @param alongX way to the side along x for each unit upwards
   * @param alongZ the same along z
   * @param off how far a ray may go from that way to either side, for each unit upwards
   */
  static RayBounds upwards(double alongX, double alongZ, double off, double[][] boxes) {
    RayBounds out = new RayBounds(boxes.length);
    for (int i = 0; i < boxes.length; i++) {
      double[] b = boxes[i];
      for (int corner = 0; corner < 8; corner++) {
        double y = (corner & 2) == 0 ? b[1] : b[4];
        double x = ((corner & 1) == 0 ? b[0] : b[3]) - y * alongX;
        double z = ((corner & 4) == 0 ? b[2] : b[5]) - y * alongZ;
        out.grow(i, x, z, b[4] * off + SPARE);
      }
    }
    return out;
  }

  /** Whether a ray through that point of the plane may meet a box. */
  boolean mayMeet(int box, double x, double y) {
    int k = 4 * box;
    return x >= rects[k] && x <= rects[k + 2] && y >= rects[k + 1] && y <= rects[k + 3];
  }
}
