package flarvo.scene;

/** A finite position or displacement; space and unit are those of whoever holds it. */
public record Vec3(double x, double y, double z) {

  public static final Vec3 ZERO = new Vec3(0, 0, 0);

  public Vec3 {
    if (!Double.isFinite(x) || !Double.isFinite(y) || !Double.isFinite(z)) {
      throw new IllegalArgumentException("not a finite point: " + x + ", " + y + ", " + z);
    }
  }

  /** Sum. */
  public Vec3 plus(Vec3 o) {
    return new Vec3(x + o.x, y + o.y, z + o.z);
  }

  /** Difference. */
  public Vec3 minus(Vec3 o) {
    return new Vec3(x - o.x, y - o.y, z - o.z);
  }

  /** Product with a number. */
  public Vec3 times(double k) {
    return new Vec3(x * k, y * k, z * k);
  }

  /** Scalar product. */
  public double dot(Vec3 o) {
    return x * o.x + y * o.y + z * o.z;
  }

  /** Vector product, right-handed. */
  public Vec3 cross(Vec3 o) {
    return new Vec3(y * o.z - z * o.y, z * o.x - x * o.z, x * o.y - y * o.x);
  }

  /** Euclidean length. */
  public double length() {
    return Math.sqrt(dot(this));
  }

  /** Same direction, length one. A zero vector has none and is refused. */
  public Vec3 normalized() {
    double l = length();
    if (l == 0) {
      throw new IllegalArgumentException("a zero vector has no direction");
    }
    return times(1 / l);
  }
}
