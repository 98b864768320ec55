package flarvo.dispatch;

import flarvo.lens.LensTrack;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.Set;

/**
 * What deliveries are made from.
 *
 * @param shot in solve space, with everything that was built on it but the gauges
 * @param lens of the original plates; empty where none is known
 * @param gauges in solve space
 */
public record Outgoing(Shot shot, Optional<LensTrack> lens, List<Mesh> gauges) {

  public Outgoing {
    gauges = List.copyOf(gauges);
  }

  /** A shot without gauges. */
  public Outgoing(Shot shot, Optional<LensTrack> lens) {
    this(shot, lens, List.of());
  }

  /** A shot of whose lens nothing is known. */
  public static Outgoing of(Shot shot) {
    return new Outgoing(shot, Optional.empty());
  }

  /**
   * The shot as a delivery of these contents has it, with the meshes that go along and without the
   * tracker groups that are left out. Trackers stay where they are no part: a camera is measured on
   * them.
   */
  public Shot shot(Contents c) {
    List<Mesh> meshes = new ArrayList<>();
    if (c.has(Part.GEOMETRY)) {
      meshes.addAll(shot.meshes());
    }
    if (c.has(Part.GAUGES)) {
      meshes.addAll(gauges);
    }
    Set<String> off = c.leftOut();
    meshes.removeIf(m -> off.contains(m.name()) || within(m.group(), off));
    List<TrackerSet> trackers =
        shot.trackers().stream()
            .filter(t -> !off.contains(t.name()) && !within(t.group(), off))
            .map(t -> drawn(t.asCloud(c.clouds().contains(t.name())), c.locatorMetres()))
            .toList();
    return shot.withTrackers(trackers).withMeshes(meshes);
  }

  private static TrackerSet drawn(TrackerSet t, OptionalDouble metres) {
    return metres.isPresent() && t.marker().isEmpty() ? t.withMarker(metres.getAsDouble()) : t;
  }

  private static boolean within(Optional<Group> group, Set<String> names) {
    return group.isPresent()
        && group.get().path().stream().map(Group::name).anyMatch(names::contains);
  }

  /** What can be left out of a delivery by name: tracker groups, meshes and what they hang in. */
  public List<String> names(Contents c) {
    Shot all = shot(c.leavingOut(Set.of()));
    List<String> out = new ArrayList<>();
    if (c.has(Part.TRACKERS)) {
      all.trackers().forEach(t -> out.add(t.name()));
    }
    all.meshes().forEach(m -> out.add(m.name()));
    return out.stream().distinct().toList();
  }
}
