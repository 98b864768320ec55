package flarvo.format;

import flarvo.report.InputError;
import flarvo.scene.Mesh;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Puts a file's mesh into the file's world. */
public final class FileMesh {

  private FileMesh() {}

  /**
   * @param local three numbers a point, in the mesh's own space; overwritten
   * @param place where the mesh stands in the file, for errors
   */
  public static Mesh of(
      String name,
      double[] local,
      Matrix4d world,
      int[] sizes,
      int[] indices,
      String file,
      String place) {
    Vector3d v = new Vector3d();
    for (int i = 0; i + 2 < local.length; i += 3) {
      world.transformPosition(local[i], local[i + 1], local[i + 2], v);
      local[i] = v.x;
      local[i + 1] = v.y;
      local[i + 2] = v.z;
    }
    try {
      return Mesh.of(name, local, sizes, indices);
    } catch (IllegalArgumentException e) {
      throw new InputError(file, place, e.getMessage(), "Request a new copy", e);
    }
  }

  /** A mesh with everything that its file states. */
  public static int[] whole(double[] numbers) {
    int[] out = new int[numbers.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = (int) numbers[i];
    }
    return out;
  }
}
