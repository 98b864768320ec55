package flarvo.convention;

import flarvo.scene.Rotation;
import java.util.Locale;

/**
 * Order of three turns about fixed axes, first to last. {@code XYZ} turns about x first: {@code R =
 * Rz · Ry · Rx} on column vectors, which is the same as turns about moving axes in the order z, y,
 * x. Angles are always given as (x, y, z), whatever the order.
 */
public enum RotationOrder {
  XYZ(0, 1, 2),
  XZY(0, 2, 1),
  YZX(1, 2, 0),
  YXZ(1, 0, 2),
  ZXY(2, 0, 1),
  ZYX(2, 1, 0);

  /**
   * Below this cosine of the middle angle the outer two cannot be told apart from rounding; guards
   * a division, no unit.
   */
  static final double POLE = 1e-12;

  final int first;
  final int second;
  final int third;
  private final int parity;

  RotationOrder(int first, int second, int third) {
    this.first = first;
    this.second = second;
    this.third = third;
    this.parity = (second - first + 3) % 3 == 1 ? 1 : -1;
  }

  /**
   * Parses an order such as {@code ZXY}.
   *
   * @throws IllegalArgumentException for anything else
   */
  public static RotationOrder parse(String text) {
    try {
      return valueOf(text.trim().toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException(
          "'" + text + "' is not a rotation order; write XYZ, XZY, YZX, YXZ, ZXY or ZYX", e);
    }
  }

  /** Radians about x, y and z to the rotation. */
  public Rotation compose(double x, double y, double z) {
    double[] a = {x, y, z};
    return turn(third, a[third]).after(turn(second, a[second])).after(turn(first, a[first]));
  }

  /** True when the middle turn stands at ±90°, where the outer two turn about the same line. */
  boolean atPole(Rotation r) {
    double[] m = r.toRows();
    return Math.hypot(at(m, first, first), at(m, second, first)) < POLE;
  }

  /**
   * Radians about x, y and z with the middle angle within ±90°.
   *
   * <p>With i, j, k the first, second and last axis and e = ±1 the order's parity: {@code R[k][i] =
   * −e sin b}, {@code R[k][j] = e sin a cos b}, {@code R[k][k] = cos a cos b}.
   *
   * @param hint the first angle to take at a pole, where it is free
   */
  public double[] decompose(Rotation r, double hint) {
    double[] m = r.toRows();
    boolean pole = Math.hypot(at(m, first, first), at(m, second, first)) < POLE;
    double a = pole ? hint : StrictMath.atan2(parity * at(m, third, second), at(m, third, third));
    // With a known, R · Ri(−a) = Rk(c) · Rj(b) gives b and c without loss near the pole.
    double[] n = r.after(turn(first, -a)).toRows();
    double b = StrictMath.atan2(-parity * at(n, third, first), at(n, third, third));
    double c = StrictMath.atan2(-parity * at(n, first, second), at(n, second, second));
    double[] out = new double[3];
    out[first] = a;
    out[second] = b;
    out[third] = c;
    return out;
  }

  /** The other solution: outer angles half a turn on, middle angle mirrored about 90°. */
  double[] other(double[] angles) {
    double[] out = new double[3];
    out[first] = angles[first] + Math.PI;
    out[second] = Math.PI - angles[second];
    out[third] = angles[third] + Math.PI;
    return out;
  }

  private static double at(double[] m, int row, int column) {
    return m[3 * row + column];
  }

  private static Rotation turn(int axis, double radians) {
    double s = StrictMath.sin(radians / 2);
    double c = StrictMath.cos(radians / 2);
    return Rotation.normalized(c, axis == 0 ? s : 0, axis == 1 ? s : 0, axis == 2 ? s : 0);
  }
}
