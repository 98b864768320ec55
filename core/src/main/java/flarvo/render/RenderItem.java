package flarvo.render;

import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import flarvo.stage.Solid;
import java.util.ArrayList;
import java.util.List;

/**
 * Something that is drawn: its triangles, and whether each is one of the darker ones.
 *
 * @param id from 1, as it stands in the identity pass
 * @param mesh in the world, or in its group
 * @param corners point numbers, three a triangle
 * @param normals nine numbers a triangle, in the mesh's space: a normal for each of its corners
 * @param dark one a triangle
 */
record RenderItem(
    int id, String name, Kind kind, Mesh mesh, int[] corners, double[] normals, boolean[] dark) {

  enum Kind {
    GAUGE(0.80, 0.78, 0.72),
    STAND_IN(0.45, 0.62, 0.57),
    MESH(0.58, 0.58, 0.60);

    private final double[] colour;

    Kind(double r, double g, double b) {
      colour = new double[] {r, g, b};
    }

    /** In linear light: how much of each it reflects. */
    double colour(int channel) {
      return colour[channel];
    }
  }

  static RenderItem of(int id, Kind kind, Mesh m) {
    return of(id, kind, m, new boolean[m.triangles().length / 3]);
  }

  private static RenderItem of(int id, Kind kind, Mesh m, boolean[] dark) {
    int[] fans = m.triangles();
    int[] index = m.faceIndices();
    double[] each = CornerNormals.of(m);
    int[] corners = new int[fans.length];
    double[] normals = new double[3 * fans.length];
    for (int i = 0; i < fans.length; i++) {
      corners[i] = index[fans[i]];
      System.arraycopy(each, 3 * fans[i], normals, 3 * i, 3);
    }
    return new RenderItem(id, m.name(), kind, m, corners, normals, dark);
  }

  /** Faces of a gauge, each with points of its own. */
  static RenderItem of(int id, String name, Solid s) {
    List<Vec3> points = new ArrayList<>();
    List<Boolean> dark = new ArrayList<>();
    int[] sizes = new int[s.faces().size()];
    for (int f = 0; f < sizes.length; f++) {
      List<Vec3> face = s.faces().get(f);
      sizes[f] = face.size();
      points.addAll(face);
      for (int i = 0; i + 2 < face.size(); i++) {
        dark.add(s.dark().get(f));
      }
    }
    double[] xyz = new double[3 * points.size()];
    int[] index = new int[points.size()];
    for (int i = 0; i < index.length; i++) {
      index[i] = i;
      xyz[3 * i] = points.get(i).x();
      xyz[3 * i + 1] = points.get(i).y();
      xyz[3 * i + 2] = points.get(i).z();
    }
    Mesh m = Mesh.of(name, xyz, sizes, index);
    boolean[] each = new boolean[dark.size()];
    for (int i = 0; i < each.length; i++) {
      each[i] = dark.get(i);
    }
    return of(id, Kind.GAUGE, m, each);
  }
}
