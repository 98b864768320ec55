package flarvo.render;

import flarvo.scene.Mesh;
import flarvo.scene.Vec3;

/**
 * Normals to shade a mesh with: its own where it has them; else, at each corner, the mean of the
 * faces round the point that lie within {@value #CREASE}° of the corner's own face, weighed by
 * their areas. So a box keeps its edges and a scanned floor has none.
 */
final class CornerNormals {

  private static final double CREASE = 40;

  /** A point with more faces than this keeps each face's own normal, or the work grows squared. */
  private static final int MOST = 256;

  private final Mesh mesh;
  private final int[] index;
  private final double[] faces; // three a face: as long as twice the face's area
  private final int[] faceOf; // of each corner
  private final int[] start; // of each point's corners in `round`
  private final int[] round;

  private CornerNormals(Mesh mesh) {
    this.mesh = mesh;
    index = mesh.faceIndices();
    faceOf = new int[index.length];
    faces = new double[3 * mesh.faces()];
    for (int f = 0, at = 0; f < mesh.faces(); at += mesh.corners(f), f++) {
      face(f, at);
    }
    start = new int[mesh.points() + 1];
    for (int p : index) {
      start[p + 1]++;
    }
    for (int p = 0; p < mesh.points(); p++) {
      start[p + 1] += start[p];
    }
    round = new int[index.length];
    int[] next = start.clone();
    for (int c = 0; c < index.length; c++) {
      round[next[index[c]]++] = c;
    }
  }

  /**
   * @return three numbers for each corner of each face, in the faces' order and the mesh's space;
   *     of length one, or zero at a face without area
   */
  static double[] of(Mesh m) {
    double[] own = m.normals();
    if (own.length > 0) {
      return own;
    }
    return new CornerNormals(m).averaged();
  }

  /** Newell: also right where a face is not quite flat or not convex. */
  private void face(int f, int at) {
    int n = mesh.corners(f);
    for (int i = 0; i < n; i++) {
      faceOf[at + i] = f;
      int a = index[at + i];
      int b = index[at + (i + 1) % n];
      faces[3 * f] += (mesh.y(a) - mesh.y(b)) * (mesh.z(a) + mesh.z(b));
      faces[3 * f + 1] += (mesh.z(a) - mesh.z(b)) * (mesh.x(a) + mesh.x(b));
      faces[3 * f + 2] += (mesh.x(a) - mesh.x(b)) * (mesh.y(a) + mesh.y(b));
    }
  }

  private double[] averaged() {
    double[] out = new double[3 * index.length];
    double least = Math.cos(Math.toRadians(CREASE));
    for (int c = 0; c < index.length; c++) {
      Vec3 own = normal(faceOf[c]);
      double length = own.length();
      Vec3 sum = own;
      int p = index[c];
      boolean few = start[p + 1] - start[p] <= MOST;
      for (int k = start[p]; few && k < start[p + 1]; k++) {
        Vec3 other = normal(faceOf[round[k]]);
        if (round[k] != c && own.dot(other) > least * length * other.length()) {
          sum = sum.plus(other);
        }
      }
      double all = sum.length();
      if (all > 0) {
        out[3 * c] = sum.x() / all;
        out[3 * c + 1] = sum.y() / all;
        out[3 * c + 2] = sum.z() / all;
      }
    }
    return out;
  }

  private Vec3 normal(int face) {
    return new Vec3(faces[3 * face], faces[3 * face + 1], faces[3 * face + 2]);
  }
}
