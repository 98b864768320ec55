package flarvo.format.gltf;

import flarvo.scene.Mesh;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * The points of a mesh as this format wants them: one for every normal and pair of texture
 * coordinates that a point has at its corners. Without either, the mesh's own points.
 */
final class GltfCorners {

  private record Key(int point, double nx, double ny, double nz, double u, double v) {}

  private final double[] normals;
  private final double[] uvs;
  private final int[] of; // for each corner of the mesh, its point here
  private int[] points; // for each point here, that of the mesh
  private int[] from; // for each point here, the first corner that is it
  private int count;

  GltfCorners(Mesh m) {
    normals = m.normals();
    uvs = m.uvs();
    int[] faces = m.faceIndices();
    if (normals.length == 0 && uvs.length == 0) {
      of = faces;
      count = m.points();
      points = new int[count];
      Arrays.setAll(points, i -> i);
      from = new int[0];
      return;
    }
    of = new int[faces.length];
    points = new int[Math.max(1, faces.length)];
    from = new int[points.length];
    Map<Key, Integer> known = new HashMap<>();
    for (int c = 0; c < faces.length; c++) {
      Key k =
          new Key(
              faces[c],
              normal(c, 0),
              normal(c, 1),
              normal(c, 2),
              uvs.length == 0 ? 0 : uvs[2 * c],
              uvs.length == 0 ? 0 : uvs[2 * c + 1]);
      Integer there = known.putIfAbsent(k, count);
      of[c] = there == null ? count : there;
      if (there == null) {
        points[count] = faces[c];
        from[count++] = c;
      }
    }
  }

  private double normal(int corner, int k) {
    return normals.length == 0 ? 0 : normals[3 * corner + k];
  }

  int count() {
    return count;
  }

  /** The mesh's own number of a point. */
  int point(int i) {
    return points[i];
  }

  /** The point here of a corner of the mesh. */
  int of(int corner) {
    return of[corner];
  }

  /** Three numbers a point. */
  double[] normals() {
    double[] out = new double[3 * count];
    for (int i = 0; i < count; i++) {
      System.arraycopy(normals, 3 * from[i], out, 3 * i, 3);
    }
    return out;
  }

  /** Two numbers a point; v runs down in this format. */
  double[] uvsDown() {
    double[] out = new double[2 * count];
    for (int i = 0; i < count; i++) {
      out[2 * i] = uvs[2 * from[i]];
      out[2 * i + 1] = 1 - uvs[2 * from[i] + 1];
    }
    return out;
  }
}
