package flarvo.format;

import flarvo.report.InputError;
import flarvo.scene.Group;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.function.Supplier;
import org.joml.Matrix4d;
import org.joml.Vector3d;

/** Places that a reader finds one by one, as sets; names that repeat are numbered. */
public final class TrackerCollector {

  /** Where a file has no group around its points. */
  private static final String SET = "trackers";

  /** Sizes that differ by less are one, as a share: some are kept as floats. */
  private static final double SAME = 1e-6;

  private record Key(String name, Optional<Group> group) {}

  private static final class Points {
    final List<String> names = new ArrayList<>();
    double[] xyz = new double[48];
  }

  private final String file;
  private final int most;
  private int count;
  private final FileNames unique = new FileNames();
  private final Map<FileGroups.Placement, Points> placed = new LinkedHashMap<>();
  private final Map<String, Double> sizes = new TreeMap<>();
  private final Vector3d v = new Vector3d();

  /**
   * @param limits of which {@code mostObjects} says how many places one scene may have
   */
  public TrackerCollector(String file, ReadLimits limits) {
    this.file = file;
    this.most = limits.mostObjects();
  }

  /**
   * A point of a node's own space.
   *
   * @param in what it hangs in
   * @param toGroup from the node's space to that of what it hangs in
   * @param place where it stands in the file, for errors
   * @throws InputError when a number is not finite, or there are too many
   */
  public void add(
      FileGroups.Placement in,
      String name,
      Matrix4d toGroup,
      double x,
      double y,
      double z,
      Supplier<String> place) {
    toGroup.transformPosition(x, y, z, v);
    if (!v.isFinite()) {
      throw new InputError(file, place.get(), "the position is not finite", "Request a new copy");
    }
    if (++count > most) {
      throw new InputError(
          file, place.get(), "it has more than " + most + " points", "Request a thinner set");
    }
    Points p = placed.computeIfAbsent(in, k -> new Points());
    int at = 3 * p.names.size();
    if (at == p.xyz.length) {
      p.xyz = Arrays.copyOf(p.xyz, 2 * at);
    }
    p.names.add(unique.unique(name));
    p.xyz[at] = v.x;
    p.xyz[at + 1] = v.y;
    p.xyz[at + 2] = v.z;
  }

  /**
   * How large the file draws a place.
   *
   * @param in what it hangs in
   * @param size in units of its node
   * @param world the node's place in the file's world, which may scale it
   */
  public void size(FileGroups.Placement in, double size, Matrix4d world) {
    double there = size * Math.cbrt(Math.abs(world.determinant3x3()));
    sizes.merge(setOf(in), there, (a, b) -> Math.abs(a - b) <= SAME * a ? a : Double.NaN);
  }

  /** By set, in units of the file's world; NaN for a set whose places are drawn differently. */
  public Map<String, Double> sizes() {
    return sizes;
  }

  private static String setOf(FileGroups.Placement in) {
    return in.name().isEmpty() ? SET : in.name();
  }

  /** In the order in which they were first met; sets of one name in one group are one. */
  public List<TrackerSet> sets() {
    Map<Key, List<Points>> byKey = new LinkedHashMap<>();
    placed.forEach(
        (in, points) ->
            byKey
                .computeIfAbsent(new Key(setOf(in), in.group()), k -> new ArrayList<>())
                .add(points));
    List<TrackerSet> out = new ArrayList<>();
    byKey.forEach((key, list) -> out.add(joined(key.name(), list).inGroup(key.group())));
    return out;
  }

  private static TrackerSet joined(String name, List<Points> list) {
    List<String> names = new ArrayList<>();
    list.forEach(p -> names.addAll(p.names));
    double[] xyz = new double[3 * names.size()];
    int at = 0;
    for (Points p : list) {
      System.arraycopy(p.xyz, 0, xyz, at, 3 * p.names.size());
      at += 3 * p.names.size();
    }
    return TrackerSet.of(name, names, xyz);
  }
}
