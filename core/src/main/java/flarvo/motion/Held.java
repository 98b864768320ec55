package flarvo.motion;

import flarvo.report.InputError;
import flarvo.scene.FrameRange;
import flarvo.scene.Group;
import flarvo.scene.Mesh;
import flarvo.scene.Pose;
import flarvo.scene.PoseTrack;
import flarvo.scene.Rotation;
import flarvo.scene.Shot;
import flarvo.scene.ShotCamera;
import flarvo.scene.TrackerSet;
import flarvo.scene.Vec3;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * What stands still: the camera, or a group that moved. Everything else takes over its motion, so
 * that the picture stays the same:
 *
 * <pre>
 *   T(f) = S(f) · P(f)⁻¹      on every pose and place
 * </pre>
 *
 * with P the pose of what is held and S where it stands ({@link Stand}). What stood still until
 * then hangs in a group that moves by T, one pose a frame.
 *
 * @param group that is held; empty for the first camera
 * @param into name of the group that moves then
 */
public record Held(Optional<String> group, Stand stand, String into) {

  /** How the group is called that takes over the camera's motion. */
  public static final String SCENE = "object";

  public Held {
    Objects.requireNonNull(group);
    Objects.requireNonNull(stand);
    if (group.isPresent() && stand instanceof Stand.As) {
      throw new IllegalArgumentException("a group cannot take a camera's place");
    }
    if (into.isBlank()) {
      throw new IllegalArgumentException("the group that moves needs a name");
    }
  }

  /** The camera at one of its poses; the scene moves as a group. */
  public static Held camera(int frame) {
    return camera(new Stand.Frame(frame));
  }

  /** The camera at a pose or as another one; the scene moves as a group. */
  public static Held camera(Stand at) {
    return new Held(Optional.empty(), at, SCENE);
  }

  /** A group that moved; the camera and all else move instead. */
  public static Held group(String name, int frame) {
    return group(name, new Stand.Frame(frame));
  }

  /** A group that moved, at a pose; the camera and all else move instead. */
  public static Held group(String name, Stand at) {
    return new Held(Optional.of(name), at, SCENE.equals(name) ? "scene" : SCENE);
  }

  /**
   * The same picture with it held.
   *
   * @throws InputError when the shot has no camera, no group of that name moves, or it is to stand
   *     where a camera is that is not there
   */
  public Shot of(Shot shot) {
    PoseTrack own = poses(shot);
    FrameRange frames = shot.frames();
    PoseTrack stands = stand.poses(shot, own);
    // Where camera and group have frames apart, the shot's count.
    PoseTrack all =
        PoseTrack.of(frames, f -> after(stands.at(f), inverse(own.at(own.frames().clamp(f)))));
    IntFunction<Pose> turn = f -> all.at(frames.clamp(f));
    Moved moved = new Moved(shot, turn, stands.at(frames.first()));
    List<ShotCamera> cameras = new ArrayList<>();
    for (ShotCamera c : shot.cameras()) {
      // To the last bit where it was: what differs in it counts as a motion for who reads the file.
      boolean held = group.isEmpty() && cameras.isEmpty();
      cameras.add(
          held
              ? c.withPoses(PoseTrack.of(c.frames(), f -> stands.at(frames.clamp(f))))
              : camera(c, turn));
    }
    return shot.withCameras(cameras)
        .withTrackers(shot.trackers().stream().map(moved::trackers).toList())
        .withMeshes(shot.meshes().stream().map(moved::mesh).toList());
  }

  /**
   * Looks whether all that it goes by is there.
   *
   * @throws InputError as {@link #of}
   */
  public void check(Shot shot) {
    stand.poses(shot, poses(shot));
  }

  private PoseTrack poses(Shot shot) {
    if (group.isEmpty()) {
      return shot.camera()
          .orElseThrow(() -> InputError.words("the shot has no camera to hold", "Add one first"))
          .poses();
    }
    return named(shot, group.get()).motion().orElseThrow();
  }

