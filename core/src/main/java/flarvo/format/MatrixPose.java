package flarvo.format;

import flarvo.scene.Pose;
import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.Optional;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Between our rotations and poses and the matrices that files speak in. */
public final class MatrixPose {

  /** Axes shorter than this have no direction; guards a division, in file units. */
  private static final double SHORTEST = 1e-150;

  /** Axes that lean less on each other are upright; nearer than numbers go. */
  private static final double UPRIGHT = 1e-15;

  private static final int MOST_ROUNDS = 20;

  private MatrixPose() {}

  /** The matrix of a rotation, for column vectors; JOML takes it column by column. */
  public static Matrix4d of(Rotation r) {
    double[] m = r.toRows();
    return new Matrix4d(m[0], m[3], m[6], 0, m[1], m[4], m[7], 0, m[2], m[5], m[8], 0, 0, 0, 0, 1);
  }

  /**
   * The pose with every scale taken off. Under shear, the axis {@code kept} keeps its direction
   * exactly, and {@code second} its plane: for a camera, the view and the up.
   *
   * @param kept 0, 1 or 2, the local axis whose direction must not change
   * @return empty when an axis has collapsed or the matrix mirrors
   */
  public static Optional<Pose> rigid(Matrix4d m, int kept, int second) {
    Vector3d[] axis = {new Vector3d(), new Vector3d(), new Vector3d()};
    for (int i = 0; i < 3; i++) {
      m.getColumn(i, axis[i]);
    }
    if (!m.isFinite() || m.determinant3x3() <= 0) {
      return Optional.empty();
    }
    Vector3d a = axis[kept];
    Vector3d b = axis[second];
    if (a.length() < SHORTEST || b.length() < SHORTEST) {
      return Optional.empty();
    }
    a.normalize();
    b.fma(-a.dot(b), a);
    if (b.length() < SHORTEST) {
      return Optional.empty();
    }
    b.normalize();
    int third = 3 - kept - second;
    boolean even = (second - kept + 3) % 3 == 1;
    if (even) {
      a.cross(b, axis[third]);
    } else {
      b.cross(a, axis[third]);
    }
    return Optional.of(pose(m, axis));
  }

  /**
   * The pose with every scale and shear taken off so that no axis is preferred: each axis gives way
   * by half of what it leans on the others, until they are upright. USD's own cameras are read so
   * (orthonormalization in its linear algebra, which ends at 1e-6; here it goes on).
   *
   * @return empty when an axis has collapsed or the matrix mirrors
   */
  public static Optional<Pose> balanced(Matrix4d m) {
    if (!m.isFinite() || m.determinant3x3() <= 0) {
      return Optional.empty();
    }
    Vector3d[] axis = {new Vector3d(), new Vector3d(), new Vector3d()};
    for (int i = 0; i < 3; i++) {
      m.getColumn(i, axis[i]);
      if (axis[i].length() < SHORTEST) {
        return Optional.empty();
      }
      axis[i].normalize();
    }
    for (int round = 0; round < MOST_ROUNDS && lean(axis) > UPRIGHT; round++) {
      Vector3d[] next = new Vector3d[3];
      for (int i = 0; i < 3; i++) {
        Vector3d v = new Vector3d(axis[i]);
        for (int k = 0; k < 3; k++) {
          if (k != i) {
            v.fma(-axis[k].dot(v), axis[k]);
          }
        }
        next[i] = v.add(axis[i]).normalize();
      }
      axis = next;
    }
    return Optional.of(pose(m, axis));
  }

  /** How far three unit axes are from upright to each other: the largest cosine. */
  private static double lean(Vector3d[] a) {
    double most = Math.max(Math.abs(a[0].dot(a[1])), Math.abs(a[1].dot(a[2])));
    return Math.max(most, Math.abs(a[2].dot(a[0])));
  }

  private static Pose pose(Matrix4d m, Vector3d[] axis) {
    Rotation r =
        Rotation.fromRows(
            axis[0].x, axis[1].x, axis[2].x, axis[0].y, axis[1].y, axis[2].y, axis[0].z, axis[1].z,
            axis[2].z);
    return new Pose(new Vec3(m.m30(), m.m31(), m.m32()), r);
  }
}
