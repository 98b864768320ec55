package flarvo.scene;

import org.joml.Matrix3d;
import org.joml.Quaterniond;

/**
 * A proper rotation as a unit quaternion, w first; turns column vectors. {@code q} and {@code −q}
 * are the same rotation but not {@link #equals}. Angles go through {@link StrictMath}, so that the
 * same shot gives the same bytes on every machine.
 */
public record Rotation(double w, double x, double y, double z) {

  /** How far from length one a stored quaternion may be; guards against unnormalised input. */
  private static final double UNIT_TOLERANCE = 1e-9;

  public static final Rotation IDENTITY = new Rotation(1, 0, 0, 0);

  public Rotation {
    double n = w * w + x * x + y * y + z * z;
    if (!(Math.abs(n - 1) < UNIT_TOLERANCE)) {
      throw new IllegalArgumentException("not a unit quaternion: squared length " + n);
    }
  }

  /** Scales to unit length first; a zero or non-finite quaternion is refused. */
  public static Rotation normalized(double w, double x, double y, double z) {
    double n = Math.sqrt(w * w + x * x + y * y + z * z);
    if (!(n > 0) || !Double.isFinite(n)) {
      throw new IllegalArgumentException("not a rotation: quaternion of length " + n);
    }
    return new Rotation(w / n, x / n, y / n, z / n);
  }

  /** Turn about a unit axis by an angle in radians, right hand rule. */
  public static Rotation about(Vec3 axis, double radians) {
    Vec3 a = axis.normalized();
    double s = StrictMath.sin(radians / 2);
    return normalized(StrictMath.cos(radians / 2), a.x() * s, a.y() * s, a.z() * s);
  }

  /**
   * The shortest rotation that takes one direction to another. Opposite directions have no single
   * one: theirs is half a turn about Y, or about X where they lie along Y.
   *
   * @param from unit length
   * @param to unit length
   */
  public static Rotation between(Vec3 from, Vec3 to) {
    Vec3 axis = from.cross(to);
    if (axis.length() < 1e-12) {
      return from.dot(to) > 0
          ? IDENTITY
          : about(Math.abs(to.y()) < 0.9 ? new Vec3(0, 1, 0) : new Vec3(1, 0, 0), Math.PI);
    }
    return about(axis.normalized(), Math.atan2(axis.length(), from.dot(to)));
  }

  /**
   * From an orthonormal matrix of determinant +1, row by row: {@code m[3 * row + column]}.
   *
   * @throws IllegalArgumentException when the matrix is a reflection or far from orthonormal
   */
  public static Rotation fromRows(double... m) {
    double det =
        m[0] * (m[4] * m[8] - m[5] * m[7])
            - m[1] * (m[3] * m[8] - m[5] * m[6])
            + m[2] * (m[3] * m[7] - m[4] * m[6]);
    if (!(Math.abs(det - 1) < 1e-6)) {
      throw new IllegalArgumentException("not a rotation: determinant " + det);
    }
    // JOML names m<column><row>: its constructor takes the matrix column by column.
    Matrix3d j = new Matrix3d(m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]);
    Quaterniond q = new Quaterniond().setFromNormalized(j);
    return normalized(q.w, q.x, q.y, q.z);
  }

  /** Row by row: {@code m[3 * row + column]}. */
  public double[] toRows() {
    double[] m = new double[9];
    rows(w, x, y, z, m);
    return m;
  }

  /** Writes the matrix of a unit quaternion row by row, without allocating. */
  static void rows(double w, double x, double y, double z, double[] m) {
    double xx = x * x;
    double yy = y * y;
    double zz = z * z;
    double xy = x * y;
    double xz = x * z;
    double yz = y * z;
    double wx = w * x;
    double wy = w * y;
    double wz = w * z;
    m[0] = 1 - 2 * (yy + zz);
    m[1] = 2 * (xy - wz);
    m[2] = 2 * (xz + wy);
    m[3] = 2 * (xy + wz);
    m[4] = 1 - 2 * (xx + zz);
    m[5] = 2 * (yz - wx);
    m[6] = 2 * (xz - wy);
    m[7] = 2 * (yz + wx);
    m[8] = 1 - 2 * (xx + yy);
  }

  /** This rotation after {@code first}: {@code (this ∘ first)(v) = this(first(v))}. */
  public Rotation after(Rotation first) {
    Rotation b = first;
    return normalized(
        w * b.w - x * b.x - y * b.y - z * b.z,
        w * b.x + x * b.w + y * b.z - z * b.y,
        w * b.y - x * b.z + y * b.w + z * b.x,
        w * b.z + x * b.y - y * b.x + z * b.w);
  }

  /** The opposite rotation. */
  public Rotation inverse() {
    return new Rotation(w, -x, -y, -z);
  }

  /** The rotated vector. */
  public Vec3 apply(Vec3 v) {
    double[] m = toRows();
    return new Vec3(
        m[0] * v.x() + m[1] * v.y() + m[2] * v.z(),
        m[3] * v.x() + m[4] * v.y() + m[5] * v.z(),
        m[6] * v.x() + m[7] * v.y() + m[8] * v.z());
  }

  /** Angle in radians, 0 to π, of the turn from this rotation to the other. */
  public double angleTo(Rotation other) {
    Rotation d = other.after(inverse());
    return 2 * StrictMath.atan2(Math.sqrt(d.x * d.x + d.y * d.y + d.z * d.z), Math.abs(d.w));
  }

  /** Shortest-arc spherical interpolation, t from 0 (this) to 1 (other). */
  public Rotation slerp(Rotation other, double t) {
    Quaterniond q =
        new Quaterniond(x, y, z, w).slerp(new Quaterniond(other.x, other.y, other.z, other.w), t);
    return normalized(q.w, q.x, q.y, q.z);
  }
}
