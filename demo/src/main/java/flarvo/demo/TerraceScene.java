package flarvo.demo;

import flarvo.scene.Pose;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;

/**
 * What stands on the terrace, as shapes that a ray can meet, with their textures. Written with
 * plain numbers, because a hundred million rays pass through here.
 */
final class TerraceScene {

  /** Boxes: x0 y0 z0 x1 y1 z1, and a material. */
  static final double[][] BOXES = {
    {-0.18, 0.00, -0.18, 0.18, 0.95, 0.18, Material.STONE},
    {-0.25, 0.00, -0.25, 0.25, 0.10, 0.25, Material.STONE},
    {-0.26, 0.95, -0.26, 0.26, 1.01, 0.26, Material.STONE},
    {-6.60, 0.00, -4.30, 6.60, 0.80, -4.00, Material.PLASTER},
    {-6.70, 0.80, -4.38, 6.70, 0.90, -3.92, Material.STONE},
    {-3.75, 0.00, -4.40, -3.35, 1.15, -3.90, Material.PLASTER},
    {3.35, 0.00, -4.40, 3.75, 1.15, -3.90, Material.PLASTER},
    {-2.75, 0.00, -2.15, -2.05, 0.52, -1.45, Material.PLASTER},
    {1.75, 0.00, -2.60, 2.45, 0.52, -1.90, Material.PLASTER},
    {-1.30, 0.00, -3.60, -0.10, 0.45, -3.15, Material.STONE},
  };

  /** Boxes that stand together: the first, the one after the last, and what they lie within. */
  private static final double[][] CLUSTERS = {cluster(0, 3), cluster(3, 7), cluster(7, 10)};

  static final double DISC_RADIUS = 0.21;
  static final double DISC_Y = 1.012;
  static final double DOME_X = 2.6;
  static final double DOME_Z = -10.5;
  static final double DOME_Y = 1.9;
  static final double DOME_RADIUS = 2.9;

  private static final double SUN_X = -0.52;
  private static final double SUN_Y = 0.62;
  private static final double SUN_Z = 0.59;
  private static final double FAR = 1e9;

  /** Numbers, because they sit in the same array as the boxes. */
  private static final class Material {
    static final int STONE = 0;
    static final int PLASTER = 1;
  }

  /** A cart where it stands. */
  private static final class Placed {
    private final Cart cart = new Cart();
    private final double[] rows;
    private final Vec3 place;
    private final Vec3 middle;
    private final double turned; // of its wheels

    Placed(Pose p) {
      rows = p.rotation().toRows();
      place = p.position();
      middle = p.position().plus(p.rotation().apply(Cart.MIDDLE));
      turned = p.position().x() / 0.15;
    }

    /** Whether a ray may meet it; most pass it by. */
    boolean isNear(double ox, double oy, double oz, double dx, double dy, double dz) {
      double cx = ox - middle.x();
      double cy = oy - middle.y();
      double cz = oz - middle.z();
      double c = cx * cx + cy * cy + cz * cz - Cart.REACH * Cart.REACH;
      double b = cx * dx + cy * dy + cz * dz;
      return c <= 0 || b < 0 && b * b >= c * (dx * dx + dy * dy + dz * dz);
    }
  }

  private final double[] cartColour = new double[3];
  private Placed[] carts = {};
  private Placed hitCart;
  private double nx;
  private double ny;
  private double nz;
  private int hitBox;

  /** Puts what moves where it is at that moment. */
  TerraceScene at(ShotTruth shot, double frame) {
    carts = shot.cartsAt(frame).stream().map(Placed::new).toArray(Placed[]::new);
    return this;
  }

