package flarvo.scene;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/**
 * A named set of solved 3D points; coordinates live in one primitive array. They are in the space
 * of the shot, or, where the set hangs in a group that moves, in that group's space. Immutable.
 */
public final class TrackerSet {

  private final String name;
  private final List<String> names;
  private final PackedPoints points; // shared by sets that differ in all else
  private final double[] xyz; // theirs
  private final double marker; // 0 where nobody asked for a size
  private final boolean cloud;
  private final Optional<Group> group;
  private final PoseTrack motion; // null where it stands still

  private TrackerSet(
      String name,
      List<String> names,
      PackedPoints points,
      double marker,
      boolean cloud,
      Optional<Group> group) {
    this.name = name;
    this.names = names;
    this.points = points;
    this.xyz = points.xyz;
    this.marker = marker;
    this.cloud = cloud;
    this.group = group;
    this.motion = group.flatMap(Group::poses).orElse(null);
  }

  /**
   * @param xyz three numbers a tracker; copied
   * @throws IllegalArgumentException when counts differ, a name repeats or a number is not finite
   */
  public static TrackerSet of(String name, List<String> names, double[] xyz) {
    if (xyz.length != 3 * names.size()) {
      throw new IllegalArgumentException(
          names.size() + " names but " + xyz.length + " coordinates");
    }
    Set<String> seen = new HashSet<>();
    for (String n : names) {
      if (!seen.add(n)) {
        throw new IllegalArgumentException("two trackers are named '" + n + "'");
      }
    }
    for (int i = 0; i < xyz.length; i++) {
      if (!Double.isFinite(xyz[i])) {
        throw new IllegalArgumentException(
            "tracker '" + names.get(i / 3) + "' has a coordinate that is not finite");
      }
    }
    return new TrackerSet(
        name, List.copyOf(names), new PackedPoints(xyz.clone()), 0, false, Optional.empty());
  }

  public String name() {
    return name;
  }

  public List<String> names() {
    return names;
  }

  /** Number of trackers. */
  public int size() {
    return names.size();
  }

  /** Of tracker {@code i}. */
  public double x(int i) {
    return xyz[3 * i];
  }

  /** Of tracker {@code i}. */
  public double y(int i) {
    return xyz[3 * i + 1];
  }

  /** Of tracker {@code i}. */
  public double z(int i) {
    return xyz[3 * i + 2];
  }

  /**
   * Its trackers in blocks, in the space of the set's group. Gathered once, however often asked.
   */
  public PointBlocks blocks() {
    return points.blocks();
  }

  /** Of tracker {@code i}, in the space of the set's group; of the shot where that stands still. */
  public Vec3 position(int i) {
    return new Vec3(x(i), y(i), z(i));
  }

  /** Of tracker {@code i} at a frame, in the space of the shot. */
  public Vec3 position(int i, int frame) {
    return moves() ? group.get().at(frame).toWorld(position(i)) : position(i);
  }

  /** What it hangs in; a set in no group hangs in the shot. */
  public Optional<Group> group() {
    return group;
  }

  /** Whether its trackers move through the shot. */
  public boolean moves() {
    return motion != null;
  }

  /** Set to shot on every frame; null where it stands still. */
  PoseTrack motion() {
    return motion;
  }

  /** The same numbers in another group, or in none. */
  public TrackerSet inGroup(Optional<Group> other) {
    return new TrackerSet(name, names, points, marker, cloud, other);
  }

  /** In another space; what hangs in a group that moves goes along with it. */
  public TrackerSet under(Similarity s) {
    return moves()
        ? map(v -> v.times(s.scale())).inGroup(group.map(g -> g.under(s)))
        : new TrackerSet(name, names, points.under(s), marker, cloud, group);
  }

  /** Under frame numbers that are {@code by} higher. */
  public TrackerSet shifted(int by) {
    return moves() && by != 0 ? inGroup(group.map(g -> g.map(p -> p.shifted(by)))) : this;
  }

  /** A change of every point's own numbers. */
  public TrackerSet map(java.util.function.UnaryOperator<Vec3> change) {
    PackedPoints changed = new PackedPoints(PackedPoints.map(xyz, change));
    return new TrackerSet(name, names, changed, marker, cloud, group);
  }

  /** The group without some of its trackers. */
  public TrackerSet without(Set<String> gone) {
    List<String> stay = new ArrayList<>(names.size());
    double[] out = new double[xyz.length];
    for (int i = 0; i < names.size(); i++) {
      if (!gone.contains(names.get(i))) {
        System.arraycopy(xyz, 3 * i, out, 3 * stay.size(), 3);
        stay.add(names.get(i));
      }
    }
    return new TrackerSet(
        name,
        List.copyOf(stay),
        new PackedPoints(Arrays.copyOf(out, 3 * stay.size())),
        marker,
        cloud,
        group);
  }

  /** The same under another name. */
  public TrackerSet named(String other) {
    return new TrackerSet(other, names, points, marker, cloud, group);
  }

  /**
   * The same points under other names.
   *
   * @throws IllegalArgumentException when counts differ or a name repeats
   */
  public TrackerSet withNames(List<String> others) {
    TrackerSet t = of(name, others, xyz);
    return new TrackerSet(name, t.names, points, marker, cloud, group);
  }

  /**
   * Drawn as large as this by those who draw locators.
   *
   * @param size over zero; in metres, or in a dialect's unit where the set is in a dialect's space
   */
  public TrackerSet withMarker(double size) {
    return new TrackerSet(name, names, points, size, cloud, group);
  }

  /** Written as one cloud of points, or as a locator each, where a format has both. */
  public TrackerSet asCloud(boolean wanted) {
    return new TrackerSet(name, names, points, marker, wanted, group);
  }

  /** Whether it is to be written as one cloud of points. */
  public boolean isCloud() {
    return cloud;
  }

  /** Empty where a size that suits the scene will do. */
  public OptionalDouble marker() {
    return marker > 0 ? OptionalDouble.of(marker) : OptionalDouble.empty();
  }

  /** Middle of the bounding box; the origin when empty. */
  public Vec3 centre() {
    if (size() == 0) {
      return Vec3.ZERO;
    }
    double[] lo = {xyz[0], xyz[1], xyz[2]};
    double[] hi = lo.clone();
    for (int i = 3; i < xyz.length; i++) {
      lo[i % 3] = Math.min(lo[i % 3], xyz[i]);
      hi[i % 3] = Math.max(hi[i % 3], xyz[i]);
    }
    return new Vec3((lo[0] + hi[0]) / 2, (lo[1] + hi[1]) / 2, (lo[2] + hi[2]) / 2);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof TrackerSet t
        && name.equals(t.name)
        && names.equals(t.names)
        && marker == t.marker
        && cloud == t.cloud
        && group.equals(t.group)
        && Arrays.equals(xyz, t.xyz);
  }

  @Override
  public int hashCode() {
    return 31 * names.hashCode() + Arrays.hashCode(xyz);
  }

  /** Every tracker that stands still by its name; of two alike, the last. May be changed. */
  public static Map<String, Vec3> stillPositions(List<TrackerSet> sets) {
    Map<String, Vec3> out = new HashMap<>();
    for (TrackerSet t : sets) {
      if (t.moves()) {
        continue;
      }
      for (int i = 0; i < t.size(); i++) {
        out.put(t.names().get(i), t.position(i));
      }
    }
    return out;
  }
}
