package flarvo.demo;

import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;

/**
 * The instrument cart in its own space: x forward, y up, z to its right, the origin on the ground
 * between its wheels, metres. Boxes with a grid of painted lines, and four wheels.
 */
final class Cart {

  /** x0 y0 z0 x1 y1 z1, red, green, blue. */
  private static final double[][] BOXES = {
    {-0.56, 0.26, -0.30, 0.56, 0.34, 0.30, 0.16, 0.30, 0.27},
    {-0.46, 0.34, -0.24, 0.12, 0.70, 0.24, 0.78, 0.77, 0.72},
    {0.22, 0.34, -0.12, 0.46, 0.92, 0.12, 0.62, 0.44, 0.16},
    {-0.56, 0.34, -0.28, -0.52, 0.98, -0.24, 0.30, 0.31, 0.33},
    {-0.56, 0.34, 0.24, -0.52, 0.98, 0.28, 0.30, 0.31, 0.33},
    {-0.56, 0.94, -0.24, -0.52, 0.98, 0.24, 0.30, 0.31, 0.33},
  };

  /** All of it lies within a reach of its middle. */
  static final Vec3 MIDDLE = new Vec3(0, 0.49, 0);

  static final double REACH = 0.85;

  /** Painted lines on the case lie this far apart. */
  private static final double GRID = 0.12;

  private static final double WHEEL_RADIUS = 0.15;
  private static final double[][] WHEELS = {
    {0.36, 0.31}, {0.36, -0.31}, {-0.36, 0.31}, {-0.36, -0.31}
  };
  private static final double HALF_TYRE = 0.035;

  final double[] normal = new double[3];
  private int part;

  /** Distance along a unit ray in the cart's space, or {@code best} when nothing is nearer. */
  double distance(double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    double found = best;
    part = -1;
    for (int i = 0; i < BOXES.length; i++) {
      found = box(i, ox, oy, oz, dx, dy, dz, found);
    }
    for (int i = 0; i < WHEELS.length; i++) {
      found = wheel(i, ox, oy, oz, dx, dy, dz, found);
    }
    return found;
  }

  private double box(
      int i, double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    double[] b = BOXES[i];
    double t0 = 1e-6;
    double t1 = best;
    int axis = -1;
    for (int k = 0; k < 3; k++) {
      double o = k == 0 ? ox : k == 1 ? oy : oz;
      double d = k == 0 ? dx : k == 1 ? dy : dz;
      double a = (b[k] - o) / d;
      double c = (b[k + 3] - o) / d;
      double near = Math.min(a, c);
      if (near > t0) {
        t0 = near;
        axis = k;
      }
      t1 = Math.min(t1, Math.max(a, c));
      if (t0 > t1) {
        return best;
      }
    }
    if (axis < 0 || t0 >= best) {
      return best;
    }
    part = i;
    face(axis, (axis == 0 ? dx : axis == 1 ? dy : dz) > 0 ? -1 : 1);
    return t0;
  }

  private void face(int axis, double sign) {
    for (int k = 0; k < 3; k++) {
      normal[k] = k == axis ? sign : 0;
    }
  }

  private double wheel(
      int i, double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    double cx = ox - WHEELS[i][0];
    double cy = oy - WHEEL_RADIUS;
    double cz = oz - WHEELS[i][1];
    double found = best;
    double side = dz > 0 ? -HALF_TYRE : HALF_TYRE;
    double t = (side - cz) / dz;
    double x = cx + t * dx;
    double y = cy + t * dy;
    if (t > 1e-6 && t < found && x * x + y * y < WHEEL_RADIUS * WHEEL_RADIUS) {
      found = t;
      part = 100 + i;
      face(2, Math.signum(side));
    }
    double a = dx * dx + dy * dy;
    double b = cx * dx + cy * dy;
    double c = cx * cx + cy * cy - WHEEL_RADIUS * WHEEL_RADIUS;
    double disc = b * b - a * c;
    if (disc > 0) {
      t = (-b - Math.sqrt(disc)) / a;
      if (t > 1e-6 && t < found && Math.abs(cz + t * dz) <= HALF_TYRE) {
        found = t;
        part = 200 + i;
        normal[0] = (cx + t * dx) / WHEEL_RADIUS;
        normal[1] = (cy + t * dy) / WHEEL_RADIUS;
        normal[2] = 0;
      }
    }
    return found;
  }

  /** Colour of what {@link #distance} met last. */
  void colour(double x, double y, double z, double turned, double[] rgb) {
    if (part >= 100) {
      double[] w = WHEELS[part % 100];
      double px = x - w[0];
      double py = y - WHEEL_RADIUS;
      double r = Math.sqrt(px * px + py * py) / WHEEL_RADIUS;
      double spoke = (StrictMath.atan2(py, px) + turned) * 3 / Math.PI;
      boolean hub = r < 0.2 || (r < 0.72 && Math.abs(spoke - Math.rint(spoke)) < 0.14);
      double v = part >= 200 || r > 0.74 ? 0.07 : hub ? 0.55 : 0.14;
      grey(rgb, v * (0.9 + 0.2 * Texture.cloud(px * 40, py * 40, 131)));
      return;
    }
    double[] b = BOXES[part];
    double u = Math.abs(normal[0]) > 0.5 ? z : x;
    double v = Math.abs(normal[1]) > 0.5 ? z : y;
    double shade = 0.84 + 0.28 * Texture.cloud(u * 16, v * 16, 120 + part);
    boolean line =
        part == 1
            && (nearLine(u, b[Math.abs(normal[0]) > 0.5 ? 2 : 0])
                || nearLine(v, b[Math.abs(normal[1]) > 0.5 ? 2 : 1]));
    double k = line ? 0.22 : shade;
    rgb[0] = b[6] * k;
    rgb[1] = b[7] * k;
    rgb[2] = b[8] * k;
  }

  private static void grey(double[] rgb, double v) {
    rgb[0] = v;
    rgb[1] = v;
    rgb[2] = v * 1.04;
  }

  private static boolean nearLine(double at, double from) {
    double cells = (at - from) / GRID;
    return Math.abs(cells - Math.rint(cells)) * GRID < 0.004;
  }

  /** Corners of everything built, and crossings of the painted lines. */
  static List<Vec3> features() {
    List<Vec3> list = new ArrayList<>();
    for (double[] b : BOXES) {
      for (int corner = 0; corner < 8; corner++) {
        list.add(
            new Vec3(
                (corner & 1) == 0 ? b[0] : b[3],
                (corner & 4) == 0 ? b[1] : b[4],
                (corner & 2) == 0 ? b[2] : b[5]));
      }
    }
    double[] box = BOXES[1];
    for (double x = box[0] + GRID; x < box[3] - 0.01; x += GRID) {
      for (double y = box[1] + GRID; y < box[4] - 0.01; y += GRID) {
        list.add(new Vec3(x, y, box[5]));
      }
      for (double z = box[2] + GRID; z < box[5] - 0.01; z += GRID) {
        list.add(new Vec3(x, box[4], z));
      }
    }
    for (double z = box[2] + GRID; z < box[5] - 0.01; z += GRID) {
      for (double y = box[1] + GRID; y < box[4] - 0.01; y += GRID) {
        list.add(new Vec3(box[0], y, z));
        list.add(new Vec3(box[3], y, z));
      }
    }
    return list;
  }
}
