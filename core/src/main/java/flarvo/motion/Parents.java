package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Shot;
import flarvo.scene.TrackerSet;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;

/**
 * What a delivery's nodes hang from. The picture is the same under any parent: whatever hangs from
 * it is written in its space.
 *
 * @param baked groups that move hang in no other group, so that their keys are of the world
 * @param cameraIn name of the group that moves and carries the first camera; empty for none
 * @param under everything hangs from this one
 */
public record Parents(boolean baked, Optional<String> cameraIn, Optional<Parent> under) {

  /** As the shot has them. */
  public static final Parents NONE = new Parents(false, Optional.empty(), Optional.empty());

  public Parents {
    Objects.requireNonNull(cameraIn);
    Objects.requireNonNull(under);
  }

  /** With groups baked to the world, or not. */
  public Parents baked(boolean wanted) {
    return new Parents(wanted, cameraIn, under);
  }

  /** With the camera in a group that moves. */
  public Parents withCameraIn(Optional<String> group) {
    return new Parents(baked, group, under);
  }

  /** With everything under another parent. */
  public Parents under(Optional<Parent> p) {
    return new Parents(baked, cameraIn, p);
  }

  /**
   * The shot with its tree of groups as it is to be. No place and no pose changes: those of a group
   * are of the world wherever it hangs.
   *
   * @throws InputError when the group that is to carry the camera does not move
   */
  public Shot of(Shot shot) {
    if (equals(NONE)) {
      return shot;
    }
    Shot s = baked ? flat(shot) : shot;
    if (cameraIn.isPresent()) {
      Held.named(s, cameraIn.get());
    }
    if (under.isEmpty()) {
      return s;
    }
    Group top = Group.still(under.get().name());
    return s.withTrackers(
            s.trackers().stream().map(t -> t.inGroup(Optional.of(below(t.group(), top)))).toList())
        .withMeshes(
            s.meshes().stream().map(m -> m.inGroup(Optional.of(below(m.group(), top)))).toList());
  }

  /**
   * What the first camera hangs in.
   *
   * @param shot as {@link #of} made it
   */
  public Optional<Group> ofCamera(Shot shot) {
    return cameraIn.map(g -> Held.named(shot, g)).or(() -> under.map(p -> Group.still(p.name())));
  }

  private static Group below(Optional<Group> group, Group top) {
    Group out = top;
    for (Group g : group.map(Group::path).orElse(List.of())) {
      out = new Group(g.name(), Optional.of(out), g.motion());
    }
    return out;
  }

  private static Shot flat(Shot shot) {
    Map<Group, Group> known = new LinkedHashMap<>();
    List<TrackerSet> trackers = new ArrayList<>();
    for (TrackerSet t : shot.trackers()) {
      trackers.add(t.moves() ? t.inGroup(t.group().map(g -> alone(g, known))) : t);
    }
    List<Mesh> meshes = new ArrayList<>();
    for (Mesh m : shot.meshes()) {
      meshes.add(m.moves() ? m.inGroup(m.group().map(g -> alone(g, known))) : m);
    }
    return shot.withTrackers(trackers).withMeshes(meshes);
  }

  /** The nearest group that moves, in no other. Two of one name get the names above before it. */
  private static Group alone(Group g, Map<Group, Group> known) {
    Group moving = g;
    while (moving.motion().isEmpty()) {
      moving = moving.parent().orElseThrow();
    }
    Group own = moving;
    return known.computeIfAbsent(
        own,
        k -> {
          boolean taken = known.values().stream().anyMatch(x -> x.name().equals(own.name()));
          String name =
              taken ? String.join("_", own.path().stream().map(Group::name).toList()) : own.name();
          return Group.moving(name, own.motion().orElseThrow());
        });
  }
}