  /**
   * A group with a motion of its own.
   *
   * @throws InputError when no group of that name moves
   */
  static Group named(Shot shot, String name) {
    Map<String, Group> moving = moving(shot);
    Group g = moving.get(name);
    if (g == null) {
      throw InputError.words(
          "no group '" + name + "' moves",
          moving.isEmpty() ? "Nothing moves by itself" : "These do: " + names(moving));
    }
    return g;
  }

  private static String names(Map<String, Group> all) {
    return all.keySet().stream().sorted().collect(Collectors.joining(", "));
  }

  /** Groups with a motion of their own, by name. */
  public static Map<String, Group> moving(Shot shot) {
    Map<String, Group> out = new LinkedHashMap<>();
    Stream.concat(
            shot.trackers().stream().flatMap(t -> t.group().stream()),
            shot.meshes().stream().flatMap(m -> m.group().stream()))
        .flatMap(g -> g.path().stream())
        .filter(g -> g.motion().isPresent())
        .forEach(g -> out.putIfAbsent(g.name(), g));
    return out;
  }

  private static ShotCamera camera(ShotCamera c, IntFunction<Pose> turn) {
    return c.withPoses(PoseTrack.of(c.frames(), f -> after(turn.apply(f), c.poses().at(f))));
  }

  /** Everything that hangs in groups, with the motion taken over. */
  private final class Moved {
    private final Pose still;
    private final IntFunction<Pose> turn;
    private final Group root;
    private final Map<Group, Group> groups = new LinkedHashMap<>();

    Moved(Shot shot, IntFunction<Pose> turn, Pose still) {
      this.still = still;
      this.turn = turn;
      root = Group.moving(into, PoseTrack.of(shot.frames(), turn));
    }

    TrackerSet trackers(TrackerSet t) {
      return isHeld(t.group())
          ? t.map(p -> still.toWorld(p)).inGroup(t.group().flatMap(this::unmoved))
          : t.inGroup(Optional.of(t.group().map(this::moved).orElse(root)));
    }

    Mesh mesh(Mesh m) {
      return isHeld(m.group())
          ? m.map(p -> still.toWorld(p), v -> still.rotation().apply(v), false)
              .inGroup(m.group().flatMap(this::unmoved))
          : m.inGroup(Optional.of(m.group().map(this::moved).orElse(root)));
    }

    /** Whether the nearest motion above is the one that is held. */
    private boolean isHeld(Optional<Group> g) {
      Group at = g.orElse(null);
      while (at != null && at.motion().isEmpty()) {
        at = at.parent().orElse(null);
      }
      return at != null && group.isPresent() && at.name().equals(group.get());
    }

    /** The same tree without the motion that is held; groups above it move as before. */
    private Optional<Group> unmoved(Group g) {
      boolean nested =
          g.path().stream()
              .takeWhile(x -> !x.name().equals(group.orElseThrow()))
              .anyMatch(x -> x.motion().isPresent());
      if (nested) {
        return Optional.empty(); // in no group that moves, since it does not
      }
      Group out = null;
      for (Group x : g.path()) {
        boolean held = x.name().equals(group.orElseThrow());
        out = new Group(x.name(), Optional.ofNullable(out), held ? Optional.empty() : x.motion());
      }
      return Optional.ofNullable(out);
    }

    private Group moved(Group g) {
      return groups.computeIfAbsent(
          g,
          of -> {
            boolean moves = of.moves();
            // What stood still hangs in the new group; what moved has a motion of its own.
            Group out = moves ? null : root;
            for (Group x : of.path()) {
              out =
                  new Group(
                      x.name(),
                      Optional.ofNullable(out),
                      x.motion()
                          .filter(m -> !x.name().equals(group.orElse("")))
                          .map(m -> PoseTrack.of(m.frames(), f -> after(turn.apply(f), m.at(f)))));
            }
            return out;
          });
    }
  }

  /** First {@code b}, then {@code a}. */
  private static Pose after(Pose a, Pose b) {
    return new Pose(a.toWorld(b.position()), a.rotation().after(b.rotation()));
  }

  private static Pose inverse(Pose p) {
    Rotation r = p.rotation().inverse();
    Vec3 t = r.apply(p.position()).times(-1);
    return new Pose(t, r);
  }
}