  /** Distance along a unit ray to the nearest surface; {@link #FAR} for the sky. */
  double distance(double ox, double oy, double oz, double dx, double dy, double dz) {
    double best = FAR;
    hitBox = -1;
    if (dy < 0) {
      best = -oy / dy;
      set(0, 1, 0);
      hitBox = -2;
    }
    double ix = 1 / dx;
    double iy = 1 / dy;
    double iz = 1 / dz;
    for (double[] c : CLUSTERS) {
      if (!passes(c, ox, oy, oz, ix, iy, iz, best)) {
        continue;
      }
      for (int i = (int) c[6]; i < (int) c[7]; i++) {
        double t = box(BOXES[i], ox, oy, oz, ix, iy, iz, best);
        if (t < best) {
          best = t;
          hitBox = i;
        }
      }
    }
    if (dy != 0) {
      double t = (DISC_Y - oy) / dy;
      double x = ox + t * dx;
      double z = oz + t * dz;
      if (t > 1e-6 && t < best && x * x + z * z < DISC_RADIUS * DISC_RADIUS) {
        best = t;
        hitBox = -3;
        set(0, dy < 0 ? 1 : -1, 0);
      }
    }
    best = gnomon(ox, oy, oz, dx, dy, dz, best);
    best = dome(ox, oy, oz, dx, dy, dz, best);
    for (Placed c : carts) {
      if (c.isNear(ox, oy, oz, dx, dy, dz)) {
        best = cart(c, ox, oy, oz, dx, dy, dz, best);
      }
    }
    return best;
  }

  /** Whether a ray that goes upwards meets anything at all. */
  private boolean isHidden(double ox, double oy, double oz, double dx, double dy, double dz) {
    double ix = 1 / dx;
    double iy = 1 / dy;
    double iz = 1 / dz;
    for (double[] c : CLUSTERS) {
      if (!passes(c, ox, oy, oz, ix, iy, iz, FAR)) {
        continue;
      }
      for (int i = (int) c[6]; i < (int) c[7]; i++) {
        if (box(BOXES[i], ox, oy, oz, ix, iy, iz, FAR) < FAR) {
          return true;
        }
      }
    }
    double t = (DISC_Y - oy) / dy;
    double x = ox + t * dx;
    double z = oz + t * dz;
    if (t > 1e-6 && x * x + z * z < DISC_RADIUS * DISC_RADIUS
        || gnomon(ox, oy, oz, dx, dy, dz, FAR) < FAR
        || dome(ox, oy, oz, dx, dy, dz, FAR) < FAR) {
      return true;
    }
    for (Placed c : carts) {
      if (c.isNear(ox, oy, oz, dx, dy, dz) && cart(c, ox, oy, oz, dx, dy, dz, FAR) < FAR) {
        return true;
      }
    }
    return false;
  }

  private double cart(
      Placed c, double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    double[] m = c.rows;
    double px = ox - c.place.x();
    double py = oy - c.place.y();
    double pz = oz - c.place.z();
    double t =
        c.cart.distance(
            m[0] * px + m[3] * py + m[6] * pz,
            m[1] * px + m[4] * py + m[7] * pz,
            m[2] * px + m[5] * py + m[8] * pz,
            m[0] * dx + m[3] * dy + m[6] * dz,
            m[1] * dx + m[4] * dy + m[7] * dz,
            m[2] * dx + m[5] * dy + m[8] * dz,
            best);
    if (t < best) {
      hitBox = -7;
      hitCart = c;
      double[] n = c.cart.normal;
      set(
          m[0] * n[0] + m[1] * n[1] + m[2] * n[2],
          m[3] * n[0] + m[4] * n[1] + m[5] * n[2],
          m[6] * n[0] + m[7] * n[1] + m[8] * n[2]);
    }
    return t;
  }

  /** Asked before shadows are, because they meet the cart too. */
  private double[] cartColour(double x, double y, double z) {
    Placed c = hitCart;
    double[] m = c.rows;
    double px = x - c.place.x();
    double py = y - c.place.y();
    double pz = z - c.place.z();
    c.cart.colour(
        m[0] * px + m[3] * py + m[6] * pz,
        m[1] * px + m[4] * py + m[7] * pz,
        m[2] * px + m[5] * py + m[8] * pz,
        c.turned,
        cartColour);
    return cartColour;
  }

