package flarvo.trace;

/**
 * Four corners in the picture, in order round it.
 *
 * @param at x, y of each, in pixels
 */
record Quad(double[] at) {

  static final int CORNERS = 4;

  /** Sides that are shorter are no sides, in pixels. */
  private static final double SHORTEST = 4;

  Quad {
    if (at.length != 2 * CORNERS) {
      throw new IllegalArgumentException("a plane has four corners, not " + at.length / 2);
    }
    at = at.clone();
  }

  double x(int corner) {
    return at[2 * corner];
  }

  double y(int corner) {
    return at[2 * corner + 1];
  }

  /** Whether it goes round without crossing or folding, and is of some size. */
  boolean isConvex() {
    double sign = 0;
    for (int i = 0; i < CORNERS; i++) {
      int j = (i + 1) % CORNERS;
      int k = (i + 2) % CORNERS;
      double ax = x(j) - x(i);
      double ay = y(j) - y(i);
      double bx = x(k) - x(j);
      double by = y(k) - y(j);
      double turn = ax * by - ay * bx;
      if (!(Math.hypot(ax, ay) >= SHORTEST) || turn == 0 || sign * turn < 0) {
        return false;
      }
      sign = turn;
    }
    return true;
  }

  double area() {
    double sum = 0;
    for (int i = 0; i < CORNERS; i++) {
      int j = (i + 1) % CORNERS;
      sum += x(i) * y(j) - x(j) * y(i);
    }
    return Math.abs(sum) / 2;
  }

  /** Where its diagonals meet: the same place of the plane in every view. */
  double[] centre() {
    double ax = x(2) - x(0);
    double ay = y(2) - y(0);
    double bx = x(3) - x(1);
    double by = y(3) - y(1);
    double s = ((x(1) - x(0)) * by - (y(1) - y(0)) * bx) / (ax * by - ay * bx);
    return new double[] {x(0) + s * ax, y(0) + s * ay};
  }

  /** Corners of this by {@code 1 − t}, of the other by {@code t}. */
  Quad towards(Quad o, double t) {
    double[] out = new double[at.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = (1 - t) * at[i] + t * o.at[i];
    }
    return new Quad(out);
  }

  /** Largest distance of two corners. */
  double distance(Quad o) {
    double far = 0;
    for (int i = 0; i < CORNERS; i++) {
      far = Math.max(far, Math.hypot(x(i) - o.x(i), y(i) - o.y(i)));
    }
    return far;
  }
}
