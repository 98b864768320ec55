package flarvo.format;

import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import java.util.Optional;
import org.joml.Matrix3d;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Puts a file's mesh into the space of what it hangs in. */
public final class FileMesh {

  /** What is said of a mesh that joints or shapes change. */
  public static final String DEFORMED =
      "joints or blend shapes deform the mesh; it is read as it was modelled";

  private FileMesh() {}

  /**
   * @param local three numbers a point, in the mesh's own space
   * @param toGroup from the mesh's own space; faces keep their outside where it mirrors
   * @param normals in the mesh's own space, three numbers a corner; empty for none
   * @param uvs two numbers a corner; empty for none
   * @param place where the mesh stands in the file, for errors
   * @throws InputError when a number is not finite or a face names no point
   */
  public static Mesh of(
      String name,
      double[] local,
      Matrix4d toGroup,
      int[] sizes,
      int[] indices,
      Optional<double[]> normals,
      Optional<double[]> uvs,
      String file,
      String place) {
    Matrix3d turn = toGroup.normal(new Matrix3d());
    boolean mirrors = toGroup.determinant3x3() < 0;
    try {
      Mesh m = Mesh.of(name, local, sizes, indices);
      m = normals.isPresent() ? m.withNormals(normals.get()) : m;
      m = uvs.isPresent() ? m.withUvs(uvs.get()) : m;
      return m.map(v -> place(toGroup, v), v -> direction(turn, v), mirrors);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, place, e.getMessage(), "Request a new copy", e);
    }
  }

  private static Vec3 place(Matrix4d m, Vec3 v) {
    Vector3d out = m.transformPosition(v.x(), v.y(), v.z(), new Vector3d());
    if (!out.isFinite()) {
      throw new IllegalArgumentException("a point is not finite");
    }
    return new Vec3(out.x, out.y, out.z);
  }

  /** A normal of length zero stays as it is. */
  private static Vec3 direction(Matrix3d m, Vec3 v) {
    Vector3d out = m.transform(v.x(), v.y(), v.z(), new Vector3d());
    double n = out.length();
    return n > 0 && Double.isFinite(n) ? new Vec3(out.x / n, out.y / n, out.z / n) : v;
  }

  /**
   * Values a corner, from values a corner, a point, or a number of their own.
   *
   * @param each numbers in one value
   * @param own for each corner, the number of its value; null where the file has none
   * @param corners for each corner, the number of its point
   * @return empty when the counts fit none of these
   */
  public static Optional<double[]> perCorner(double[] values, int each, int[] own, int[] corners) {
    int[] of = own;
    if (of == null && values.length == each * corners.length) {
      return Optional.of(values.clone());
    }
    if (of == null) {
      of = corners;
    }
    if (of.length != corners.length || values.length == 0) {
      return Optional.empty();
    }
    double[] out = new double[each * of.length];
    for (int i = 0; i < of.length; i++) {
      if (of[i] < 0 || of[i] >= values.length / each) {
        return Optional.empty();
      }
      System.arraycopy(values, each * of[i], out, each * i, each);
    }
    return Optional.of(out);
  }

  /**
   * Values a corner, from values a point, or a number of their own a point.
   *
   * @param own for each point, the number of its value; null where the file has none
   * @return empty when the counts do not fit
   */
  public static Optional<double[]> perPoint(double[] values, int each, int[] own, int[] corners) {
    int[] of = new int[corners.length];
    for (int i = 0; i < of.length; i++) {
      boolean known = own != null && corners[i] >= 0 && corners[i] < own.length;
      of[i] = own == null ? corners[i] : known ? own[corners[i]] : -1;
    }
    return perCorner(values, each, of, corners);
  }

  /** Numbers of a file as integers. */
  public static int[] integers(double[] numbers) {
    int[] out = new int[numbers.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = (int) numbers[i];
    }
    return out;
  }
}
