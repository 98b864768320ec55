package flarvo.proof;

import flarvo.dispatch.Contents;
import flarvo.dispatch.Part;
import flarvo.format.ShotCentre;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.TrackerSet;
import flarvo.scene.WorldShot;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/** The tree that trackers and meshes hang in; names are compared by their letters and digits. */
final class GroupCheck {

  private GroupCheck() {}

  /** Empty where all that was sent hangs in the shot itself. */
  static Optional<Check> of(
      WorldShot source, List<TrackerSet> trackers, List<Mesh> meshes, Contents contents) {
    Map<String, String> expected = new HashMap<>();
    Map<String, String> found = new HashMap<>();
    if (contents.has(Part.TRACKERS)) {
      putTrackers(source.trackers(), expected);
      putTrackers(trackers, found);
    }
    if (contents.hasMeshes()) {
      putMeshes(source.meshes(), expected);
      putMeshes(meshes, found);
    }
    if (expected.values().stream().allMatch(p -> p.equals("/"))) {
      return Optional.empty();
    }
    Optional<String> astray =
        expected.keySet().stream()
            .filter(n -> found.containsKey(n) && !found.get(n).equals(expected.get(n)))
            .min(Comparator.naturalOrder());
    return Optional.of(
        new Check(
            "groups",
            astray.isEmpty(),
            astray.map(n -> n + " in " + expected.get(n)).orElse("all in place"),
            astray.map(n -> "in " + found.get(n)).orElse("all in place")));
  }

  private static void putTrackers(List<TrackerSet> sets, Map<String, String> to) {
    for (TrackerSet t : sets) {
      String path = path(t.group());
      t.names().forEach(n -> to.putIfAbsent(n, path));
    }
  }

  private static void putMeshes(List<Mesh> meshes, Map<String, String> to) {
    meshes.forEach(m -> to.putIfAbsent("mesh " + m.name(), path(m.group())));
  }

  /** Names of a group and of those above it; what a writer put in for its own sake is none. */
  static String path(Optional<Group> group) {
    return group.map(Group::path).orElse(List.of()).stream()
        .filter(g -> g.moves() || !g.name().equals(ShotCentre.NODE))
        .map(g -> Checks.plain(g.name()))
        .collect(Collectors.joining("/", "/", ""));
  }
}