  /** The upper corners of everything built on the terrace. */
  static List<Vec3> tops() {
    List<Vec3> list = new ArrayList<>();
    for (double[] b : BOXES) {
      for (int corner = 0; corner < 4; corner++) {
        list.add(new Vec3((corner & 1) == 0 ? b[0] : b[3], b[4], (corner & 2) == 0 ? b[2] : b[5]));
      }
    }
    return list;
  }

  /** A point of the dome, by its bearing from +x towards +z and its height in radians. */
  static Vec3 onDome(double bearing, double height) {
    return new Vec3(
        DOME_X + DOME_RADIUS * StrictMath.cos(height) * StrictMath.cos(bearing),
        DOME_Y + DOME_RADIUS * StrictMath.sin(height),
        DOME_Z + DOME_RADIUS * StrictMath.cos(height) * StrictMath.sin(bearing));
  }

  private void set(double x, double y, double z) {
    nx = x;
    ny = y;
    nz = z;
  }

  /** Bounds of some boxes, with a millimetre to spare against rounding. */
  private static double[] cluster(int from, int to) {
    double[] out = {FAR, FAR, FAR, -FAR, -FAR, -FAR, from, to};
    for (int i = from; i < to; i++) {
      for (int a = 0; a < 3; a++) {
        out[a] = Math.min(out[a], BOXES[i][a] - 1e-3);
        out[a + 3] = Math.max(out[a + 3], BOXES[i][a + 3] + 1e-3);
      }
    }
    return out;
  }

  /** Whether a ray goes through bounds before {@code best}. */
  private static boolean passes(
      double[] b, double ox, double oy, double oz, double ix, double iy, double iz, double best) {
    double t0 = ((ix > 0 ? b[0] : b[3]) - ox) * ix;
    double t1 = Math.min(best, ((ix > 0 ? b[3] : b[0]) - ox) * ix);
    t0 = Math.max(t0, ((iy > 0 ? b[1] : b[4]) - oy) * iy);
    t1 = Math.min(t1, ((iy > 0 ? b[4] : b[1]) - oy) * iy);
    t0 = Math.max(t0, ((iz > 0 ? b[2] : b[5]) - oz) * iz);
    t1 = Math.min(t1, ((iz > 0 ? b[5] : b[2]) - oz) * iz);
    return !(t0 > t1) && !(t1 < 0);
  }

  /** Of a ray whose direction is given by the inverse of each part. */
  private double box(
      double[] b, double ox, double oy, double oz, double ix, double iy, double iz, double best) {
    double t0 = 1e-6;
    int axis = -1;
    double near = ((ix > 0 ? b[0] : b[3]) - ox) * ix;
    if (near > t0) {
      t0 = near;
      axis = 0;
    }
    double t1 = Math.min(best, ((ix > 0 ? b[3] : b[0]) - ox) * ix);
    near = ((iy > 0 ? b[1] : b[4]) - oy) * iy;
    if (near > t0) {
      t0 = near;
      axis = 1;
    }
    t1 = Math.min(t1, ((iy > 0 ? b[4] : b[1]) - oy) * iy);
    if (t0 > t1) {
      return FAR;
    }
    near = ((iz > 0 ? b[2] : b[5]) - oz) * iz;
    if (near > t0) {
      t0 = near;
      axis = 2;
    }
    t1 = Math.min(t1, ((iz > 0 ? b[5] : b[2]) - oz) * iz);
    if (t0 > t1 || axis < 0) {
      return FAR;
    }
    double sign = (axis == 0 ? ix : axis == 1 ? iy : iz) > 0 ? -1 : 1;
    set(axis == 0 ? sign : 0, axis == 1 ? sign : 0, axis == 2 ? sign : 0);
    return t0;
  }

  /** A brass triangle in the plane x = 0, sloping up towards the back. */
  private double gnomon(
      double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    if (dx == 0) {
      return best;
    }
    double t = -ox / dx;
    double y = oy + t * dy - DISC_Y;
    double z = oz + t * dz;
    if (t > 1e-6 && t < best && y > 0 && z > -0.14 && z < 0.12 && y < (0.12 - z) * 0.75) {
      hitBox = -4;
      set(dx > 0 ? -1 : 1, 0, 0);
      return t;
    }
    return best;
  }

