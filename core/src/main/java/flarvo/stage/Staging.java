package flarvo.stage;

import flarvo.level.Stated;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pose;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.Similarity;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;

/**
 * Everything that was built on the shot.
 *
 * @param light direction to the light, in solve space and of length one; empty for the usual one
 */
public record Staging(
    List<Stated> statements,
    List<Gauge> gauges,
    List<StandIn> standIns,
    List<Locator> locators,
    List<GivenDepth> depths,
    Optional<Vec3> light) {

  public static final Staging NONE =
      new Staging(List.of(), List.of(), List.of(), List.of(), List.of(), Optional.empty());

  /** Suffix of the name of a group whose trackers are directions and no places. */
  public static final String DIRECTIONS = " (directions only)";

  private static final String CORNERS = " corners";

  public Staging {
    statements = List.copyOf(statements);
    gauges = List.copyOf(gauges);
    standIns = List.copyOf(standIns);
    locators = List.copyOf(locators);
    depths = List.copyOf(depths);
  }

  public Staging withStatements(List<Stated> s) {
    return new Staging(s, gauges, standIns, locators, depths, light);
  }

  public Staging withGauges(List<Gauge> g) {
    return new Staging(statements, g, standIns, locators, depths, light);
  }

  public Staging withStandIns(List<StandIn> s) {
    return new Staging(statements, gauges, s, locators, depths, light);
  }

  public Staging withLocators(List<Locator> l) {
    return new Staging(statements, gauges, standIns, l, depths, light);
  }

  public Staging withDepths(List<GivenDepth> d) {
    return new Staging(statements, gauges, standIns, locators, d, light);
  }

  /** With the light from a direction in solve space. */
  public Staging withLight(Optional<Vec3> towards) {
    return new Staging(statements, gauges, standIns, locators, depths, towards);
  }

  /** With an element more, or in the place of the first that a test finds. */
  public static <T> List<T> with(List<T> list, Predicate<T> same, T element) {
    List<T> out = new ArrayList<>(list);
    for (int i = 0; i < out.size(); i++) {
      if (same.test(out.get(i))) {
        out.set(i, element);
        return out;
      }
    }
    out.add(element);
    return out;
  }

  /** Without the gauge or stand-in of that name. */
  public static <T> List<T> without(List<T> list, Predicate<T> gone) {
    return list.stream().filter(gone.negate()).toList();
  }

  /** The gauge of that name, if there is one. */
  public Optional<Gauge> gauge(String name) {
    return gauges.stream().filter(g -> g.name().equals(name)).findFirst();
  }

  /** The stand-in of that name, if there is one. */
  public Optional<StandIn> standIn(String name) {
    return standIns.stream().filter(s -> s.name().equals(name)).findFirst();
  }

  /** A name that nothing placed bears yet: the stem and a number. */
  public String freeName(String stem) {
    for (int i = 1; ; i++) {
      String n = stem + i;
      if (gauge(n).isEmpty()
          && standIn(n).isEmpty()
          && locators.stream().noneMatch(l -> l.name().equals(n))) {
        return n;
      }
    }
  }

  /** What stands on trackers stands where those are now. */
  public Staging following(Shot shot) {
    Map<String, Vec3> places = places(shot);
    return new Staging(
        statements,
        gauges.stream().map(g -> g.following(places)).toList(),
        standIns,
        locators.stream().map(l -> l.following(places)).toList(),
        depths,
        light);
  }

  /** Everything placed, carried into the space of another solve. Statements are about trackers. */
  public Staging moved(Similarity to) {
    return new Staging(
        statements,
        gauges.stream().map(g -> g.moved(to)).toList(),
        standIns.stream().map(s -> s.moved(to)).toList(),
        locators.stream().map(l -> l.moved(to)).toList(),
        depths.stream()
            .map(d -> new GivenDepth(d.tracker(), d.distance() * to.scale(), d.how()))
            .toList(),
        light.map(to.rotation()::apply));
  }

  static Map<String, Vec3> places(Shot shot) {
    return TrackerSet.stillPositions(shot.trackers());
  }

  /**
   * The shot as recipients get it: with locators and corners as groups of their own, stand-in
   * geometry as meshes, and, where depths were given, the trackers without one set apart.
   */
  public Shot applied(Shot shot) {
    boolean plain = standIns.isEmpty() && locators.isEmpty() && depths.isEmpty();
    if (plain && !TripodDepth.isTripod(shot)) {
      return shot;
    }
    Staging now = following(shot);
    List<TrackerSet> sets = new ArrayList<>(now.deepened(shot));
    Set<String> taken = new HashSet<>();
    sets.forEach(t -> taken.addAll(t.names()));
    Map<String, List<Locator>> groups = new LinkedHashMap<>();
    now.locators.forEach(l -> groups.computeIfAbsent(l.group(), k -> new ArrayList<>()).add(l));
    groups.forEach(
        (g, list) -> {
          double metres = list.stream().mapToDouble(Locator::metres).max().orElse(0.1);
          sets.add(set(g, list, taken).withMarker(metres));
        });
    List<Mesh> meshes = new ArrayList<>(shot.meshes());
    for (StandIn s : standIns) {
      meshes.add(s.mesh().inGroup(group(s)));
      if (s.corners()) {
        sets.add(corners(s, taken));
      }
    }
    return shot.withTrackers(sets).withMeshes(meshes);
  }

  private static Optional<Group> group(StandIn s) {
    return s.group().isEmpty() ? Optional.empty() : Optional.of(Group.still(s.group()));
  }

  private static TrackerSet set(String group, List<Locator> list, Set<String> taken) {
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * list.size()];
    for (int i = 0; i < list.size(); i++) {
      names.add(free(list.get(i).name(), taken));
      put(xyz, i, list.get(i).place());
    }
    return TrackerSet.of(group, names, xyz);
  }

  /** The corners of its first face in their order, and the middle. */
  private static TrackerSet corners(StandIn s, Set<String> taken) {
    List<Integer> face = s.faces().get(0);
    List<String> names = new ArrayList<>();
    double[] xyz = new double[3 * (face.size() + 1)];
    Vec3 sum = Vec3.ZERO;
    for (int i = 0; i < face.size(); i++) {
      Vec3 p = s.points().get(face.get(i));
      names.add(free(s.name() + "_corner" + (i + 1), taken));
      put(xyz, i, p);
      sum = sum.plus(p);
    }
    names.add(free(s.name() + "_centre", taken));
    put(xyz, face.size(), sum.times(1.0 / face.size()));
    return TrackerSet.of(s.name() + CORNERS, names, xyz);
  }

  private static void put(double[] xyz, int i, Vec3 v) {
    xyz[3 * i] = v.x();
    xyz[3 * i + 1] = v.y();
    xyz[3 * i + 2] = v.z();
  }

  private static String free(String name, Set<String> taken) {
    String n = name;
    for (int i = 2; !taken.add(n); i++) {
      n = name + "_" + i;
    }
    return n;
  }

  /** Trackers with a given distance stand there; in a tripod's shot the others are set apart. */
  private List<TrackerSet> deepened(Shot shot) {
    if (!TripodDepth.isTripod(shot)) {
      return shot.trackers();
    }
    ShotCamera c = shot.camera().orElseThrow();
    Pose pose = c.poses().at(c.frames().first());
    Map<String, GivenDepth> given = new HashMap<>();
    depths.forEach(d -> given.put(d.tracker(), d));
    List<TrackerSet> out = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      if (t.moves()) {
        out.add(t); // its own motion tells how far away it is
        continue;
      }
      List<String> known = new ArrayList<>();
      double[] xyz = new double[3 * t.size()];
      for (int i = 0; i < t.size(); i++) {
        GivenDepth d = given.get(t.names().get(i));
        if (d != null) {
          Vec3 ray = t.position(i).minus(pose.position());
          put(xyz, known.size(), pose.position().plus(ray.times(d.distance() / ray.length())));
          known.add(t.names().get(i));
        }
      }
      if (!known.isEmpty()) {
        out.add(TrackerSet.of(t.name(), known, java.util.Arrays.copyOf(xyz, 3 * known.size())));
      }
      TrackerSet rest = t.without(Set.copyOf(known));
      if (rest.size() > 0) {
        out.add(rest.named(t.name() + DIRECTIONS));
      }
    }
    return out;
  }
}
