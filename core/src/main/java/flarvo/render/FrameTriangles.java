package flarvo.render;

import flarvo.scene.Rotation;
import flarvo.scene.Vec3;
import java.util.List;

/**
 * All triangles of a scene at one frame, in the world.
 *
 * @param xyz nine numbers a triangle
 * @param normals the same: a normal for each corner
 * @param item place of each triangle's item in the scene
 * @param dark one a triangle
 */
record FrameTriangles(double[] xyz, double[] normals, int[] item, boolean[] dark) {

  /** As a sine: normals of a triangle's corners that differ by less are one. */
  private static final double FLAT = 1e-4;

  static FrameTriangles of(List<RenderItem> items, int frame) {
    int n = 0;
    for (RenderItem i : items) {
      n += i.dark().length;
    }
    double[] xyz = new double[9 * n];
    double[] normals = new double[9 * n];
    int[] item = new int[n];
    boolean[] dark = new boolean[n];
    int t = 0;
    for (int k = 0; k < items.size(); k++) {
      RenderItem i = items.get(k);
      Rotation turn =
          i.mesh().moves() ? i.mesh().group().get().at(frame).rotation() : Rotation.IDENTITY;
      for (int c = 0; c < i.dark().length; c++, t++) {
        item[t] = k;
        dark[t] = i.dark()[c];
        for (int v = 0; v < 3; v++) {
          Vec3 p = i.mesh().position(i.corners()[3 * c + v], frame);
          xyz[9 * t + 3 * v] = p.x();
          xyz[9 * t + 3 * v + 1] = p.y();
          xyz[9 * t + 3 * v + 2] = p.z();
          int own = 9 * c + 3 * v;
          Vec3 d =
              turn.apply(new Vec3(i.normals()[own], i.normals()[own + 1], i.normals()[own + 2]));
          normals[9 * t + 3 * v] = d.x();
          normals[9 * t + 3 * v + 1] = d.y();
          normals[9 * t + 3 * v + 2] = d.z();
        }
      }
    }
    return new FrameTriangles(xyz, normals, item, dark);
  }

  int count() {
    return item.length;
  }

  Vec3 corner(int triangle, int v) {
    int at = 9 * triangle + 3 * v;
    return new Vec3(xyz[at], xyz[at + 1], xyz[at + 2]);
  }

  /** The normal that a corner is shaded with. */
  Vec3 normal(int triangle, int v) {
    int at = 9 * triangle + 3 * v;
    return new Vec3(normals[at], normals[at + 1], normals[at + 2]);
  }

  /** Whether it is shaded with its own normal all over. */
  boolean isFlat(int triangle) {
    Vec3 n = normal(triangle);
    for (int v = 0; v < 3; v++) {
      if (!(n.cross(normal(triangle, v)).length() < FLAT)) {
        return false;
      }
    }
    return true;
  }

  /** Unit normal by the order of the corners; zero where the triangle has no area. */
  Vec3 normal(int triangle) {
    Vec3 a = corner(triangle, 0);
    Vec3 n = corner(triangle, 1).minus(a).cross(corner(triangle, 2).minus(a));
    double length = n.length();
    return length > 0 ? n.times(1 / length) : Vec3.ZERO;
  }
}
