package flarvo.render;

import flarvo.scene.Vec3;

/**
 * Triangles in the picture, cut at a small distance in front of the eye. Each has its corners in
 * pixels and one over their depths, which is linear over the picture, and the number of the
 * triangle that it is of.
 */
final class Projected {

  /** Metres in front of the eye; what is nearer is cut away. */
  static final double NEAR = 0.01;

  private double[] values = new double[9 * 64]; // x, y, 1/depth of each corner
  private int[] of = new int[64];
  private int count;

  static Projected of(FrameTriangles t, Eye eye) {
    Projected p = new Projected();
    Vec3[] polygon = new Vec3[4];
    for (int i = 0; i < t.count(); i++) {
      int n = clipped(t, i, eye, polygon);
      for (int k = 1; k + 1 < n; k++) {
        p.add(eye, polygon[0], polygon[k], polygon[k + 1], i);
      }
    }
    return p;
  }

  int count() {
    return count;
  }

  int of(int i) {
    return of[i];
  }

  double x(int i, int corner) {
    return values[9 * i + 3 * corner];
  }

  double y(int i, int corner) {
    return values[9 * i + 3 * corner + 1];
  }

  double inverseDepth(int i, int corner) {
    return values[9 * i + 3 * corner + 2];
  }

  /** What is left of a triangle beyond the near plane: none, three or four corners. */
  private static int clipped(FrameTriangles t, int i, Eye eye, Vec3[] out) {
    int n = 0;
    for (int v = 0; v < 3; v++) {
      Vec3 a = t.corner(i, v);
      Vec3 b = t.corner(i, (v + 1) % 3);
      double da = eye.depth(a.x(), a.y(), a.z());
      double db = eye.depth(b.x(), b.y(), b.z());
      if (da >= NEAR) {
        out[n++] = a;
      }
      if (da >= NEAR != db >= NEAR) {
        double u = (NEAR - da) / (db - da);
        out[n++] = a.plus(b.minus(a).times(u));
      }
    }
    return n;
  }

  private void add(Eye eye, Vec3 a, Vec3 b, Vec3 c, int triangle) {
    if (count == of.length) {
      of = java.util.Arrays.copyOf(of, 2 * count);
      values = java.util.Arrays.copyOf(values, 18 * count);
    }
    of[count] = triangle;
    double[] px = new double[3];
    int at = 9 * count;
    for (Vec3 v : new Vec3[] {a, b, c}) {
      eye.pinhole().project(v.x(), v.y(), v.z(), px);
      values[at++] = px[0];
      values[at++] = px[1];
      values[at++] = 1 / px[2];
    }
    count++;
  }
}
