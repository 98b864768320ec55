package flarvo.format.abc;

import flarvo.report.InputError;
import org.joml.Matrix4d;

/** A transform object: its operations, one byte each, and their values in a row. */
final class AbcXform {

  private final AbcProperty ops; // null where it stands still at its parent
  private final AbcProperty values;
  private final AbcProperty inherits;
  private final String path;
  private final String file;

  AbcXform(AbcCompound xform, String path, String file) {
    this(
        xform.property(".ops").orElse(null),
        xform.property(".vals").orElse(null),
        xform.property(".inherits").orElse(null),
        path,
        file);
  }

  private AbcXform(
      AbcProperty ops, AbcProperty values, AbcProperty inherits, String path, String file) {
    this.ops = ops;
    this.values = values;
    this.inherits = inherits;
    this.path = path;
    this.file = file;
  }

  /** One that stands still at its parent. */
  static AbcXform none(String path, String file) {
    return new AbcXform(null, null, null, path, file);
  }

  /** The property whose samples move it; null where none does. */
  AbcProperty moving() {
    return values == null || values.isConstant() ? null : values;
  }

  /** Whether it follows its parent at every time. */
  boolean alwaysInherits() {
    return inherits == null || inherits.isConstant() && inheritsAt(0);
  }

  /** Whether it follows its parent at some times and not at others. */
  boolean inheritsAtTimes() {
    return inherits != null && !inherits.isConstant();
  }

  boolean inheritsAt(double seconds) {
    if (inherits == null) {
      return true;
    }
    double[] v = inherits.at(seconds);
    return v.length == 0 || v[0] != 0;
  }

  /** Local to parent, for column vectors. */
  Matrix4d at(double seconds) {
    Matrix4d m = new Matrix4d();
    if (ops == null || values == null) {
      return m;
    }
    double[] kinds = ops.at(seconds);
    double[] v = values.at(seconds);
    int i = 0;
    for (double k : kinds) {
      int kind = (int) k >> 4 & 15;
      int size = kind == 2 ? 4 : kind == 3 ? 16 : kind <= 1 ? 3 : 1;
      if (kind > 6 || i + size > v.length) {
        throw new InputError(
            file, "<" + path + ">", "the operations and values of the transform do not fit", "");
      }
      switch (kind) {
        case 0 -> m.scale(v[i], v[i + 1], v[i + 2]);
        case 1 -> m.translate(v[i], v[i + 1], v[i + 2]);
        case 2 -> turn(m, v[i], v[i + 1], v[i + 2], v[i + 3]);
        case 3 -> m.mul(matrix(v, i));
        case 4 -> turn(m, 1, 0, 0, v[i]);
        case 5 -> turn(m, 0, 1, 0, v[i]);
        default -> turn(m, 0, 0, 1, v[i]);
      }
      i += size;
    }
    if (!m.isFinite()) {
      throw new InputError(
          file, "<" + path + ">", "the transform is not finite", "Request a new copy");
    }
    return m;
  }

  private static void turn(Matrix4d m, double x, double y, double z, double degrees) {
    double n = Math.sqrt(x * x + y * y + z * z);
    if (n > 0) {
      m.rotate(Math.toRadians(degrees), x / n, y / n, z / n);
    }
  }

  private static Matrix4d matrix(double[] v, int i) {
    return new Matrix4d(
        v[i], v[i + 1], v[i + 2], v[i + 3], v[i + 4], v[i + 5], v[i + 6], v[i + 7], v[i + 8],
        v[i + 9], v[i + 10], v[i + 11], v[i + 12], v[i + 13], v[i + 14], v[i + 15]);
  }
}
