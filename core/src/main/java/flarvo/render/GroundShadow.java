package flarvo.render;

import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;

/**
 * How much of the light is kept from places on the ground (y = 0): rays to a few places of a light
 * with some extent, against boxes in boxes with triangles in them.
 */
final class GroundShadow {

  /** Rays a place. */
  private static final int RAYS = 24;

  /** Radius of the light as the tangent of its angle: about five degrees, a hazy sun. */
  private static final double SIZE = 0.09;

  private static final int LEAF = 4;
  private static final int CELLS = 256;
  private static final double LIFT = 1e-6;

  private final double[] xyz;
  private final int[] order;
  private final List<double[]> boxes = new ArrayList<>(); // six bounds
  private final List<int[]> nodes = new ArrayList<>(); // first, count, or left, -right
  private double[] box = {}; // the same, one after the other
  private int[][] tree = {};
  private final double[][] towards = new double[RAYS][]; // a direction, and one over it
  private final double[] reach; // x and z of all shadows together; null without any
  private final boolean[] cells = new boolean[CELLS * CELLS]; // of the reach: some shadow is near

  /**
   * @param light direction to the light, over the horizon
   */
  GroundShadow(FrameTriangles t, Vec3 light) {
    xyz = t.xyz();
    order = new int[t.count()];
    for (int i = 0; i < order.length; i++) {
      order[i] = i;
    }
    rays(light.normalized());
    if (order.length > 0) {
      build(0, order.length);
      box = boxes.stream().flatMapToDouble(java.util.Arrays::stream).toArray();
      tree = nodes.toArray(new int[0][]);
    }
    reach = order.length == 0 ? null : reach(0, xyz.length);
    for (int i = 0; i < order.length; i++) {
      mark(reach(9 * i, 9 * i + 9));
    }
  }

  private void mark(double[] r) {
    int x0 = cell(r[0], 0);
    int x1 = cell(r[1], 0);
    int z1 = cell(r[3], 2);
    for (int z = cell(r[2], 2); z <= z1; z++) {
      java.util.Arrays.fill(cells, z * CELLS + x0, z * CELLS + x1 + 1, true);
    }
  }

  /** Of a place along x (0) or z (2). */
  private int cell(double v, int axis) {
    double size = Math.max(1e-12, reach[axis + 1] - reach[axis]);
    return (int) Math.max(0, Math.min(CELLS - 1, (v - reach[axis]) / size * CELLS));
  }

  /** On a sunflower's spiral over a disc across the light. */
  private void rays(Vec3 light) {
    Vec3 side = light.cross(Math.abs(light.y()) < 0.9 ? new Vec3(0, 1, 0) : new Vec3(1, 0, 0));
    Vec3 u = side.normalized();
    Vec3 v = light.cross(u);
    for (int i = 0; i < RAYS; i++) {
      double r = SIZE * Math.sqrt((i + 0.5) / RAYS);
      double a = i * Math.PI * (3 - Math.sqrt(5));
      Vec3 d = light.plus(u.times(r * Math.cos(a))).plus(v.times(r * Math.sin(a)));
      double dy = Math.max(1e-3, d.y());
      double dx = off(d.x());
      double dz = off(d.z());
      towards[i] = new double[] {dx, dy, dz, 1 / dx, 1 / dy, 1 / dz};
    }
  }

  /** Nothing is quite parallel to a box. */
  private static double off(double v) {
    return Math.abs(v) < 1e-12 ? 1e-12 : v;
  }

  /** Bounds of the shadow of some corners on the ground: least and largest x, and z. */
  private double[] reach(int from, int end) {
    double[] r = {Double.MAX_VALUE, -Double.MAX_VALUE, Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = from; i < end; i += 3) {
      for (double[] d : towards) {
        double k = Math.max(0, xyz[i + 1]) / d[1];
        double x = xyz[i] - k * d[0];
        double z = xyz[i + 2] - k * d[2];
        r[0] = Math.min(r[0], x);
        r[1] = Math.max(r[1], x);
        r[2] = Math.min(r[2], z);
        r[3] = Math.max(r[3], z);
      }
    }
    return r;
  }

  private int build(int from, int to) {
    double[] box = bounds(from, to);
    int me = boxes.size();
    boxes.add(box);
    nodes.add(new int[] {from, to - from});
    if (to - from > LEAF) {
      int axis = 0;
      for (int k = 1; k < 3; k++) {
        axis = box[k + 3] - box[k] > box[axis + 3] - box[axis] ? k : axis;
      }
      sort(from, to, axis);
      int mid = (from + to) >>> 1;
      int left = build(from, mid);
      int right = build(mid, to);
      nodes.set(me, new int[] {left, -right});
    }
    return me;
  }

