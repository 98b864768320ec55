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
    {-0.18, 0.00, -0.18, 0.18, 0.95, 0.18, TerraceLook.STONE},
    {-0.25, 0.00, -0.25, 0.25, 0.10, 0.25, TerraceLook.STONE},
    {-0.26, 0.95, -0.26, 0.26, 1.01, 0.26, TerraceLook.STONE},
    {-6.60, 0.00, -4.30, 6.60, 0.80, -4.00, TerraceLook.PLASTER},
    {-6.70, 0.80, -4.38, 6.70, 0.90, -3.92, TerraceLook.STONE},
    {-3.75, 0.00, -4.40, -3.35, 1.15, -3.90, TerraceLook.PLASTER},
    {3.35, 0.00, -4.40, 3.75, 1.15, -3.90, TerraceLook.PLASTER},
    {-2.75, 0.00, -2.15, -2.05, 0.52, -1.45, TerraceLook.PLASTER},
    {1.75, 0.00, -2.60, 2.45, 0.52, -1.90, TerraceLook.PLASTER},
    {-1.30, 0.00, -3.60, -0.10, 0.45, -3.15, TerraceLook.STONE},
  };

  /** Boxes that stand together: the first, the one after the last, and what they lie within. */
  private static final double[][] CLUSTERS = {cluster(0, 3), cluster(3, 7), cluster(7, 10)};

  static final double DISC_RADIUS = 0.21;
  static final double DISC_Y = 1.012;
  static final double DOME_X = 2.6;
  static final double DOME_Z = -10.5;
  static final double DOME_Y = 1.9;
  static final double DOME_RADIUS = 2.9;

  /** Boxes, what they stand in together, the sundial's disc with its gnomon, and the dome. */
  private static final double[][] THINGS = things();

  private static final int DISC = BOXES.length + CLUSTERS.length;
  private static final int DOME = DISC + 1;
  private static final RayBounds ANY = RayBounds.unknown(THINGS.length);

  private static final double SUN_X = -0.52;
  private static final double SUN_Y = 0.62;
  private static final double SUN_Z = 0.59;
  private static final double FAR = 1e9;

  /** Width of the sun, for soft edges of shadows. */
  private static final double SOFT = 0.03;

  private static final RayBounds SHADOWS =
      RayBounds.upwards(SUN_X / SUN_Y, SUN_Z / SUN_Y, SOFT / SUN_Y, THINGS);

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

  private final double[] colour = new double[3];
  private Placed[] carts = {};
  private RayBounds seen = ANY;
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

  /**
   * Looks from an eye; {@link #shade} is for its rays alone.
   *
   * @param rows of the rotation from the camera to the world
   */
  TerraceScene from(double[] eye, double[] rows) {
    seen = RayBounds.seenFrom(eye, rows, THINGS);
    return this;
  }

  /** Distance along a unit ray to the nearest surface; {@link #FAR} for the sky. */
  double distance(double ox, double oy, double oz, double dx, double dy, double dz) {
    return nearest(ox, oy, oz, dx, dy, dz, ANY, 0, 0);
  }

  private double nearest(
      double ox,
      double oy,
      double oz,
      double dx,
      double dy,
      double dz,
      RayBounds bounds,
      double lx,
      double ly) {
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
    for (int k = 0; k < CLUSTERS.length; k++) {
      double[] c = CLUSTERS[k];
      if (!bounds.mayMeet(BOXES.length + k, lx, ly)) {
        continue;
      }
      for (int i = (int) c[6]; i < (int) c[7]; i++) {
        double t = bounds.mayMeet(i, lx, ly) ? box(BOXES[i], ox, oy, oz, ix, iy, iz, best) : FAR;
        if (t < best) {
          best = t;
          hitBox = i;
        }
      }
    }
    if (bounds.mayMeet(DISC, lx, ly)) {
      best = disc(ox, oy, oz, dx, dy, dz, best);
      best = gnomon(ox, oy, oz, dx, dy, dz, best);
    }
    if (bounds.mayMeet(DOME, lx, ly)) {
      best = dome(ox, oy, oz, dx, dy, dz, best);
    }
    for (Placed c : carts) {
      if (c.isNear(ox, oy, oz, dx, dy, dz)) {
        best = cart(c, ox, oy, oz, dx, dy, dz, best);
      }
    }
    return best;
  }

  private double disc(
      double ox, double oy, double oz, double dx, double dy, double dz, double best) {
    if (dy == 0) {
      return best;
    }
    double t = (DISC_Y - oy) / dy;
    double x = ox + t * dx;
    double z = oz + t * dz;
    if (t > 1e-6 && t < best && x * x + z * z < DISC_RADIUS * DISC_RADIUS) {
      hitBox = -3;
      set(0, dy < 0 ? 1 : -1, 0);
      return t;
    }
    return best;
  }

  /** Whether a ray towards the sun meets anything at all. */
  private boolean isHidden(double ox, double oy, double oz, double dx, double dy, double dz) {
    double ix = 1 / dx;
    double iy = 1 / dy;
    double iz = 1 / dz;
    double gx = ox - oy * (SUN_X / SUN_Y);
    double gz = oz - oy * (SUN_Z / SUN_Y);
    for (int k = 0; k < CLUSTERS.length; k++) {
      double[] c = CLUSTERS[k];
      if (!SHADOWS.mayMeet(BOXES.length + k, gx, gz)) {
        continue;
      }
      for (int i = (int) c[6]; i < (int) c[7]; i++) {
        if (SHADOWS.mayMeet(i, gx, gz) && box(BOXES[i], ox, oy, oz, ix, iy, iz, FAR) < FAR) {
          return true;
        }
      }
    }
    if (SHADOWS.mayMeet(DISC, gx, gz)
        && (disc(ox, oy, oz, dx, dy, dz, FAR) < FAR || gnomon(ox, oy, oz, dx, dy, dz, FAR) < FAR)) {
      return true;
    }
    if (SHADOWS.mayMeet(DOME, gx, gz) && dome(ox, oy, oz, dx, dy, dz, FAR) < FAR) {
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
  private void cartColour(double x, double y, double z, double[] out) {
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
        out);
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

  private static double[][] things() {
    List<double[]> out = new ArrayList<>(List.of(BOXES));
    out.addAll(List.of(CLUSTERS));
    double r = DISC_RADIUS;
    out.add(new double[] {-r, DISC_Y - 1e-3, -r, r, DISC_Y + 0.2, r});
    double d = DOME_RADIUS;
    out.add(new double[] {DOME_X - d, 0, DOME_Z - d, DOME_X + d, DOME_Y + d, DOME_Z + d});
    return out.toArray(double[][]::new);
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
   * @param lx where the ray goes through the plane one unit in front of the eye
   * @param softX jitters the sun, for a soft edge of the shadow
   */
  void shade(
      double ox,
      double oy,
      double oz,
      double dx,
      double dy,
      double dz,
      double lx,
      double ly,
      double softX,
      double softZ,
      double weight,
      double[] rgb) {
    double t = nearest(ox, oy, oz, dx, dy, dz, seen, lx, ly);
    if (t >= FAR || t > 400) {
      TerraceLook.sky(dx, dy, dz, weight, rgb);
      return;
    }
    double x = ox + t * dx;
    double y = oy + t * dy;
    double z = oz + t * dz;
    int what = hitBox;
    double px = nx;
    double py = ny;
    double pz = nz;
    double[] c = colour;
    if (what == -2) {
      TerraceLook.ground(x, z, c);
    } else if (what == -7) {
      cartColour(x, y, z, c);
    } else if (what == -3 || what == -4) {
      TerraceLook.brass(x, z, what == -3, c);
    } else if (what == -5 || what == -6) {
      TerraceLook.dome(x, y, z, what == -5, c);
    } else {
      TerraceLook.box(what, px, py, x, y, z, c);
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
              SUN_X + softX * SOFT,
              SUN_Y,
              SUN_Z + softZ * SOFT);
      sun = hidden ? 0 : facing;
    }
    double ambient = 0.30 + 0.14 * py;
    // Creases by the ground are darker, as they are under an open sky.
    if (what >= 0 && py < 0.5) {
      ambient *= 0.72 + 0.28 * Math.min(1, y / 0.35);
    }
    rgb[0] += weight * c[0] * (ambient * 0.86 + 1.06 * sun);
    rgb[1] += weight * c[1] * (ambient * 0.94 + 0.96 * sun);
    rgb[2] += weight * c[2] * (ambient * 1.12 + 0.78 * sun);
  }
}