  private double dome(
      double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    double cx = ox - DOME_X;
    double cz = oz - DOME_Z;
    double cy = oy - DOME_Y;
    double b = cx * dx + cy * dy + cz * dz;
    double c = cx * cx + cy * cy + cz * cz - DOME_RADIUS * DOME_RADIUS;
    double disc = b * b - c;
    double found = best;
    if (disc > 0) {
      double t = -b - Math.sqrt(disc);
      if (t > 1e-6 && t < found && oy + t * dy > DOME_Y) {
        found = t;
        hitBox = -5;
        set((cx + t * dx) / DOME_RADIUS, (cy + t * dy) / DOME_RADIUS, (cz + t * dz) / DOME_RADIUS);
      }
    }
    double a2 = dx * dx + dz * dz;
    double b2 = cx * dx + cz * dz;
    double c2 = cx * cx + cz * cz - DOME_RADIUS * DOME_RADIUS;
    double d2 = b2 * b2 - a2 * c2;
    if (d2 > 0 && a2 > 0) {
      double t = (-b2 - Math.sqrt(d2)) / a2;
      double y = oy + t * dy;
      if (t > 1e-6 && t < found && y >= 0 && y <= DOME_Y) {
        found = t;
        hitBox = -6;
        set((cx + t * dx) / DOME_RADIUS, 0, (cz + t * dz) / DOME_RADIUS);
      }
    }
    return found;
  }

  /**
   * Adds the linear colour that a unit ray brings, times {@code weight}, to {@code rgb}.
   *
   * @param softX jitters the sun, for a soft edge of the shadow
   */
  void shade(
      double ox,
      double oy,
      double oz,
      double dx,
      double dy,
      double dz,
      double softX,
      double softZ,
      double weight,
      double[] rgb) {
    double t = distance(ox, oy, oz, dx, dy, dz);
    if (t >= FAR || t > 400) {
      sky(dx, dy, dz, weight, rgb);
      return;
    }
    double x = ox + t * dx;
    double y = oy + t * dy;
    double z = oz + t * dz;
    int what = hitBox;
    double px = nx;
    double py = ny;
    double pz = nz;
    double r;
    double g;
    double b;
    if (what == -2) {
      double[] c = ground(x, z);
      r = c[0];
      g = c[1];
      b = c[2];
    } else if (what == -7) {
      double[] c = cartColour(x, y, z);
      r = c[0];
      g = c[1];
      b = c[2];
    } else if (what == -3 || what == -4) {
      double ring = what == -3 ? rings(x, z) : 1;
      r = 0.62 * ring;
      g = 0.44 * ring;
      b = 0.16 * ring;
    } else if (what == -5 || what == -6) {
      double v = panels(x, y, z, what == -5);
      r = 0.74 * v;
      g = 0.76 * v;
      b = 0.74 * v;
    } else {
      boolean plaster = (int) BOXES[what][6] == Material.PLASTER;
      double u = Math.abs(px) > 0.5 ? z : x;
      double w = Math.abs(py) > 0.5 ? z : y;
      double n = Texture.cloud(u * (plaster ? 9 : 22), w * (plaster ? 9 : 22), 40 + what);
      double stain = Texture.cloud(u * 1.7, w * 2.9, 90 + what);
      double v = plaster ? 0.62 + 0.16 * n + 0.14 * stain : 0.34 + 0.30 * n + 0.08 * stain;
      r = v;
      g = v * (plaster ? 0.93 : 0.98);
      b = v * (plaster ? 0.80 : 0.93);
    }
    double facing = px * SUN_X + py * SUN_Y + pz * SUN_Z;
    double sun = 0;
    if (facing > 0) {
      double e = 1e-4;
      boolean hidden =
          isHidden(
              x + px * e,
              y + py * e,
              z + pz * e,
              SUN_X + softX * 0.03,
              SUN_Y,
              SUN_Z + softZ * 0.03);
      sun = hidden ? 0 : facing;
    }
    double ambient = 0.30 + 0.14 * py;
    // Creases by the ground are darker, as they are under an open sky.
    if (what >= 0 && py < 0.5) {
      ambient *= 0.72 + 0.28 * Math.min(1, y / 0.35);
    }
    rgb[0] += weight * r * (ambient * 0.86 + 1.06 * sun);
    rgb[1] += weight * g * (ambient * 0.94 + 0.96 * sun);
    rgb[2] += weight * b * (ambient * 1.12 + 0.78 * sun);
  }

