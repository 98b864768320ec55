package flarvo.render;

import flarvo.scene.Vec3;
import java.util.List;

/**
 * All triangles of a scene at one frame, in the world.
 *
 * @param xyz nine numbers a triangle
 * @param item place of each triangle's item in the scene
 * @param dark one a triangle
 */
record FrameTriangles(double[] xyz, int[] item, boolean[] dark) {

  static FrameTriangles of(List<RenderItem> items, int frame) {
    int n = 0;
    for (RenderItem i : items) {
      n += i.dark().length;
    }
    double[] xyz = new double[9 * n];
    int[] item = new int[n];
    boolean[] dark = new boolean[n];
    int t = 0;
    for (int k = 0; k < items.size(); k++) {
      RenderItem i = items.get(k);
      for (int c = 0; c < i.dark().length; c++, t++) {
        item[t] = k;
        dark[t] = i.dark()[c];
        for (int v = 0; v < 3; v++) {
          Vec3 p = i.mesh().position(i.corners()[3 * c + v], frame);
          xyz[9 * t + 3 * v] = p.x();
          xyz[9 * t + 3 * v + 1] = p.y();
          xyz[9 * t + 3 * v + 2] = p.z();
        }
      }
    }
    return new FrameTriangles(xyz, item, dark);
  }

  int count() {
    return item.length;
  }

  Vec3 corner(int triangle, int v) {
    int at = 9 * triangle + 3 * v;
    return new Vec3(xyz[at], xyz[at + 1], xyz[at + 2]);
  }

  /** Unit normal by the order of the corners; zero where the triangle has no area. */
  Vec3 normal(int triangle) {
    Vec3 a = corner(triangle, 0);
    Vec3 n = corner(triangle, 1).minus(a).cross(corner(triangle, 2).minus(a));
    double length = n.length();
    return length > 0 ? n.times(1 / length) : Vec3.ZERO;
  }
}
