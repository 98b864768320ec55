package flarvo.demo;

/** Colours of what stands on the terrace before light falls on them, and the sky's; linear. */
final class TerraceLook {

  /** Materials are numbers, because they sit in the same array as the boxes. */
  static final int STONE = 0;

  static final int PLASTER = 1;

  private TerraceLook() {}

  private static void set(double[] out, double r, double g, double b) {
    out[0] = r;
    out[1] = g;
    out[2] = b;
  }

  /** Flagstones, and grass behind the wall. */
  static void ground(double x, double z, double[] out) {
    if (z < -4.3) {
      double v = 0.10 + 0.10 * Texture.cloud(x * 1.5, z * 1.5, 7);
      set(out, v * 0.9, v * 1.15, v * 0.6);
      return;
    }
    double side = TerraceTruth.FLAGSTONE_METRES;
    int i = (int) Math.floor(x / side);
    int j = (int) Math.floor(z / side);
    double u = x - i * side;
    double w = z - j * side;
    double edge = Math.min(Math.min(u, side - u), Math.min(w, side - w));
    if (edge < 0.006) {
      set(out, 0.11, 0.105, 0.09);
      return;
    }
    double tint = 0.40 + 0.22 * Texture.hash(i, j, 3);
    double warm = 0.94 + 0.10 * Texture.hash(i, j, 5);
    double n = Texture.cloud(x * 14, z * 14, 11);
    double spots = Texture.smooth(x * 55, z * 55, 17);
    double v = tint * (0.72 + 0.42 * n) * (spots > 0.86 ? 0.7 : 1) * (edge < 0.02 ? 0.88 : 1);
    set(out, v * warm, v * 0.98, v * (1.90 - warm) * 0.94);
  }

  /**
   * A box of {@link TerraceScene#BOXES}.
   *
   * @param nx the face's normal
   */
  static void box(int which, double nx, double ny, double x, double y, double z, double[] out) {
    boolean plaster = (int) TerraceScene.BOXES[which][6] == PLASTER;
    double u = Math.abs(nx) > 0.5 ? z : x;
    double w = Math.abs(ny) > 0.5 ? z : y;
    double n = Texture.cloud(u * (plaster ? 9 : 22), w * (plaster ? 9 : 22), 40 + which);
    double stain = Texture.cloud(u * 1.7, w * 2.9, 90 + which);
    double v = plaster ? 0.62 + 0.16 * n + 0.14 * stain : 0.34 + 0.30 * n + 0.08 * stain;
    set(out, v, v * (plaster ? 0.93 : 0.98), v * (plaster ? 0.80 : 0.93));
  }

  /** The sundial's disc, or its gnomon. */
  static void brass(double x, double z, boolean disc, double[] out) {
    double ring = disc ? rings(x, z) : 1;
    set(out, 0.62 * ring, 0.44 * ring, 0.16 * ring);
  }

  private static double rings(double x, double z) {
    double r = Math.sqrt(x * x + z * z) / TerraceScene.DISC_RADIUS;
    boolean line = r > 0.90 && r < 0.93 || r > 0.70 && r < 0.715;
    double a = StrictMath.atan2(z, x) * 12 / Math.PI;
    boolean hour = r > 0.73 && r < 0.88 && Math.abs(a - Math.rint(a)) < 0.07;
    return line || hour ? 0.35 : 0.9 + 0.2 * Texture.smooth(x * 60, z * 60, 23);
  }

  /**
   * The dome's panels.
   *
   * @param round the dome itself; else the wall below it
   */
  static void dome(double x, double y, double z, boolean round, double[] out) {
    double a = StrictMath.atan2(z - TerraceScene.DOME_Z, x - TerraceScene.DOME_X) * 12 / Math.PI;
    boolean seam = Math.abs(a - Math.rint(a)) < 0.025;
    double up = (y - TerraceScene.DOME_Y) / TerraceScene.DOME_RADIUS;
    double h = round ? StrictMath.asin(Math.min(1, up)) * 5 : y * 1.6;
    boolean ring = Math.abs(h - Math.rint(h)) < 0.03;
    double n = Texture.cloud(a * 2, h * 2, 61);
    double v = (seam || ring ? 0.55 : 0.86) + 0.12 * n;
    set(out, 0.74 * v, 0.76 * v, 0.74 * v);
  }

  /** Adds hills or sky, times {@code weight}. */
  static void sky(double dx, double dy, double dz, double weight, double[] rgb) {
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
