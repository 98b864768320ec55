package flarvo.stage;

import flarvo.level.PlaneFit;
import flarvo.report.InputError;
import flarvo.scene.Mesh;
import flarvo.scene.Similarity;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * Simple geometry in the place of something that was filmed.
 *
 * @param points in solve space
 * @param faces point numbers, counter-clockwise as seen from outside
 * @param corners whether its first face's corners and middle go along as locators
 */
public record StandIn(
    String name, String group, List<Vec3> points, List<List<Integer>> faces, boolean corners) {

  /** What stand-ins hang in unless another group is named. */
  public static final String USUAL_GROUP = "stand-ins";

  private static final double FLAT = 1e-9;

  public StandIn {
    points = List.copyOf(points);
    faces = faces.stream().map(List::copyOf).toList();
    for (List<Integer> f : faces) {
      for (int i : f) {
        if (i < 0 || i >= points.size()) {
          throw new IllegalArgumentException(name + ": a face names corner " + i);
        }
      }
    }
  }

  /**
   * A card through three or four places: three make a parallelogram with the second as the corner
   * between the others, four are laid on the plane nearest to them.
   *
   * @param eye the side that it shows its front to
   */
  public static StandIn card(String name, String group, List<Vec3> through, Vec3 eye) {
    if (through.size() != 3 && through.size() != 4) {
      throw InputError.words(
          "a card goes through three or four places, not " + through.size(),
          "Select three or four trackers");
    }
    List<Vec3> at = new ArrayList<>(through);
    if (at.size() == 3) {
      at.add(at.get(0).plus(at.get(2)).minus(at.get(1)));
    }
    PlaneFit plane =
        PlaneFit.of(at)
            .orElseThrow(
                () ->
                    InputError.words(
                        "these places lie on one line, which carries no card",
                        "Choose another corner"));
    List<Vec3> flat = new ArrayList<>();
    for (Vec3 p : inOrder(at, plane)) {
      flat.add(p.minus(plane.normal().times(plane.distance(p))));
    }
    Vec3 turn = flat.get(1).minus(flat.get(0)).cross(flat.get(2).minus(flat.get(1)));
    if (turn.dot(eye.minus(flat.get(0))) < 0) {
      java.util.Collections.reverse(flat);
    }
    return new StandIn(name, group, flat, List.of(List.of(0, 1, 2, 3)), true);
  }

  /** Round the middle, so that the edges do not cross. */
  private static List<Vec3> inOrder(List<Vec3> at, PlaneFit plane) {
    Vec3 x = at.get(0).minus(plane.middle());
    Vec3 u = x.minus(plane.normal().times(plane.normal().dot(x)));
    if (!(u.length() > 0)) {
      return at;
    }
    Vec3 a = u.normalized();
    Vec3 b = plane.normal().cross(a);
    List<Vec3> out = new ArrayList<>(at);
    out.sort(
        java.util.Comparator.comparingDouble(
            p -> Math.atan2(p.minus(plane.middle()).dot(b), p.minus(plane.middle()).dot(a))));
    return out;
  }

  /**
   * A box that stands on the ground.
   *
   * @param a a corner of its foot in the world
   * @param b the opposite one; only their places on the ground count
   * @param height in metres, upwards
   */
  public static StandIn box(
      String name, String group, Vec3 a, Vec3 b, double height, Similarity level) {
    double x0 = Math.min(a.x(), b.x());
    double x1 = Math.max(a.x(), b.x());
    double z0 = Math.min(a.z(), b.z());
    double z1 = Math.max(a.z(), b.z());
    double y = Math.min(a.y(), b.y());
    if (!(x1 - x0 > FLAT) || !(z1 - z0 > FLAT) || !(height > FLAT)) {
      throw InputError.words(
          "a box needs a foot with two sides and a height", "Draw it larger, or type the height");
    }
    List<Vec3> world =
        List.of(new Vec3(x0, y, z1), new Vec3(x1, y, z1), new Vec3(x1, y, z0), new Vec3(x0, y, z0));
    return raised(name, group, world, new Vec3(0, height, 0), level);
  }

  /**
   * A wall that rises from an edge.
   *
   * @param a one end of the edge, in the world
   * @param eye in the world; the side that it shows its front to
   */
  public static StandIn wall(
      String name, String group, Vec3 a, Vec3 b, double height, Vec3 eye, Similarity level) {
    Vec3 up = new Vec3(0, height, 0);
    if (!(a.minus(b).length() > FLAT) || !(height > FLAT)) {
      throw InputError.words(
          "a wall needs an edge with two ends and a height", "Choose another end");
    }
    Vec3 front = b.minus(a).cross(up);
    boolean turned = front.dot(eye.minus(a)) < 0;
    Vec3 p = turned ? b : a;
    Vec3 q = turned ? a : b;
    List<Vec3> world = List.of(p, q, q.plus(up), p.plus(up));
    Similarity back = level.inverse();
    return new StandIn(
        name, group, world.stream().map(back::apply).toList(), List.of(List.of(0, 1, 2, 3)), true);
  }

  /** Its first face drawn out to a solid; the rest is replaced. */
  public StandIn extruded(double metres, Similarity level) {
    List<Vec3> face = faces.get(0).stream().map(i -> level.apply(points.get(i))).toList();
    Vec3 n = face.get(1).minus(face.get(0)).cross(face.get(2).minus(face.get(1)));
    if (!(n.length() > 0) || !(Math.abs(metres) > FLAT)) {
      throw InputError.words(name + " cannot be drawn out", "Type a distance such as 0.3 m");
    }
    Vec3 by = n.normalized().times(metres);
    List<Vec3> base = new ArrayList<>(face);
    if (metres < 0) {
      java.util.Collections.reverse(base);
    }
    // The base looks the other way than the way it is drawn out.
    return raised(name, group, base, by, level);
  }

  /**
   * @param base counter-clockwise as seen from where it is raised to
   */
  private static StandIn raised(
      String name, String group, List<Vec3> base, Vec3 by, Similarity level) {
    Similarity back = level.inverse();
    int n = base.size();
    List<Vec3> points = new ArrayList<>();
    base.forEach(p -> points.add(back.apply(p)));
    base.forEach(p -> points.add(back.apply(p.plus(by))));
    List<List<Integer>> faces = new ArrayList<>();
    List<Integer> top = new ArrayList<>();
    List<Integer> bottom = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      top.add(n + i);
      bottom.add(n - 1 - i);
    }
    faces.add(top);
    faces.add(bottom);
    for (int i = 0; i < n; i++) {
      int k = (i + 1) % n;
      faces.add(List.of(i, k, n + k, n + i));
    }
    return new StandIn(name, group, points, faces, false);
  }

  /** One of its corners laid on another place, such as a tracker's. */
  public StandIn snapped(int corner, Vec3 to) {
    List<Vec3> p = new ArrayList<>(points);
    p.set(corner, to);
    return new StandIn(name, group, p, faces, corners);
  }

  /** All of it shifted, in solve space. */
  public StandIn shifted(Vec3 by) {
    return new StandIn(name, group, points.stream().map(p -> p.plus(by)).toList(), faces, corners);
  }

  /** The same under another name. */
  public StandIn named(String n, String g) {
    return new StandIn(n, g, points, faces, corners);
  }

  /** With its corners and centre as locators, or without. */
  public StandIn withCorners(boolean wanted) {
    return new StandIn(name, group, points, faces, wanted);
  }

  StandIn moved(Similarity to) {
    return new StandIn(name, group, points.stream().map(to::apply).toList(), faces, corners);
  }

  /** In solve space. */
  public Mesh mesh() {
    double[] xyz = new double[3 * points.size()];
    for (int i = 0; i < points.size(); i++) {
      xyz[3 * i] = points.get(i).x();
      xyz[3 * i + 1] = points.get(i).y();
      xyz[3 * i + 2] = points.get(i).z();
    }
    return Mesh.of(
        name,
        xyz,
        faces.stream().mapToInt(List::size).toArray(),
        faces.stream().flatMap(List::stream).mapToInt(Integer::intValue).toArray());
  }

  /** Where a ray from a point meets its nearest face; in the space that all three are in. */
  public Optional<Vec3> meet(Vec3 from, Vec3 way) {
    double best = Double.POSITIVE_INFINITY;
    for (List<Integer> f : faces) {
      for (int i = 1; i + 1 < f.size(); i++) {
        double t =
            Solid.meet(
                from, way, points.get(f.get(0)), points.get(f.get(i)), points.get(f.get(i + 1)));
        if (t > 1e-9 && t < best) {
          best = t;
        }
      }
    }
    return Double.isInfinite(best) ? Optional.empty() : Optional.of(from.plus(way.times(best)));
  }
}