  private void sort(int from, int to, int axis) {
    Integer[] part = new Integer[to - from];
    for (int i = 0; i < part.length; i++) {
      part[i] = order[from + i];
    }
    java.util.Arrays.sort(part, (a, b) -> Double.compare(middle(a, axis), middle(b, axis)));
    for (int i = 0; i < part.length; i++) {
      order[from + i] = part[i];
    }
  }

  private double middle(int t, int axis) {
    return xyz[9 * t + axis] + xyz[9 * t + 3 + axis] + xyz[9 * t + 6 + axis];
  }

  private double[] bounds(int from, int to) {
    double[] b = new double[6];
    java.util.Arrays.fill(b, 0, 3, Double.MAX_VALUE);
    java.util.Arrays.fill(b, 3, 6, -Double.MAX_VALUE);
    for (int i = from; i < to; i++) {
      for (int k = 0; k < 9; k++) {
        double v = xyz[9 * order[i] + k];
        b[k % 3] = Math.min(b[k % 3], v);
        b[3 + k % 3] = Math.max(b[3 + k % 3], v);
      }
    }
    return b;
  }

  /** Share of the light that is kept from a place on the ground, 0 to 1. */
  double at(double x, double z) {
    if (reach == null || x < reach[0] || x > reach[1] || z < reach[2] || z > reach[3]) {
      return 0;
    }
    if (!cells[cell(z, 2) * CELLS + cell(x, 0)]) {
      return 0;
    }
    int blocked = 0;
    for (double[] d : towards) {
      blocked += hits(0, x, z, d) ? 1 : 0;
    }
    return (double) blocked / RAYS;
  }

  private boolean hits(int node, double x, double z, double[] d) {
    if (!meets(box, 6 * node, x, z, d)) {
      return false;
    }
    int[] n = tree[node];
    if (n[1] < 0) {
      return hits(n[0], x, z, d) || hits(-n[1], x, z, d);
    }
    for (int i = n[0]; i < n[0] + n[1]; i++) {
      if (hitsTriangle(9 * order[i], x, z, d)) {
        return true;
      }
    }
    return false;
  }

  /** Whether a ray from the ground meets a box. */
  private static boolean meets(double[] b, int at, double x, double z, double[] d) {
    double up0 = b[at + 1] * d[4];
    double up1 = b[at + 4] * d[4];
    double x0 = (b[at] - x) * d[3];
    double x1 = (b[at + 3] - x) * d[3];
    double z0 = (b[at + 2] - z) * d[5];
    double z1 = (b[at + 5] - z) * d[5];
    double near = Math.max(Math.max(Math.min(x0, x1), Math.min(z0, z1)), Math.max(0, up0));
    double far = Math.min(Math.min(Math.max(x0, x1), Math.max(z0, z1)), up1);
    return near <= far;
  }

  /** Möller and Trumbore, from the ground. */
  private boolean hitsTriangle(int at, double x, double z, double[] d) {
    double ax = xyz[at];
    double ay = xyz[at + 1];
    double az = xyz[at + 2];
    double e1x = xyz[at + 3] - ax;
    double e1y = xyz[at + 4] - ay;
    double e1z = xyz[at + 5] - az;
    double e2x = xyz[at + 6] - ax;
    double e2y = xyz[at + 7] - ay;
    double e2z = xyz[at + 8] - az;
    double px = d[1] * e2z - d[2] * e2y;
    double py = d[2] * e2x - d[0] * e2z;
    double pz = d[0] * e2y - d[1] * e2x;
    double det = e1x * px + e1y * py + e1z * pz;
    if (Math.abs(det) < 1e-300) {
      return false;
    }
    double sx = x - ax;
    double sy = -ay;
    double sz = z - az;
    double u = (sx * px + sy * py + sz * pz) / det;
    double qx = sy * e1z - sz * e1y;
    double qy = sz * e1x - sx * e1z;
    double qz = sx * e1y - sy * e1x;
    double v = (d[0] * qx + d[1] * qy + d[2] * qz) / det;
    double t = (e2x * qx + e2y * qy + e2z * qz) / det;
    return u >= 0 && v >= 0 && u + v <= 1 && t > LIFT;
  }
}
