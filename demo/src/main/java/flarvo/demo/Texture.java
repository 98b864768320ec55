package flarvo.demo;

/** Procedural noise from integer hashes: the same on every machine. */
final class Texture {

  private Texture() {}

  /** 0 to 1, without pattern. */
  static double hash(int x, int y, int z) {
    int h = x * 0x27d4eb2d ^ y * 0x165667b1 ^ z * 0x9e3779b1;
    h ^= h >>> 15;
    h *= 0x85ebca6b;
    h ^= h >>> 13;
    h *= 0xc2b2ae35;
    h ^= h >>> 16;
    return (h >>> 8) / (double) (1 << 24);
  }

  /** Smooth noise of wavelength one, 0 to 1. */
  static double smooth(double x, double y, int seed) {
    int xi = (int) Math.floor(x);
    int yi = (int) Math.floor(y);
    double u = x - xi;
    double v = y - yi;
    u = u * u * (3 - 2 * u);
    v = v * v * (3 - 2 * v);
    double a = hash(xi, yi, seed);
    double b = hash(xi + 1, yi, seed);
    double c = hash(xi, yi + 1, seed);
    double d = hash(xi + 1, yi + 1, seed);
    return a + (b - a) * u + (c - a) * v + (a - b - c + d) * u * v;
  }

  /** Three octaves, 0 to 1. */
  static double cloud(double x, double y, int seed) {
    return 0.57 * smooth(x, y, seed)
        + 0.29 * smooth(2.03 * x, 2.03 * y, seed + 1)
        + 0.14 * smooth(4.11 * x, 4.11 * y, seed + 2);
  }
}