  private static double[] ground(double x, double z) {
    if (z < -4.3) {
      double v = 0.10 + 0.10 * Texture.cloud(x * 1.5, z * 1.5, 7);
      return new double[] {v * 0.9, v * 1.15, v * 0.6};
    }
    double side = TerraceTruth.FLAGSTONE_METRES;
    int i = (int) Math.floor(x / side);
    int j = (int) Math.floor(z / side);
    double u = x - i * side;
    double w = z - j * side;
    double edge = Math.min(Math.min(u, side - u), Math.min(w, side - w));
    if (edge < 0.006) {
      return new double[] {0.11, 0.105, 0.09};
    }
    double tint = 0.40 + 0.22 * Texture.hash(i, j, 3);
    double warm = 0.94 + 0.10 * Texture.hash(i, j, 5);
    double n = Texture.cloud(x * 14, z * 14, 11);
    double spots = Texture.smooth(x * 55, z * 55, 17);
    double v = tint * (0.72 + 0.42 * n) * (spots > 0.86 ? 0.7 : 1) * (edge < 0.02 ? 0.88 : 1);
    return new double[] {v * warm, v * 0.98, v * (1.90 - warm) * 0.94};
  }

  private static double rings(double x, double z) {
    double r = Math.sqrt(x * x + z * z) / DISC_RADIUS;
    boolean line = r > 0.90 && r < 0.93 || r > 0.70 && r < 0.715;
    double a = StrictMath.atan2(z, x) * 12 / Math.PI;
    boolean hour = r > 0.73 && r < 0.88 && Math.abs(a - Math.rint(a)) < 0.07;
    return line || hour ? 0.35 : 0.9 + 0.2 * Texture.smooth(x * 60, z * 60, 23);
  }

  private static double panels(double x, double y, double z, boolean dome) {
    double a = StrictMath.atan2(z - DOME_Z, x - DOME_X) * 12 / Math.PI;
    boolean seam = Math.abs(a - Math.rint(a)) < 0.025;
    double h = dome ? StrictMath.asin(Math.min(1, (y - DOME_Y) / DOME_RADIUS)) * 5 : y * 1.6;
    boolean ring = Math.abs(h - Math.rint(h)) < 0.03;
    double n = Texture.cloud(a * 2, h * 2, 61);
    return (seam || ring ? 0.55 : 0.86) + 0.12 * n;
  }

  private static void sky(double dx, double dy, double dz, double weight, double[] rgb) {
    double bearing = StrictMath.atan2(dx, -dz);
    double hills =
        0.055
            + 0.035 * Texture.smooth(bearing * 3, 0, 71)
            + 0.02 * Texture.smooth(bearing * 9, 0, 73);
    if (dy < hills) {
      double v = 0.20 + 0.05 * Texture.cloud(bearing * 40, dy * 60, 75);
      rgb[0] += weight * v * 0.82;
      rgb[1] += weight * v;
      rgb[2] += weight * v * 1.12;
      return;
    }
    double up = Math.min(1, dy * 1.6);
    double c = Texture.cloud(bearing * 4, dy * 11, 81);
    double white = Math.max(0, c - 0.52) * 1.3;
    rgb[0] += weight * (0.70 - 0.38 * up + white * 0.5);
    rgb[1] += weight * (0.74 - 0.24 * up + white * 0.4);
    rgb[2] += weight * (0.78 - 0.04 * up + white * 0.2);
  }
}
