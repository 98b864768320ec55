package flarvo.stage;

import flarvo.scene.Mesh;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;

/**
 * Flat faces in the world, in metres.
 *
 * @param faces corners of each, counter-clockwise as seen from outside
 * @param dark whether a face is one of the darker ones of a pattern
 */
public record Solid(List<List<Vec3>> faces, List<Boolean> dark) {

  private static final int CHEQUERS = 4;
  private static final double POST_HALF = 0.02;
  private static final double MARK = 0.1; // metres between the marks of a post

  public Solid {
    faces = List.copyOf(faces);
    dark = List.copyOf(dark);
  }

  private static Vec3 place(Vec3 foot, double turn, double x, double y, double z) {
    double c = Math.cos(turn);
    double s = Math.sin(turn);
    return foot.plus(new Vec3(c * x + s * z, y, c * z - s * x));
  }

  /** Upright boxes on each other, one for each mark. */
  static Solid post(Vec3 foot, double turn, double metres) {
    List<List<Vec3>> faces = new ArrayList<>();
    List<Boolean> dark = new ArrayList<>();
    int marks = (int) Math.min(200, Math.max(1, Math.ceil(metres / MARK - 1e-9)));
    double half = Math.min(POST_HALF, metres / 10);
    for (int i = 0; i < marks; i++) {
      box(faces, foot, turn, half, half, i * MARK, Math.min(metres, (i + 1) * MARK));
      while (dark.size() < faces.size()) {
        dark.add(i % 2 == 1);
      }
    }
    return new Solid(faces, dark);
  }

  static Solid tile(Vec3 foot, double turn, double metres) {
    List<List<Vec3>> faces = new ArrayList<>();
    List<Boolean> dark = new ArrayList<>();
    double side = metres / CHEQUERS;
    for (int i = 0; i < CHEQUERS; i++) {
      for (int k = 0; k < CHEQUERS; k++) {
        double x = -metres / 2 + i * side;
        double z = -metres / 2 + k * side;
        faces.add(
            List.of(
                place(foot, turn, x, 0, z),
                place(foot, turn, x, 0, z + side),
                place(foot, turn, x + side, 0, z + side),
                place(foot, turn, x + side, 0, z)));
        dark.add((i + k) % 2 == 1);
      }
    }
    return new Solid(faces, dark);
  }

  static Solid crate(Vec3 foot, double turn, double metres) {
    List<List<Vec3>> faces = new ArrayList<>();
    box(faces, foot, turn, metres / 2, metres / 2, 0, metres);
    return new Solid(faces, java.util.Collections.nCopies(faces.size(), false));
  }

  private static void box(
      List<List<Vec3>> faces, Vec3 foot, double turn, double hx, double hz, double y0, double y1) {
    Vec3[] p = new Vec3[8];
    for (int i = 0; i < 8; i++) {
      p[i] =
          place(
              foot, turn, (i & 1) == 0 ? -hx : hx, (i & 2) == 0 ? y0 : y1, (i & 4) == 0 ? -hz : hz);
    }
    faces.add(List.of(p[4], p[5], p[7], p[6])); // towards +z
    faces.add(List.of(p[1], p[0], p[2], p[3]));
    faces.add(List.of(p[5], p[1], p[3], p[7])); // towards +x
    faces.add(List.of(p[0], p[4], p[6], p[2]));
    faces.add(List.of(p[6], p[7], p[3], p[2])); // up
    faces.add(List.of(p[0], p[1], p[5], p[4]));
  }

  /** Faces of a mesh, in the space that its points are in. */
  public static Solid of(Mesh mesh) {
    List<List<Vec3>> faces = new ArrayList<>();
    int[] index = mesh.faceIndices();
    int k = 0;
    for (int f = 0; f < mesh.faces(); f++) {
      List<Vec3> face = new ArrayList<>();
      for (int c = 0; c < mesh.corners(f); c++) {
        int i = index[k++];
        face.add(new Vec3(mesh.x(i), mesh.y(i), mesh.z(i)));
      }
      faces.add(face);
    }
    return new Solid(faces, java.util.Collections.nCopies(faces.size(), false));
  }

  /**
   * Whether something of this stands between an eye and a point.
   *
   * @param near share of the way, from 0 to 1, that must be free: 0.999 leaves the point's own face
   *     out
   */
  public boolean hides(Vec3 eye, Vec3 point, double near) {
    Vec3 way = point.minus(eye);
    for (List<Vec3> f : faces) {
      for (int i = 1; i + 1 < f.size(); i++) {
        double t = meet(eye, way, f.get(0), f.get(i), f.get(i + 1));
        if (t > 1e-6 && t < near) {
          return true;
        }
      }
    }
    return false;
  }

  /** How far along a way a triangle is met, as a share of it; NaN where it is missed. */
  static double meet(Vec3 eye, Vec3 way, Vec3 a, Vec3 b, Vec3 c) {
    Vec3 e1 = b.minus(a);
    Vec3 e2 = c.minus(a);
    Vec3 p = way.cross(e2);
    double det = e1.dot(p);
    if (Math.abs(det) < 1e-300) {
      return Double.NaN;
    }
    Vec3 s = eye.minus(a);
    double u = s.dot(p) / det;
    Vec3 q = s.cross(e1);
    double v = way.dot(q) / det;
    return u < 0 || v < 0 || u + v > 1 ? Double.NaN : e2.dot(q) / det;
  }
}
