package flarvo.vet;

import flarvo.scene.Group;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * Trackers that belong together under a name, and how their dots look. A group whose name is that
 * of a set which came in a file says only how that set looks, and may add to it.
 *
 * @param tint one of {@link #TINTS} colours, from 0
 * @param members trackers that were put in it; those of a set that came need not be named
 */
public record TrackerGroup(String name, Dot dot, int tint, Set<String> members) {

  /** Shape of the dot where a tracker was seen: what colour says is said by shape too. */
  public enum Dot {
    DISC,
    SQUARE,
    WEDGE,
    KITE,
    BAR,
    POST;

    /** In files. */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /** Colours to choose from; the first is the plain one. */
  public static final int TINTS = 7;

  public TrackerGroup {
    if (name.isBlank()) {
      throw new IllegalArgumentException("a group needs a name");
    }
    if (tint < 0 || tint >= TINTS) {
      throw new IllegalArgumentException("there are " + TINTS + " tints, from 0, not " + tint);
    }
    members = Set.copyOf(members);
  }

  /** The same look over other trackers. */
  public TrackerGroup withMembers(Set<String> m) {
    return new TrackerGroup(name, dot, tint, m);
  }

  /** The sets with every group's members in a set of its own; a tracker is in one set only. */
  static List<TrackerSet> split(List<TrackerSet> sets, List<TrackerGroup> groups) {
    Map<String, String> groupOf = new HashMap<>();
    groups.forEach(g -> g.members().forEach(m -> groupOf.put(m, g.name())));
    if (groupOf.isEmpty()) {
      return sets;
    }
    Map<Key, List<String>> names = new LinkedHashMap<>();
    Map<Key, List<Double>> places = new HashMap<>();
    List<TrackerSet> out = new ArrayList<>();
    for (TrackerSet t : sets) {
      Set<String> gone = new HashSet<>();
      for (int i = 0; i < t.size(); i++) {
        String n = t.names().get(i);
        String g = groupOf.get(n);
        if (g != null && !g.equals(t.name())) {
          gone.add(n);
          Key key = new Key(g, t.group());
          names.computeIfAbsent(key, k -> new ArrayList<>()).add(n);
          List<Double> p = places.computeIfAbsent(key, k -> new ArrayList<>());
          p.add(t.x(i));
          p.add(t.y(i));
          p.add(t.z(i));
        }
      }
      out.add(gone.isEmpty() ? t : t.without(gone));
    }
    for (TrackerGroup g : groups) {
      names.forEach(
          (key, members) -> {
            if (key.name.equals(g.name())) {
              add(out, key, members, places.get(key));
            }
          });
    }
    return out;
  }

  /** A user's group whose members hang in several groups of the scene is a set in each. */
  private record Key(String name, Optional<Group> in) {}

  private static void add(List<TrackerSet> sets, Key key, List<String> names, List<Double> places) {
    for (int i = 0; i < sets.size(); i++) {
      TrackerSet t = sets.get(i);
      if (t.name().equals(key.name) && t.group().equals(key.in)) {
        List<String> all = new ArrayList<>(t.names());
        all.addAll(names);
        List<Double> xyz = new ArrayList<>();
        for (int k = 0; k < t.size(); k++) {
          xyz.addAll(List.of(t.x(k), t.y(k), t.z(k)));
        }
        xyz.addAll(places);
        sets.set(i, set(key, all, xyz));
        return;
      }
    }
    sets.add(set(key, names, places));
  }

  private static TrackerSet set(Key key, List<String> names, List<Double> places) {
    double[] xyz = places.stream().mapToDouble(Double::doubleValue).toArray();
    return TrackerSet.of(key.name, names, xyz).inGroup(key.in);
  }
}
